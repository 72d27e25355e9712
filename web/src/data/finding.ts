import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, take, type View, whenReady } from '../api/client'

export type Finding = View<'FindingView'>
export type Remedy = View<'RemedyView'>
export type Rule = View<'RuleView'>
export type Relation = View<'RelationView'>

export function useFindings(tableId: number | null | undefined, enabled = true) {
  return useQuery({
    queryKey: ['findings', tableId],
    enabled: tableId != null && enabled,
    ...whenReady,
    queryFn: () => take<View<'FindingsView'>>(api.GET('/api/tables/{id}/findings', { params: { path: { id: String(tableId) } } })),
  })
}

/** What the columns of a table say about one of them. */
export function useGoesWith(tableId: number | null, column: string | null) {
  return useQuery({
    queryKey: ['goes-with', tableId, column],
    enabled: tableId !== null && column !== null,
    ...whenReady,
    queryFn: () =>
      take<View<'FindingsView'>>(
        api.GET('/api/tables/{id}/goes-with', { params: { path: { id: String(tableId) }, query: { column: column ?? '' } } }),
      ),
  })
}

export function useSettle(tableId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: { key: string; reason: string | null }) =>
      take<View<'FindingsView'>>(api.POST('/api/tables/{id}/findings/settle', { params: { path: { id: String(tableId) } }, body })),
    onSuccess: (found) => {
      queries.setQueryData(['findings', tableId], found)
      void queries.invalidateQueries({ queryKey: ['logbook'] })
    },
  })
}

export type Threshold = View<'ThresholdView'>

export function useThresholds(studyId: number) {
  return useQuery({
    queryKey: ['thresholds', studyId],
    queryFn: () => take<Threshold[]>(api.GET('/api/studies/{id}/thresholds', { params: { path: { id: String(studyId) } } })),
  })
}

export function useChangeThresholds(studyId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (values: Record<string, number>) =>
      take<Threshold[]>(api.PUT('/api/studies/{id}/thresholds', { params: { path: { id: String(studyId) } }, body: { values } })),
    onSuccess: () => queries.invalidateQueries({ predicate: (q) => ['thresholds', 'findings', 'logbook'].includes(String(q.queryKey[0])) }),
  })
}

/** Those still open, about one column when it is named. */
export const open = (findings: Finding[], column?: string) =>
  findings.filter((f) => !f.dismissed && (column === undefined || f.columns.includes(column)))

export const tone = (severity: string) => ({ high: 'cinn', medium: 'brass' })[severity] ?? 'soft'
