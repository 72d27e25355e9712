import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, take, type View } from '../../api/client'

export type Variant = View<'VariantView'>
export type StepView = View<'StepView'>
export type Step = { step: string; columns: string[]; method?: string; mark?: boolean; off?: boolean; note?: string }

export function usePreparation(studyId: number, enabled = true) {
  return useQuery({
    queryKey: ['preparation', studyId],
    enabled,
    queryFn: () => take<View<'PreparationView'>>(api.GET('/api/studies/{id}/preparation', { params: { path: { id: String(studyId) } } })),
  })
}

export function usePreview(variant: Variant | undefined, steps: Step[] | null) {
  return useQuery({
    queryKey: ['preview', variant?.id, variant?.version, steps],
    enabled: variant !== undefined && steps !== null,
    queryFn: () =>
      take<Variant>(
        api.POST('/api/variants/{id}/preview', { params: { path: { id: String(variant?.id) } }, body: { steps: steps ?? [] } }),
      ),
    placeholderData: (before) => before,
    retry: false,
  })
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
  return {
    step: step.step,
    columns: step.columns,
    ...(step.method ? { method: step.method } : {}),
    ...(step.mark ? { mark: true } : {}),
    ...(step.off ? { off: true } : {}),
    ...(step.note ? { note: step.note } : {}),
  }
}
