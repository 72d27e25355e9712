import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, take, type View } from '../../api/client'

export type Interval = { value: number | null; low: number | null; high: number | null }
export type CutoffFigures = {
  cutoff: number
  tp: number
  fp: number
  fn: number
  tn: number
  accuracy: Interval
  precision: Interval
  recall: Interval
  specificity: Interval
  f1: Interval
}

/** The figures document of a trial; absent parts mean that there was nothing to measure. */
export type Figures = {
  rows: number
  unanswered: number
  events: number
  baseRate?: number
  auc?: Interval | null
  averagePrecision?: number | null
  ks?: { statistic: number; cutoff: number }
  logLoss?: Interval
  brier?: Interval
  cutoffs?: CutoffFigures[]
  roc?: [number, number, number | null][]
  calibration?: { bin: number; low: number; high: number; n: number; mean_score: number; positives: number; rate: number }[]
  histogram?: { events: number[]; others: number[] }
  baseline?: { auc: number; accuracy: number; logLoss: number; brier: number; recall: number; precision: number; rows: number }
  folds?: Interval & { auc: number[]; training: number | null }
  opening?: number
}

export type Judgment = Omit<View<'JudgmentView'>, 'figures' | 'sealed'> & { figures: Figures; sealed: Figures | null }

export function useJudgment(trialId: number | null) {
  return useQuery({
    queryKey: ['judgment', trialId],
    enabled: trialId !== null,
    queryFn: async () =>
      (await take<View<'JudgmentView'>>(
        api.GET('/api/trials/{id}/judgment', { params: { path: { id: String(trialId) } } }),
      )) as unknown as Judgment,
    retry: false,
  })
}

export type Cell = 'tp' | 'fp' | 'fn' | 'tn'

export function useRecords(trialId: number, cell: Cell | null, cutoff: number) {
  return useQuery({
    queryKey: ['records', trialId, cell, cutoff],
    enabled: cell !== null,
    queryFn: () =>
      take<View<'RecordsView'>>(
        api.GET('/api/trials/{id}/records', {
          params: { path: { id: String(trialId) }, query: { cell: cell ?? 'fn', cutoff, limit: 100 } },
        }),
      ),
    placeholderData: (before) => before,
  })
}

export function useOpenSeal(trialId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () => take(api.POST('/api/trials/{id}/seal', { params: { path: { id: String(trialId) } } })),
    onSettled: () => queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'session' }),
  })
}
