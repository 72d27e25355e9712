import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, idempotencyKey, take, type View } from '../api/client'

export type Match = View<'MatchView'>
export type Scoring = View<'ScoringView'>
export type Which = 'all' | 'called' | 'left' | 'unscored' | 'low'

export function useMatch(studyId: number, trialId: number | null, tableId: number | null, matching: Record<string, string>) {
  return useQuery({
    queryKey: ['match', studyId, trialId, tableId, matching],
    enabled: trialId !== null && tableId !== null,
    queryFn: () =>
      take<Match>(
        api.POST('/api/studies/{id}/match', {
          params: { path: { id: String(studyId) } },
          body: { trialId: trialId ?? 0, tableId: tableId ?? 0, matching, cutoff: 0.5, answers: {} },
        }),
      ),
    placeholderData: (before) => before,
    retry: false,
  })
}

export function useStartScoring(studyId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: View<'MatchRequest'>) =>
      take<View<'JobView'>>(
        api.POST('/api/studies/{id}/scorings', {
          params: { path: { id: String(studyId) } },
          body,
          headers: { 'Idempotency-Key': idempotencyKey() },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ predicate: (q) => ['jobs', 'study'].includes(String(q.queryKey[0])) }),
  })
}

export function useScoring(id: number | null) {
  return useQuery({
    queryKey: ['scoring', id],
    enabled: id !== null,
    queryFn: () => take<Scoring>(api.GET('/api/scorings/{id}', { params: { path: { id: String(id) } } })),
    refetchInterval: (q) => (q.state.data?.state === 'waiting' ? 600 : false),
  })
}

/** Why the records of the list have their answers, as far as a worker has looked. */
export function useBecause(id: number, enabled: boolean) {
  return useQuery({
    queryKey: ['scored', id, 'because'],
    enabled,
    queryFn: () => take<View<'BecauseView'>>(api.GET('/api/scorings/{id}/because', { params: { path: { id: String(id) } } })),
    refetchInterval: (q) => (q.state.data?.jobId != null ? 1500 : false),
  })
}

export function useAskWhy(id: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () => take<View<'JobView'>>(api.POST('/api/scorings/{id}/because', { params: { path: { id: String(id) } } })),
    onSuccess: () => queries.invalidateQueries({ predicate: (q) => q.queryKey[0] === 'jobs' || q.queryKey[2] === 'because' }),
  })
}

/** Which single change would help most of the list. */
export function useHelpsMost(id: number) {
  return useMutation({
    mutationFn: (body: View<'GroupRequest'>) =>
      take<View<'HelpsView'>>(api.POST('/api/scorings/{id}/group', { params: { path: { id: String(id) } }, body })),
  })
}

/** Has a worker make the scored records a table of the study. */
export function useKeepScored(id: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: View<'KeepRequest'>) =>
      take<View<'JobView'>>(
        api.POST('/api/scorings/{id}/table', {
          params: { path: { id: String(id) } },
          body,
          headers: { 'Idempotency-Key': idempotencyKey() },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ predicate: (q) => ['jobs', 'study', 'tables'].includes(String(q.queryKey[0])) }),
  })
}

/** The batches of a study, newest first. */
export function useBatches(studyId: number, enabled: boolean) {
  return useQuery({
    queryKey: ['scorings', studyId],
    enabled,
    queryFn: () => take<Scoring[]>(api.GET('/api/studies/{id}/scorings', { params: { path: { id: String(studyId) } } })),
  })
}

/** Two batches over the same records. */
export function useBeside(id: number, other: number | null) {
  return useQuery({
    queryKey: ['scored', id, 'beside', other],
    enabled: other !== null,
    queryFn: () =>
      take<View<'BesideView'>>(
        api.GET('/api/scorings/{id}/beside', { params: { path: { id: String(id) }, query: { other: other ?? 0 } } }),
      ),
  })
}

export function useRoutines(studyId: number) {
  return useQuery({
    queryKey: ['routines', studyId],
    queryFn: () => take<View<'RoutineView'>[]>(api.GET('/api/studies/{id}/routines', { params: { path: { id: String(studyId) } } })),
    refetchInterval: (q) => (q.state.data?.some((r) => r.jobId != null) ? 1500 : false),
  })
}

export function useMakeRoutine(studyId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: View<'RoutineRequest'>) =>
      take<View<'RoutineView'>>(api.POST('/api/studies/{id}/routines', { params: { path: { id: String(studyId) } }, body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['routines', studyId] }),
  })
}

/** Has a worker do a routine once more, or keeps it no longer. */
export function useRoutine(studyId: number) {
  const queries = useQueryClient()
  const again = () => queries.invalidateQueries({ predicate: (q) => ['routines', 'jobs'].includes(String(q.queryKey[0])) })
  return {
    run: useMutation({
      mutationFn: (id: number) => take<View<'JobView'>>(api.POST('/api/routines/{id}/run', { params: { path: { id: String(id) } } })),
      onSuccess: again,
    }),
    remove: useMutation({
      mutationFn: async (id: number) => {
        await take(api.DELETE('/api/routines/{id}', { params: { path: { id: String(id) } } }))
      },
      onSuccess: () => queries.invalidateQueries({ queryKey: ['routines', studyId] }),
    }),
  }
}

export type RowsQuery = {
  which: Which
  sort: string
  descending: boolean
  search: string
  carry: string[]
  of: string | null
  band: [number, number] | null
  where: string | null
  any: boolean
}

export function useScoredRows(id: number, query: RowsQuery, enabled: boolean) {
  return useQuery({
    queryKey: ['scored', id, query],
    enabled,
    queryFn: async () => {
      const q = new URLSearchParams({
        which: query.which,
        sort: query.sort,
        descending: query.descending ? '1' : '0',
        search: query.search,
        limit: '200',
      })
      if (query.of !== null) q.set('class', query.of)
      if (query.band) {
        q.set('low', String(query.band[0]))
        q.set('high', String(query.band[1]))
      }
      if (query.where) q.set('where', query.where)
      if (query.any) q.set('any', '1')
      for (const c of query.carry) q.append('carry[]', c)
      const response = await fetch(`/api/scorings/${id}/rows?${q}`)
      return take<View<'ScoredRowsView'>>(
        Promise.resolve(
          response.ok ? { data: (await response.json()) as View<'ScoredRowsView'>, response } : { error: await response.json(), response },
        ),
      )
    },
    placeholderData: (before) => before,
  })
}

export function fileUrl(id: number, carry: string[], full = false, sure = false): string {
  const q = new URLSearchParams({ ...(full ? { full: '1' } : {}), ...(sure ? { sure: '1' } : {}) })
  for (const c of carry) q.append('carry[]', c)
  return `/api/scorings/${id}/file?${q}`
}
