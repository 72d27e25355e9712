import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { api, take, type View } from '../api/client'

export type Variant = View<'VariantView'>
export type StepView = View<'StepView'>
export type Described = View<'Described'>
export type Candidate = View<'CandidateView'>
export type Advice = View<'Advice'>
/** A step as it is sent: its kind, its settings, whether it is switched off, and why it is there. */
export type Step = { step: string; off?: boolean; note?: string; [setting: string]: unknown }
/** Columns by a condition that stays true when the table changes. */
export type Choose = { kinds: string[]; missing: boolean }
type Cell = { column: string; before: string | null; after: string | null }
export type Look = Omit<View<'Look'>, 'rows' | 'spread'> & {
  rows: { row: number; out: string | null; cells: Cell[] }[]
  spread: { column: string; labels: string[]; before: number[]; after: number[] } | null
}
export type LearnedLook = Omit<View<'LearnedLook'>, 'rows'> & { rows: { name: string; cells: string[] }[] }
export type BinsLook = Omit<View<'BinsLook'>, 'parts' | 'bins'> & {
  parts: { low: number; high: number; count: number; judged: number; events: number }[]
  bins: { label: string; count: number; judged: number; events: number; woe: number | null; iv: number | null }[]
}

export function useSteps() {
  return useQuery({ queryKey: ['steps'], queryFn: () => take<View<'StepsView'>>(api.GET('/api/steps')), staleTime: Infinity })
}

export function usePreparation(studyId: number, enabled = true) {
  return useQuery({
    queryKey: ['preparation', studyId],
    enabled,
    queryFn: () => take<View<'PreparationView'>>(api.GET('/api/studies/{id}/preparation', { params: { path: { id: String(studyId) } } })),
  })
}

export function usePreview(variant: Variant | undefined, proposed: Step[] | null, look: number) {
  // A note costs nothing: writing one asks for no new preview.
  const steps = proposed?.map((s) => Object.fromEntries(Object.entries(s).filter(([name]) => name !== 'note'))) ?? null
  return useQuery({
    queryKey: ['preview', variant?.id, variant?.version, steps, look],
    enabled: variant !== undefined && steps !== null,
    queryFn: () =>
      take<Variant>(
        api.POST('/api/variants/{id}/preview', { params: { path: { id: String(variant?.id) } }, body: { steps: steps ?? [], look } }),
      ),
    placeholderData: (before) => before,
    retry: false,
  })
}

/** Where a toll is from a sample, the exact one is asked for; when it is counted, the answer is read anew. */
export function useExactTolls(view: Variant | undefined, steps: Step[] | null) {
  const queries = useQueryClient()
  const id = view?.approximate && view.problem == null ? view.id : null
  const wanted = id === null ? null : JSON.stringify((steps ?? []).map((s) => ({ ...s, note: undefined })))
  useEffect(() => {
    if (id === null || wanted === null) return
    // A step that is being written is not counted at every stroke.
    const timer = setTimeout(() => {
      api
        .POST('/api/variants/{id}/count', { params: { path: { id: String(id) } }, body: { steps: JSON.parse(wanted) as Step[] } })
        .then(() => queries.invalidateQueries({ queryKey: ['jobs'] }))
        .catch(() => undefined)
    }, 1200)
    return () => clearTimeout(timer)
  }, [id, wanted, queries])
}

export function useChangeVariant() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ variant, steps, name }: { variant: Variant; steps?: Step[]; name?: string }) =>
      take<Variant>(
        api.PUT('/api/variants/{id}', {
          params: { path: { id: String(variant.id) }, header: { 'If-Match': String(variant.version) } },
          body: { ...(steps ? { steps } : {}), ...(name ? { name } : {}) },
        }),
      ),
    onSettled: () =>
      queries.invalidateQueries({ predicate: (q) => ['preparation', 'study', 'standings', 'logbook'].includes(String(q.queryKey[0])) }),
  })
}

export function useDiscardVariant() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (id: number) => take<null>(api.DELETE('/api/variants/{id}', { params: { path: { id: String(id) } } })),
    onSettled: () => queries.invalidateQueries({ predicate: (q) => ['preparation', 'logbook'].includes(String(q.queryKey[0])) }),
  })
}

export function useCreateVariant(studyId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: View<'VariantRequest'>) =>
      take<Variant>(api.POST('/api/studies/{id}/variants', { params: { path: { id: String(studyId) } }, body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['preparation', studyId] }),
  })
}

/** The settings of a step as they are sent back. */
export function settingsOf(step: StepView): Step {
  return { step: step.step, ...step.settings, ...(step.off ? { off: true } : {}), ...(step.note ? { note: step.note } : {}) }
}

/** A new step with the usual value of each setting. */
export function freshStep(kind: Described, given: Partial<Step> = {}): Step {
  const usual = (kind.settings ?? []).filter((s) => s.default != null).map((s) => [s.name, s.default])
  return { step: kind.step, ...Object.fromEntries(usual), ...given }
}

/** The columns that a step names or chooses, in words. */
export function columnsOf(step: Step): string {
  const choose = step.choose as Choose | undefined
  if (choose) return `every ${choose.kinds.join(' or ') || 'column'}${choose.missing ? ' with missing cells' : ''}`
  const names = [...((step.columns as string[] | undefined) ?? []), step.column, step.other].filter((n) => typeof n === 'string')
  return names.length > 4 ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more` : names.join(', ')
}

export function useComparison(studyId: number, letters: string[]) {
  return useQuery({
    queryKey: ['preparation', studyId, 'compare', letters],
    enabled: letters.length >= 2,
    queryFn: () =>
      take<View<'ComparisonView'>>(
        api.GET('/api/studies/{id}/preparation/compare', {
          params: { path: { id: String(studyId) }, query: { variants: letters.join(',') } },
        }),
      ),
    retry: false,
  })
}

/** Steps from a file that was saved here or is written by hand. */
export function stepsOfFile(text: string): { name: string; steps: Step[] } {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    throw new Error('This is not a JSON file. Nothing was changed.')
  }
  const given = Array.isArray(data) ? { steps: data as unknown } : ((data ?? {}) as { name?: unknown; steps?: unknown })
  const steps = given.steps
  if (!Array.isArray(steps) || !steps.every((s) => typeof (s as Step | null)?.step === 'string'))
    throw new Error('The file holds no steps: it needs "steps", a list of objects with "step". Nothing was changed.')
  return { name: 'name' in given && typeof given.name === 'string' ? given.name : 'From a file', steps: steps as Step[] }
}
