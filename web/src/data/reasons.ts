import { number, share } from '../ui/format'
import { useQuery } from '@tanstack/react-query'
import { api, take, type View } from '../api/client'

export type Reasons = View<'ReasonsView'>

/** Reasons for a record of the study's own table, or of a batch. */
export function useReasons(source: { trialId: number } | { scoringId: number } | null, number: number) {
  return useQuery({
    queryKey: ['reasons', source, number],
    enabled: source !== null,
    queryFn: () =>
      source && 'scoringId' in source
        ? take<Reasons>(
            api.GET('/api/scorings/{id}/reasons/{number}', { params: { path: { id: String(source.scoringId), number: String(number) } } }),
          )
        : take<Reasons>(
            api.GET('/api/trials/{id}/reasons/{number}', { params: { path: { id: String(source?.trialId), number: String(number) } } }),
          ),
    placeholderData: (before) => before,
    retry: false,
  })
}

export type TreeOf = View<'TreeView'>
export type Leaf = View<'TreeLeaf'>
export type Branch = View<'TreeBranch'>

export function useTree(trialId: number | null) {
  return useQuery({
    queryKey: ['tree', trialId],
    enabled: trialId !== null,
    queryFn: () => take<TreeOf>(api.GET('/api/trials/{id}/tree', { params: { path: { id: String(trialId) } } })),
  })
}

/** A share in percent, or a mean, as a leaf has it. */
export function valueOf(task: string, value: number | null | undefined, digits = 1): string {
  return task === 'number' ? number(value, 3) : share(value, digits)
}
