import { ThemeProvider } from '@mui/material/styles'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { render, screen, waitFor } from '@testing-library/react'
import { MemoryRouter, useLocation } from 'react-router'
import { afterEach, beforeEach, expect, vi } from 'vitest'
import { App } from './app'
import recorded from './recorded.json'
import { theme } from './ui/theme'

type Sent = { method: string; path: string; query: string; body: unknown; headers: Headers }

/** What a real server of the demo answered, cut down; each screen is drawn from it. */
export const answers = recorded as unknown as Record<string, unknown>
/** What the screens asked for, in order. */
export let sent: Sent[] = []
/** Other answers for single requests of a test; a promise of one is an answer that is still on its way. */
export let instead: Record<string, { status: number; body: unknown }> = {}

/** A server that answers what was recorded. Charts are drawn by a stand-in. */
export function standIn() {
  beforeEach(() => {
    sent = []
    instead = {}
    vi.stubGlobal(
      'ResizeObserver',
      class {
        observe() {}
        unobserve() {}
        disconnect() {}
      },
    )
    vi.stubGlobal('fetch', vi.fn(answer))
  })
  afterEach(() => vi.unstubAllGlobals())
}

async function answer(input: RequestInfo | URL, init?: RequestInit) {
  const request = input instanceof Request ? input : new Request(new URL(String(input), 'http://localhost'), init)
  const url = new URL(request.url)
  const key = `${request.method} ${url.pathname}`
  const isJson = request.headers.get('Content-Type')?.includes('json') ?? false
  const text = request.method === 'GET' || !isJson ? '' : await request.clone().text()
  sent.push({
    method: request.method,
    path: url.pathname,
    query: url.search,
    body: text === '' ? null : JSON.parse(text),
    headers: request.headers,
  })
  const reply = (status: number, body: unknown) =>
    new Response(status === 204 ? null : JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } })
  const other = instead[key]
  if (other) return reply(other.status, await other.body)
  return key in answers ? reply(200, answers[key]) : reply(404, { title: `Nothing is recorded for ${key}.`, status: 404 })
}

function Where() {
  const { pathname, search } = useLocation()
  return <output data-testid="where">{pathname + search}</output>
}

export function open(path: string) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } })
  return render(
    <ThemeProvider theme={theme}>
      <QueryClientProvider client={queries}>
        <MemoryRouter initialEntries={[path]}>
          <App />
          <Where />
        </MemoryRouter>
      </QueryClientProvider>
    </ThemeProvider>,
  )
}

export const where = () => screen.getByTestId('where').textContent
export const heading = (name: RegExp | string) => screen.findByRole('heading', { level: 1, name }, { timeout: 8000 })
export const button = (name: RegExp | string) => screen.findByRole('button', { name }, { timeout: 8000 })
export const says = (text: string | RegExp) => waitFor(() => expect(document.body).toHaveTextContent(text), { timeout: 8000 })
/** The first request of that sort, once it was sent. */
export const request = (method: string, path: string | RegExp) =>
  waitFor(() => {
    const found = sent.find((s) => s.method === method && (typeof path === 'string' ? s.path === path : path.test(s.path)))
    if (!found) throw new Error(`${method} ${String(path)} was not sent`)
    return found
  })
/** No screen shows what a program would: empty templates, NaN, undefined. */
export const clean = () => expect(document.body.textContent).not.toMatch(/NaN|undefined|\[object|\$\{|\$X|null,/)

/** Work under way, as the server tells of it. */
export const job = {
  id: 31,
  studyId: 2,
  studyName: 'Nobody home',
  kind: 'import',
  subject: 9,
  title: 'Reading march.csv',
  state: 'running',
  share: 0.25,
  secondsLeft: 3,
  seconds: 1,
  message: null,
  soFar: null,
}
