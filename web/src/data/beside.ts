import { useQuery } from '@tanstack/react-query'
import { api, take, type View } from '../api/client'

export type SideBySide = View<'SideBySideView'>

/** Trials side by side, the first being what the others are held against. */
export function useBeside(studyId: number, trials: number[], at: number | null) {
  return useQuery({
    queryKey: ['beside', studyId, trials, at],
    enabled: trials.length > 1,
    queryFn: () =>
      take<SideBySide>(
        api.GET('/api/studies/{id}/trials/beside', {
          params: { path: { id: String(studyId) }, query: { trials: trials.join(','), ...(at === null ? {} : { at }) } },
        }),
      ),
    placeholderData: (before) => before,
    retry: false,
  })
}

/** The records of one part: one 1 or 0 for each trial; '' for all that they part on. */
export function useParted(studyId: number, trials: number[], at: number | null, called: string | null) {
  return useQuery({
    queryKey: ['beside', studyId, trials, at, 'records', called],
    enabled: called !== null && trials.length > 1,
    queryFn: () =>
      take<View<'RecordsBesideView'>>(
        api.GET('/api/studies/{id}/trials/beside/records', {
          params: {
            path: { id: String(studyId) },
            query: { trials: trials.join(','), called: called ?? '', limit: 100, ...(at === null ? {} : { at }) },
          },
        }),
      ),
    placeholderData: (before) => before,
  })
}
