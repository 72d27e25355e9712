import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, take, type View } from '../api/client'

export interface Bounds {
  value: number | null
  low: number | null
  high: number | null
}

export interface FigureLine {
  key: string
  name: string
  title: string
  then: Bounds
  now: Bounds
  difference: Bounds | null
  p: number | null
  decides: boolean
  says: string
  baseline: number | null
  more: boolean
  share: boolean
  units: boolean
}

interface Promised {
  then: Bounds
  now: Bounds
  change: Bounds
  p: number | null
}

export interface Moved {
  column: string
  drift: {
    kind: string
    psi: number
    p: number | null
    ks_d?: number | null
    mean_training?: number
    mean_newer?: number
    unseen_levels?: string[]
    psi_bins: { bin: string; training: number; newer: number; part: number }[]
    missing_share_difference: number | null
    missing_training: number
    missing_newer: number
  }
  holm: number | null
  points: number
  moved: number
}

export interface Slice {
  label: string
  rows: number
  figure: Bounds
  promised: number | null
  came: Bounds
}

/** What a recheck tells: docs/methods/recheck.md. */
export interface Told {
  verdict: string
  reasons: string[]
  figures: FigureLine[]
  promise: Promised | null
  visible: number | null
  matters: number | null
  rows_then: number
  rows_now: number
  examined: string
  answered: number
  outcomes: number
  calibration: { then: Group[]; now: Group[] }
  columns: Moved[]
  periods: Slice[]
  groups: { by: string; groups: Slice[] }[]
  remedies: { key: string; figure: Bounds; promise: Promised | null }[]
  figure: string
  event: string | null
  answers: { then: number[]; now: number[] }
}

export interface Group {
  chance: number
  rows: number
  came: Bounds
}

export type Recheck = Omit<View<'RecheckView'>, 'told'> & { told: Told }

const id = (n: number) => ({ params: { path: { id: String(n) } } })

export function useRechecks(studyId: number) {
  return useQuery({
    queryKey: ['rechecks', studyId],
    queryFn: () => take<Recheck[]>(api.GET('/api/studies/{id}/rechecks', id(studyId)) as never),
  })
}

export function useRecheck() {
  const queries = useQueryClient()
  const onSuccess = () => queries.invalidateQueries({ predicate: (q) => ['rechecks', 'jobs', 'approvals'].includes(String(q.queryKey[0])) })
  return {
    start: useMutation({
      mutationFn: ({ trialId, body }: { trialId: number; body: View<'RecheckRequest'> }) =>
        take<View<'JobView'>>(api.POST('/api/trials/{id}/rechecks', { ...id(trialId), body })),
      onSuccess,
    }),
    anew: useMutation({
      mutationFn: ({ recheckId, use }: { recheckId: number; use: 'anew' | 'calibrate' }) =>
        take<View<'JobView'>>(
          use === 'anew' ? api.POST('/api/rechecks/{id}/anew', id(recheckId)) : api.POST('/api/rechecks/{id}/calibrate', id(recheckId)),
        ),
      onSuccess,
    }),
    later: useMutation({
      mutationFn: ({ recheckId, again }: { recheckId: number; again: string }) =>
        take<View<'ApprovalView'>>(api.POST('/api/rechecks/{id}/later', { ...id(recheckId), body: { again } })),
      onSuccess,
    }),
  }
}
