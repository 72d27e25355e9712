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
    refetchInterval: (query) => (query.state.data?.distances.some((d) => d.pending) ? 2000 : false),
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
