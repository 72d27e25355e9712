import { useQuery } from '@tanstack/react-query'
import { api, errorOf, take, type View } from '../api/client'

export type Session = View<'SessionView'>

export function useSession() {
  return useQuery({ queryKey: ['session'], queryFn: () => take<Session>(api.GET('/api/session')), retry: false, staleTime: Infinity })
}

export function useSetup() {
  return useQuery({ queryKey: ['setup'], queryFn: () => take<View<'SetupView'>>(api.GET('/api/setup')), staleTime: Infinity })
}

/** @param code of the second step; empty where none was asked for */
export function signIn(login: string, password: string, stay: boolean, code: string): Promise<Session> {
  return take(api.POST('/api/sign-in', { body: { login, password, _remember_me: stay, ...(code === '' ? {} : { code }) } }))
}

export function setUp(body: View<'SetupRequest'>): Promise<Session> {
  return take(api.POST('/api/setup', { body }))
}

export function acceptInvitation(body: View<'SetupRequest'>): Promise<Session> {
  return take(api.POST('/api/setup/invited', { body }))
}

export async function signOut(): Promise<void> {
  const response = await fetch('/api/session/end', { method: 'POST', redirect: 'manual' })
  if (response.type !== 'opaqueredirect' && !response.ok) throw errorOf(response.status, null)
}
