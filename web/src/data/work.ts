import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, take, type View } from '../api/client'

export type Approval = View<'ApprovalView'>
export type Service = View<'ServiceView'>
export type Tried = View<'TriedView'>
export type Cell = string | number | boolean | null

const id = (n: number) => ({ params: { path: { id: String(n) } } })

export function useApprovals(studyId: number) {
  return useQuery({
    queryKey: ['approvals', studyId],
    queryFn: () => take<Approval[]>(api.GET('/api/studies/{id}/approvals', id(studyId))),
  })
}

/** Whether nobody has approved a trial for use: what it answers is a draft. */
export const isDraft = (approvals: Approval[] | undefined, trialNumber: number | undefined): boolean =>
  !(approvals ?? []).some((a) => a.withdrawn == null && a.trialNumber === trialNumber)

export function useServices(studyId: number) {
  return useQuery({
    queryKey: ['services', studyId],
    queryFn: () => take<Service[]>(api.GET('/api/studies/{id}/services', id(studyId))),
    refetchInterval: 15_000,
  })
}

/** What a person does with approvals and services; all of it is told anew afterwards. */
export function useWork(studyId: number) {
  const queries = useQueryClient()
  const onSuccess = () =>
    queries.invalidateQueries({ predicate: (q) => ['approvals', 'services', 'takeAway', 'scoring'].includes(String(q.queryKey[0])) })
  return {
    approve: useMutation({
      mutationFn: ({ trialId, body }: { trialId: number; body: View<'ApprovalRequest'> }) =>
        take<Approval>(api.POST('/api/trials/{id}/approvals', { ...id(trialId), body })),
      onSuccess,
    }),
    withdraw: useMutation({
      mutationFn: ({ approvalId, why }: { approvalId: number; why: string }) =>
        take<Approval>(api.POST('/api/approvals/{id}/withdraw', { ...id(approvalId), body: { why } })),
      onSuccess,
    }),
    open: useMutation({
      mutationFn: (body: View<'ServiceRequest'>) => take<Service>(api.POST('/api/studies/{id}/services', { ...id(studyId), body })),
      onSuccess,
    }),
    change: useMutation({
      mutationFn: ({ serviceId, body }: { serviceId: number; body: View<'SwitchRequest'> }) =>
        take<Service>(api.PATCH('/api/services/{id}', { ...id(serviceId), body })),
      onSuccess,
    }),
    token: useMutation({
      mutationFn: ({ serviceId, body }: { serviceId: number; body: View<'TokenRequest'> }) =>
        take<View<'MadeTokenView'>>(api.POST('/api/services/{id}/tokens', { ...id(serviceId), body })),
      onSuccess,
    }),
    revoke: useMutation({
      mutationFn: ({ serviceId, token }: { serviceId: number; token: number }) =>
        take<Service>(
          api.DELETE('/api/services/{id}/tokens/{token}', { params: { path: { id: String(serviceId), token: String(token) } } }),
        ),
      onSuccess,
    }),
  }
}

export function useTry(serviceId: number) {
  return useMutation({
    mutationFn: ({ record, versions }: { record: Record<string, Cell>; versions: number[] }) =>
      take<Tried[]>(api.POST('/api/services/{id}/try', { ...id(serviceId), body: { record: record as never, versions } })),
  })
}

/** Any record of the study, to fill the form with. */
export function useRecord(serviceId: number) {
  return useMutation({
    mutationFn: (number: number) =>
      take<Record<string, Cell>>(
        api.GET('/api/services/{id}/records/{number}', { params: { path: { id: String(serviceId), number: String(number) } } }) as never,
      ),
  })
}

export function useTakeAway(trialId: number | null) {
  return useQuery({
    queryKey: ['takeAway', trialId],
    enabled: trialId !== null,
    queryFn: () => take<View<'TakeAwayView'>>(api.GET('/api/trials/{id}/take-away', id(trialId ?? 0))),
  })
}

export function useTake(trialId: number | null) {
  const queries = useQueryClient()
  return {
    take: useMutation({
      mutationFn: (body: View<'TakeAwayRequest'>) =>
        take<View<'TakenView'>>(api.POST('/api/trials/{id}/take-away', { ...id(trialId ?? 0), body })),
      onSuccess: () => queries.invalidateQueries({ queryKey: ['takeAway', trialId] }),
    }),
    inside: useMutation({
      mutationFn: (body: View<'InsideRequest'>) =>
        take<View<'JobView'>>(api.POST('/api/trials/{id}/inside', { ...id(trialId ?? 0), body })),
      onSuccess: () => queries.invalidateQueries({ predicate: (q) => ['takeAway', 'jobs'].includes(String(q.queryKey[0])) }),
    }),
  }
}
