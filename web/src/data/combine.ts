import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, idempotencyKey, take, type View } from '../api/client'

export type MadeBy = View<'CombinationView'>
export type Preview = View<'CombineView'>
export type Figure = { how: string; column?: string; value?: string; by?: string }
export type Combination =
  | { kind: 'look up'; key: string; otherKey: string; columns: string[] }
  | { kind: 'gather'; key: string; figures: Figure[] }
  | { kind: 'draw'; records: number; seed: number }

type Wanted = { tableId: number; otherId: number | null; combination: Combination; name?: string }

export function useCombinations(studyId: number) {
  return useQuery({
    queryKey: ['combinations', studyId],
    queryFn: () => take<MadeBy[]>(api.GET('/api/studies/{id}/combinations', { params: { path: { id: String(studyId) } } })),
  })
}

/** What following a combination would cost. */
export function useLook(studyId: number) {
  return useMutation({
    mutationFn: (wanted: Wanted) =>
      take<unknown>(
        api.POST('/api/studies/{id}/combinations', {
          params: { path: { id: String(studyId) } },
          body: { ...wanted, name: '', preview: true },
        }),
      ) as Promise<Preview>,
  })
}

export function useCombine(studyId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (wanted: Wanted) =>
      take<unknown>(
        api.POST('/api/studies/{id}/combinations', {
          params: { path: { id: String(studyId) } },
          body: { ...wanted, name: wanted.name ?? '', preview: false },
          headers: { 'Idempotency-Key': idempotencyKey() },
        }),
      ) as Promise<View<'JobView'>>,
    onSuccess: () =>
      queries.invalidateQueries({ predicate: (q) => ['jobs', 'tables', 'study', 'combinations'].includes(String(q.queryKey[0])) }),
  })
}

/** The combination a table was made by, followed with another one's records. */
export function useFollow() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ made, tableId, name }: { made: number; tableId: number; name: string }) =>
      take<unknown>(
        api.POST('/api/tables/{id}/follow', { params: { path: { id: String(made) } }, body: { tableId, name, preview: false } }),
      ) as Promise<View<'JobView'>>,
    onSuccess: () =>
      queries.invalidateQueries({ predicate: (q) => ['jobs', 'tables', 'study', 'combinations'].includes(String(q.queryKey[0])) }),
  })
}
