import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, take, type View } from '../api/client'

export type Connection = View<'ConnectionView'>

export function useConnections() {
  return useQuery({ queryKey: ['connections'], queryFn: () => take<View<'ConnectionsView'>>(api.GET('/api/connections')) })
}

export function useAddConnection() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: View<'ConnectionRequest'>) => take<Connection>(api.POST('/api/connections', { body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['connections'] }),
  })
}

export function useForgetConnection() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (id: number) => take<null>(api.DELETE('/api/connections/{id}', { params: { path: { id: String(id) } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['connections'] }),
  })
}

/** Puts the database where an upload would lie; answers with the upload. */
export function useReadFrom() {
  return useMutation({
    mutationFn: (id: number) =>
      take<View<'UploadView'>>(api.POST('/api/connections/{id}/upload', { params: { path: { id: String(id) } } })),
  })
}

/** The query that draws a sample in the database. */
export function useDrawSample() {
  return useMutation({
    mutationFn: (body: View<'SampleRequest'>) => take<View<'SampleView'>>(api.POST('/api/connections/sample', { body })),
  })
}
