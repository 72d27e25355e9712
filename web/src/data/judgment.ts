import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, take, type View } from '../api/client'

export type Interval = View<'Interval'>
export type Judgment = View<'JudgmentView'>
export type Section = Judgment['sections'][number]
export type SectionOf<K extends Section['kind']> = Extract<Section, { kind: K }>
export type CutoffFigures = View<'CutoffView'>
export type FigureLine = View<'FigureLine'>

/** The part of a trial's page of that kind, if it has one. */
export function sectionOf<K extends Section['kind']>(judgment: Judgment | undefined, kind: K): SectionOf<K> | undefined {
  return judgment?.sections.find((s): s is SectionOf<K> => s.kind === kind)
}

/** A figure by its key. */
export function figureOf(figures: FigureLine[], key: string): FigureLine | undefined {
  return figures.find((f) => f.figure.key === key)
}

/** Of the cut-offs offered the one nearest to what is asked for. */
export function atCutoff(cutoffs: CutoffFigures[], cutoff: number): CutoffFigures | undefined {
  return cutoffs.reduce<CutoffFigures | undefined>(
    (best, c) => (best === undefined || Math.abs(c.cutoff - cutoff) < Math.abs(best.cutoff - cutoff) ? c : best),
    undefined,
  )
}

export function useJudgment(trialId: number | null) {
  return useQuery({
    queryKey: ['judgment', trialId],
    enabled: trialId !== null,
    queryFn: () => take<Judgment>(api.GET('/api/trials/{id}/judgment', { params: { path: { id: String(trialId) } } })),
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

/** Which records are meant: a cell at a cut-off, a pair of classes, or a band of errors. */
export type Picked = { cell?: Cell; cutoff?: number; came?: string; named?: string; low?: number; high?: number }

/** The picked records on two columns, over all the others; '' = what the trial leans on. */
export function usePickPicture(trialId: number, picked: Picked, x: string, y: string, wanted: boolean) {
  return useQuery({
    queryKey: ['records', 'picture', trialId, picked, x, y],
    enabled: wanted,
    queryFn: () =>
      take<View<'PictureView'>>(
        api.GET('/api/trials/{id}/picture', { params: { path: { id: String(trialId) }, query: { ...picked, x, y } } }),
      ),
    placeholderData: (before) => before,
    retry: false,
  })
}

/** The records of a number whose error lies in a band. */
export function useBand(trialId: number, low: number | null, high: number | null) {
  return useQuery({
    queryKey: ['worst', trialId, 'band', low, high],
    queryFn: () =>
      take<View<'WorstView'>>(
        api.GET('/api/trials/{id}/worst', {
          params: {
            path: { id: String(trialId) },
            query: { limit: 100, ...(low === null ? {} : { low }), ...(high === null ? {} : { high }) },
          },
        }),
      ),
    placeholderData: (before) => before,
  })
}

/** A cut-off found by a figure or by costs, on folds that are judged by others. */
export function useFindCutOff(trialId: number) {
  return useMutation({
    mutationFn: (query: { by: string; miss: number; vain: number }) =>
      take<View<'FoundCutOffView'>>(api.GET('/api/trials/{id}/cutoff', { params: { path: { id: String(trialId) }, query } })),
  })
}

/** Fits the examined trial once more on all records, for use. */
export function useHandOn(trialId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () => take<View<'JobView'>>(api.POST('/api/trials/{id}/handed', { params: { path: { id: String(trialId) } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['jobs'] }),
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
