import type { Relation } from '../../data/finding'
import type { Column } from '../../data/table'

export const any = 'any'
/** At least so many cells missing. */
export const missingFrom: Record<string, number> = { any: 0, some: 1e-12, 'over 5%': 0.05, 'over half': 0.5 }
/** How many different values a column has, of so many cells that are not missing. */
export const distinctIs: Record<string, (distinct: number, cells: number) => boolean> = {
  any: () => true,
  one: (d) => d <= 1,
  '2 to 20': (d) => d >= 2 && d <= 20,
  'over 20': (d) => d > 20,
  'all different': (d, cells) => cells > 1 && d === cells,
}
/** How well a column alone ranks records by the target. */
export const aloneIs: Record<string, (relation: Relation | undefined) => boolean> = {
  any: () => true,
  'telling something': (r) => r?.alone != null && !r.late && (r.adjusted ?? 1) < 0.05,
  'over 0.6': (r) => (r?.alone ?? 0) > 0.6,
  'not telling': (r) => r?.alone != null && (r.adjusted ?? 1) >= 0.05,
}

/** Whether a column is among those that the address asks for. */
export function narrowedTo(params: URLSearchParams, c: Column, rows: number, relation: Relation | undefined): boolean {
  const asked = (key: string) => params.get(key) ?? any
  return (
    (asked('kind') === any || c.kind === asked('kind')) &&
    (asked('use') === any || c.use === asked('use')) &&
    c.missingShare >= (missingFrom[asked('missing')] ?? 0) &&
    (distinctIs[asked('distinct')] ?? distinctIs.any!)(c.distinct, rows - c.missing) &&
    (aloneIs[asked('alone')] ?? aloneIs.any!)(relation) &&
    c.name.toLowerCase().includes((params.get('name') ?? '').toLowerCase())
  )
}
