import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, errorOf, idempotencyKey, take, type View } from '../api/client'

/** What the server keeps is whole: only a request may leave terms out. */
export type Terms = Required<View<'DecisionTerms'>>
export type Decision = Omit<View<'DecisionView'>, 'terms'> & { terms: Terms }
/** A decision as the server keeps it. */
const whole = async (answer: Parameters<typeof take<View<'DecisionView'>>>[0]) => (await take(answer)) as Decision

export type ListRow = View<'DecisionRowView'>
export type WhichOfList = 'acted' | 'left' | 'all'

const keys = {
  of: (scoringId: number) => ['decisions', scoringId],
  one: (id: number) => ['decision', id],
}

export function useDecisions(scoringId: number, enabled: boolean) {
  return useQuery({
    queryKey: keys.of(scoringId),
    enabled,
    queryFn: () => take<View<'DecisionLine'>[]>(api.GET('/api/scorings/{id}/decisions', { params: { path: { id: String(scoringId) } } })),
  })
}

export function useDecision(id: number, enabled = true) {
  return useQuery({
    queryKey: keys.one(id),
    enabled,
    queryFn: () => whole(api.GET('/api/decisions/{id}', { params: { path: { id: String(id) } } })),
  })
}

/** A list with assumed terms, or with those of another one. */
export function useMakeDecision(scoringId: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: { name: string; terms?: Terms }) =>
      whole(
        api.POST('/api/scorings/{id}/decisions', {
          params: { path: { id: String(scoringId) } },
          body: body as View<'DecisionRequest'>,
          headers: { 'Idempotency-Key': idempotencyKey() },
        }),
      ),
    onSuccess: (made) => {
      queries.setQueryData(keys.one(made.id), made)
      return queries.invalidateQueries({ queryKey: keys.of(scoringId) })
    },
  })
}

export function useChangeDecision(decision: Decision | undefined) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ name, terms, over }: { name?: string; terms: Terms; over?: number }) =>
      whole(
        api.PUT('/api/decisions/{id}', {
          params: { path: { id: String(decision?.id) }, header: { 'If-Match': String(over ?? decision?.version) } },
          body: { name: name ?? decision?.name ?? '', terms },
        }),
      ),
    onSuccess: (now) => {
      queries.setQueryData(keys.one(now.id), now)
      void queries.invalidateQueries({ queryKey: keys.of(now.scoringId) })
      return queries.invalidateQueries({ predicate: (q) => q.queryKey[0] === 'list' && q.queryKey[1] === now.id })
    },
  })
}

export function useRemoveDecision(decision: Decision | undefined) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: async () => {
      await take(api.DELETE('/api/decisions/{id}', { params: { path: { id: String(decision?.id) } } }))
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.of(decision?.scoringId ?? 0) }),
  })
}

/** @param reasons changes when reasons were added to the scored records */
export function useListRows(id: number, which: WhichOfList, carry: string[], limit: number, reasons: string, enabled: boolean) {
  return useQuery({
    queryKey: ['list', id, which, carry, limit, reasons],
    enabled,
    queryFn: async () => {
      const q = new URLSearchParams({ which, limit: String(limit) })
      for (const c of carry) q.append('carry[]', c)
      const response = await fetch(`/api/decisions/${id}/rows?${q}`)
      const body: unknown = await response.json()
      if (!response.ok) throw errorOf(response.status, body)
      return body as View<'DecisionRowsView'>
    },
    placeholderData: (before) => before,
  })
}

export function useMeasure(id: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: View<'MeasureRequest'>) =>
      whole(api.POST('/api/decisions/{id}/measure', { params: { path: { id: String(id) } }, body })),
    onSuccess: (now) => queries.setQueryData(keys.one(now.id), now),
  })
}

/** Fetches a list as a file and hands it to the browser to keep. */
export function useTakeList(id: number, name: string) {
  return useMutation({
    mutationFn: async ({ format, ...body }: View<'ExportRequest'> & { format: string }) => {
      const isDatabase = format === 'sqlite'
      const response = await fetch(`/api/decisions/${id}/${isDatabase ? 'export' : 'file'}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(isDatabase ? body : { which: body.which, columns: body.columns, format }),
      })
      if (!response.ok) throw errorOf(response.status, await response.json())
      const url = URL.createObjectURL(await response.blob())
      const link = document.createElement('a')
      link.href = url
      link.download = `${name.replace(/[^\w.-]+/g, '_')}_list.${format}`
      link.click()
      URL.revokeObjectURL(url)
    },
  })
}

/** What would be written to a database: names, types, and what is there. */
export function useExportPlan(id: number, body: View<'ExportRequest'>, enabled: boolean) {
  return useQuery({
    queryKey: ['export', id, body],
    enabled,
    retry: false,
    queryFn: () => take<View<'ExportView'>>(api.POST('/api/decisions/{id}/export/plan', { params: { path: { id: String(id) } }, body })),
  })
}

export function useExport(id: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: View<'ExportRequest'>) =>
      take<View<'ExportView'>>(api.POST('/api/decisions/{id}/export', { params: { path: { id: String(id) } }, body })),
    onSuccess: () => queries.invalidateQueries({ predicate: (q) => q.queryKey[0] === 'export' }),
  })
}

export function sheetUrl(id: number, carry: string[]): string {
  const q = new URLSearchParams()
  for (const c of carry) q.append('carry[]', c)
  return `/api/decisions/${id}/sheet?${q}`
}

/** Tiers as they are written, the first first. */
export const TIERS = ['I', 'II', 'III', 'IV']

/** An amount of money: cents where it is small, a true minus before the unit. */
export function money(value: number | null | undefined, unit: string): string {
  if (value == null || !Number.isFinite(value)) return '–'
  const digits = Math.abs(value) < 100 && Math.round(value) !== value ? 2 : 0
  const text = Math.abs(value).toLocaleString('en-US', { minimumFractionDigits: digits, maximumFractionDigits: digits })
  return `${value < 0 && Number(text.replaceAll(',', '')) !== 0 ? '−' : ''}${unit}${text}`
}
