import type { Column } from './api'

export const any = 'any'
/** At least so many cells missing. */
export const missingFrom: Record<string, number> = { any: 0, some: 1e-12, 'over 5%': 0.05, 'over half': 0.5 }

/** Whether a column is among those that the address asks for. */
export function narrowedTo(params: URLSearchParams, c: Column): boolean {
  const kind = params.get('kind') ?? any
  const use = params.get('use') ?? any
  return (
    (kind === any || c.kind === kind) &&
    (use === any || c.use === use) &&
    c.missingShare >= (missingFrom[params.get('missing') ?? any] ?? 0) &&
    c.name.toLowerCase().includes((params.get('name') ?? '').toLowerCase())
  )
}
