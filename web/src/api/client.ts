import createClient from 'openapi-fetch'
import type { components, paths } from './generated/schema'

export type View<K extends keyof components['schemas']> = components['schemas'][K]

export const api = createClient<paths>({ baseUrl: location.origin, fetch: (request) => fetch(request) })

/** An answer that is not a success: a plain sentence, the field concerned, and whatever else the server sent along. */
export class ApiError extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly field: string | null,
    readonly more: Record<string, unknown>,
  ) {
    super(message)
  }
}

export function errorOf(status: number, body: unknown): ApiError {
  const problem = (typeof body === 'object' && body !== null ? body : {}) as Record<string, unknown>
  const title = typeof problem.title === 'string' ? problem.title : 'The server could not be reached. Nothing was changed.'
  return new ApiError(title, status, typeof problem.field === 'string' ? problem.field : null, problem)
}

/** What is stored now, when a change was refused because it was made to an older version. */
export function storedInstead<T>(error: unknown): T | null {
  return error instanceof ApiError && error.status === 412 ? ((error.more.current as T | undefined) ?? null) : null
}

/** The data of an answer, or an ApiError. */
export async function take<T>(answer: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await answer
  if (!response.ok) throw errorOf(response.status, error)
  if (response.status === 202 && response.headers.has('Retry-After')) throw new NotYet()
  return data as T
}

/** The server has begun to work on the answer: ask again. */
class NotYet extends Error {}

/** For answers that large tables have only after a while: asked again every second until they are there. */
export const whenReady = {
  retry: (failures: number, error: Error) => error instanceof NotYet && failures < 900,
  retryDelay: 1000,
}

export function idempotencyKey(): string {
  return `${Date.now().toString(36)}-${Math.random().toString(36).slice(2)}`
}
