import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, idempotencyKey, take, type View } from '../api/client'

export type Trial = View<'TrialView'>
export type Standings = View<'StandingsView'>
export type Distance = View<'DistanceView'>

export function useStandings(studyId: number) {
  return useQuery({
    queryKey: ['standings', studyId],
    queryFn: () => take<Standings>(api.GET('/api/studies/{id}/trials', { params: { path: { id: String(studyId) } } })),
    // What is still to be compared comes in as it is worked out.
    refetchInterval: (query) => (query.state.data?.finalists.pending || query.state.data?.distances.some((d) => d.pending) ? 2000 : false),
  })
}

export function useForecasts(studyId: number) {
  return useQuery({
    queryKey: ['standings', studyId, 'forecasts'],
    queryFn: () => take<View<'ForecastView'>[]>(api.GET('/api/studies/{id}/forecasts', { params: { path: { id: String(studyId) } } })),
  })
}

export type Learner = View<'AboutLearner'>

export function useLearners() {
  return useQuery({
    queryKey: ['learners'],
    queryFn: () => take<Learner[]>(api.GET('/api/learners')),
    staleTime: Infinity,
  })
}

export function useStartTrial(studyId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: View<'TrialRequest'>) =>
      take<View<'JobView'>>(
        api.POST('/api/studies/{id}/trials', {
          params: { path: { id: String(studyId) } },
          body,
          headers: { 'Idempotency-Key': idempotencyKey() },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ predicate: (q) => ['jobs', 'standings', 'study'].includes(String(q.queryKey[0])) }),
  })
}

export function useStartSeveral(studyId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: View<'SeveralRequest'>) =>
      take<View<'JobView'>[]>(
        api.POST('/api/studies/{id}/trials/several', {
          params: { path: { id: String(studyId) } },
          body,
          headers: { 'Idempotency-Key': idempotencyKey() },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ predicate: (q) => ['jobs', 'standings', 'study'].includes(String(q.queryKey[0])) }),
  })
}

/** Trials that answer together. */
export function useBlend(studyId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: View<'BlendRequest'>) =>
      take<View<'JobView'>>(api.POST('/api/studies/{id}/blends', { params: { path: { id: String(studyId) } }, body })),
    onSuccess: () => queries.invalidateQueries({ predicate: (q) => ['jobs', 'standings', 'study'].includes(String(q.queryKey[0])) }),
  })
}

/** The figure that ranks: the Standings come back in their new order. */
export function useRankBy(studyId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (figure: string) =>
      take<Standings>(api.PUT('/api/studies/{id}/figure', { params: { path: { id: String(studyId) } }, body: { figure } })),
    onSuccess: (standings) => {
      queries.setQueryData(['standings', studyId], standings)
      void queries.invalidateQueries({
        predicate: (q) => ['study', 'studies', 'judgment', 'against', 'logbook'].includes(String(q.queryKey[0])),
      })
    },
  })
}

/** A note beside a trial, and whether it is out of sight. */
export function useRemark(studyId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ id, note, hidden }: { id: number; note: string; hidden: boolean }) =>
      take<Trial>(api.PUT('/api/trials/{id}/remark', { params: { path: { id: String(id) } }, body: { note, hidden } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['standings', studyId] }),
  })
}

export type ColumnChoice = { names: string[]; without: boolean }

/** The columns that a preparation offers to trials. */
export function useOffered(variantId: number | undefined) {
  return useQuery({
    queryKey: ['preparation', 'offered', variantId],
    enabled: variantId !== undefined,
    queryFn: () => take<View<'OfferedView'>[]>(api.GET('/api/variants/{id}/offered', { params: { path: { id: String(variantId) } } })),
  })
}

export function useChoices(studyId: number) {
  return useQuery({
    queryKey: ['choices', studyId],
    queryFn: () => take<View<'ChoiceView'>[]>(api.GET('/api/studies/{id}/choices', { params: { path: { id: String(studyId) } } })),
  })
}

export function useKeepChoice(studyId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: View<'ChoiceRequest'>) =>
      take<View<'ChoiceView'>>(api.POST('/api/studies/{id}/choices', { params: { path: { id: String(studyId) } }, body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['choices', studyId] }),
  })
}

export function useChooseFinalists(studyId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: View<'FinalistsRequest'>) =>
      take<Standings>(api.PUT('/api/studies/{id}/finalists', { params: { path: { id: String(studyId) } }, body })),
    onSuccess: (standings) => {
      queries.setQueryData(['standings', studyId], standings)
      void queries.invalidateQueries({ predicate: (q) => ['logbook', 'study'].includes(String(q.queryKey[0])) })
    },
  })
}

export function useCurve(trialId: number) {
  return useQuery({
    queryKey: ['curve', trialId],
    queryFn: () => take<View<'CurveView'>>(api.GET('/api/trials/{id}/curve', { params: { path: { id: String(trialId) } } })),
    refetchInterval: (query) => (query.state.data?.jobId != null ? 1500 : false),
  })
}

export function useDrawCurve(trialId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () =>
      take<View<'JobView'>>(
        api.POST('/api/trials/{id}/curve', { params: { path: { id: String(trialId) } }, headers: { 'Idempotency-Key': idempotencyKey() } }),
      ),
    onSuccess: () => queries.invalidateQueries({ predicate: (q) => ['curve', 'jobs'].includes(String(q.queryKey[0])) }),
  })
}

/** The same trial without some columns. */
export function useReduce(trialId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (columns: string[]) =>
      take<View<'JobView'>>(
        api.POST('/api/trials/{id}/reduce', {
          params: { path: { id: String(trialId) } },
          body: { columns },
          headers: { 'Idempotency-Key': idempotencyKey() },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ predicate: (q) => ['jobs', 'standings', 'study'].includes(String(q.queryKey[0])) }),
  })
}
