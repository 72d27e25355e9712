import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, take, type View } from '../api/client'

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
  /** Trials of before kept the figure without its interval. */
  averagePrecision?: number | Interval | null
  ks?: { statistic: number; cutoff: number } | Interval
  logLoss?: Interval
  brier?: Interval
  cutoffs?: CutoffFigures[]
  roc?: [number, number, number | null][]
  calibration?: {
    bin: number
    low: number
    high: number
    n: number
    mean_score: number
    positives: number
    rate: number
    rateLow?: number | null
    rateHigh?: number | null
  }[]
  tenths?: {
    decile: number
    n: number
    positives: number
    rate: number
    rateLow: number | null
    rateHigh: number | null
    lift: number | null
    cumulative_gain: number | null
  }[]
  histogram?: { events: number[]; others: number[] }
  /** What the figure loses when a column is shuffled; trials of before have none. */
  importance?: ({ column: string } & Interval)[]
  baseline?: { auc: number; accuracy: number; logLoss: number; brier: number; recall: number; precision: number; rows: number }
  /** One figure per fold and repeat; trials of before called them `auc`. */
  folds?: Interval & { each?: (number | null)[]; pooled?: boolean; training: number | null }
  opening?: number
}

/** Of a number. */
export type NumberFigures = {
  rows: number
  unanswered: number
  rmse?: Interval
  mae?: Interval
  within50?: Interval
  within90?: Interval
  r2?: Interval
  bias?: Interval
  /** The share of rows that holds half of all squared error, where that is few */
  governed?: number | null
  baseline?: { rmse: number; mae: number; within50: number; within90: number; r2: number | null; mean: number }
  tenths?: {
    predicted: number
    low: number
    middle: number
    high: number
    off: number
    offLow: number
    offQuarter: number
    offThreeQuarters: number
    offHigh: number
    rows: number
  }[]
  dots?: [number, number][]
  folds?: Interval & { each?: (number | null)[]; pooled?: boolean; training: number | null }
  opening?: number
}

/** Of several classes. */
export type ClassFigures = {
  rows: number
  unanswered: number
  accuracy?: Interval
  logLoss?: Interval
  balancedAccuracy?: number | Interval
  kappa?: number | Interval | null
  macroAuc?: number | Interval | null
  confusion?: number[][]
  classes?: { name: string; rows: number; called: number; precision: Interval; recall: Interval; f1: Interval; auc: Interval | null }[]
  baseline?: { accuracy: number; logLoss: number; balancedAccuracy: number; macroAuc: number; kappa: number }
  folds?: Interval & { each?: (number | null)[]; pooled?: boolean; training: number | null }
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

export function useWorst(trialId: number) {
  return useQuery({
    queryKey: ['worst', trialId],
    queryFn: () =>
      take<View<'WorstView'>>(api.GET('/api/trials/{id}/worst', { params: { path: { id: String(trialId) }, query: { limit: 50 } } })),
  })
}

/** The rows of one cell of the matrix of several classes: came as one class, named another (or the same). */
export function useTaken(trialId: number, came: string, named: string) {
  return useQuery({
    queryKey: ['worst', trialId, came, named],
    queryFn: () =>
      take<View<'WorstView'>>(
        api.GET('/api/trials/{id}/worst', { params: { path: { id: String(trialId) }, query: { limit: 100, came, named } } }),
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

export function useGroups(trialId: number, by: string, cutoff: number) {
  return useQuery({
    queryKey: ['groups', trialId, by, cutoff],
    queryFn: () =>
      take<View<'GroupsView'>>(api.GET('/api/trials/{id}/groups', { params: { path: { id: String(trialId) }, query: { by, cutoff } } })),
    placeholderData: (before) => before,
    retry: false,
  })
}

export function useAgainst(trialId: number, other: number, cutoff: number) {
  return useQuery({
    queryKey: ['against', trialId, other, cutoff],
    queryFn: () =>
      take<View<'AgainstView'>>(
        api.GET('/api/trials/{id}/against', { params: { path: { id: String(trialId) }, query: { other, cutoff } } }),
      ),
    placeholderData: (before) => before,
    retry: false,
  })
}
