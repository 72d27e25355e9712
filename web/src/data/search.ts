import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, idempotencyKey, take, type View } from '../api/client'
import { numberOf, type Setting } from './settings'

export type Search = View<'SearchView'>
export type Try = View<'TryView'>
export type Effect = View<'EffectView'>
type Asked = View<'SearchRequest'>

/** How a setting is varied in a plan, as it was written: a list, or a range. */
export type Vary = { how: 'list'; text: string } | { how: 'range'; from: string; to: string; points: string; by: 'even' | 'factors' }

/** As the server takes it. What is no number is sent as it was written, and refused with a word. */
export function asked(setting: Setting, vary: Vary): Record<string, unknown> {
  if (vary.how === 'range')
    return { from: numberOf(vary.from), to: numberOf(vary.to), points: Number(numberOf(vary.points) ?? 5), by: vary.by }
  const parts = vary.text
    .split(/[;\n]/)
    .map((t) => t.trim())
    .filter((t) => t !== '')
  return { list: parts.map((t) => (setting.type === 'yes/no' ? t === 'yes' : setting.type === 'choice' ? t : numberOf(t))) }
}

/** A first list around the usual value. */
export function firstList(setting: Setting, value: unknown): string {
  if (setting.type === 'yes/no') return 'no; yes'
  if (setting.type === 'choice') return (setting.choices ?? []).join('; ')
  const usual = typeof value === 'number' ? value : 1
  const within = (v: number) => Math.max(setting.least ?? -Infinity, Math.min(setting.most ?? Infinity, v))
  const round = (v: number) => (setting.type === 'whole number' ? Math.round(v) : Number(v.toPrecision(3)))
  const values = usual === 0 ? [0, 1, 2, 4] : [usual / 2, usual, usual * 2]
  return [...new Set(values.map((v) => round(within(v))))].join('; ')
}

const running = (s: Search | undefined) => s?.state === 'running' || s?.jobId != null

export function useSearches(studyId: number) {
  return useQuery({
    queryKey: ['standings', studyId, 'searches'],
    queryFn: () => take<View<'SearchLine'>[]>(api.GET('/api/studies/{id}/searches', { params: { path: { id: String(studyId) } } })),
    refetchInterval: (query) => (query.state.data?.some((s) => s.state === 'running') ? 2000 : false),
  })
}

export function useSearch(id: number) {
  return useQuery({
    queryKey: ['search', id],
    queryFn: () => take<Search>(api.GET('/api/searches/{id}', { params: { path: { id: String(id) } } })),
    refetchInterval: (query) => (running(query.state.data) ? 1500 : false),
  })
}

/** What a search would take; asked anew with each change of the plan. */
export function useWeigh(studyId: number, body: Asked | null) {
  return useQuery({
    queryKey: ['weigh', studyId, body],
    enabled: body !== null,
    retry: false,
    placeholderData: (before) => before,
    queryFn: () =>
      take<View<'SearchForecastView'>>(
        api.POST('/api/studies/{id}/searches/weigh', { params: { path: { id: String(studyId) } }, body: body! }),
      ),
  })
}

const TOUCHED = ['jobs', 'standings', 'search', 'study']

function useBegins<B>(send: (body: B) => Promise<View<'JobView'>>) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: send,
    onSuccess: () => queries.invalidateQueries({ predicate: (q) => TOUCHED.includes(String(q.queryKey[0])) }),
  })
}

export function useStartSearch(studyId: number) {
  return useBegins((body: Asked) =>
    take<View<'JobView'>>(
      api.POST('/api/studies/{id}/searches', {
        params: { path: { id: String(studyId) } },
        body,
        headers: { 'Idempotency-Key': idempotencyKey() },
      }),
    ),
  )
}

export function useGoOn(id: number) {
  return useBegins((more: number) =>
    take<View<'JobView'>>(
      api.POST('/api/searches/{id}/on', {
        params: { path: { id: String(id) } },
        body: { more },
        headers: { 'Idempotency-Key': idempotencyKey() },
      }),
    ),
  )
}

export function useKeepBest(id: number) {
  return useBegins(() =>
    take<View<'JobView'>>(
      api.POST('/api/searches/{id}/keep', { params: { path: { id: String(id) } }, headers: { 'Idempotency-Key': idempotencyKey() } }),
    ),
  )
}

export function useStartGuided(studyId: number) {
  return useBegins((body: View<'GuidedRequest'>) =>
    take<View<'JobView'>>(
      api.POST('/api/studies/{id}/guided', {
        params: { path: { id: String(studyId) } },
        body,
        headers: { 'Idempotency-Key': idempotencyKey() },
      }),
    ),
  )
}

export function useGuided(id: number) {
  return useQuery({
    queryKey: ['search', id, 'guided'],
    queryFn: () => take<View<'GuidedView'>>(api.GET('/api/guided/{id}', { params: { path: { id: String(id) } } })),
    refetchInterval: (query) => (query.state.data?.state === 'running' || query.state.data?.jobId != null ? 2000 : false),
  })
}
