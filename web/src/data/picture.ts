import { useQuery } from '@tanstack/react-query'
import { api, take, type View, whenReady } from '../api/client'

/** The API's document cannot say the shapes of the lists inside a picture; here they are, as `core/src/Picture` writes them. */
type Share = { judged: number; share: number | null; low: number | null; high: number | null }
export type Pair = View<'Pair'>
export type Together = Omit<View<'Together'>, 'leftOut'> & { leftOut: { column: string; why: string }[] }
export type Missing = Omit<View<'MissingPattern'>, 'columns' | 'patterns' | 'where'> & {
  columns: { column: string; missing: number; share: number }[]
  patterns: { missing: string[]; records: number }[]
  where: {
    column: string
    by: string
    strength: number
    adjusted: number
    levels: { value: string; records: number; missing: number; share: number; low: number; high: number }[]
  }[]
}
export type ApartColumn = {
  column: string
  records: number
  low: number
  q1: number
  median: number
  q3: number
  high: number
  least: number
  most: number
  fenceLow: number
  fenceHigh: number
  below: number
  above: number
  far: number
  robust: number | null
  largestZ: number | null
  apart: { row: number; value: number; z: number | null }[]
}
export type Lopsided = {
  numbers: {
    column: string
    skewness: number
    median: number
    mean: number
    most: number
    bins: { low: number; high: number; count: number }[]
  }[]
  categories: {
    column: string
    levels: number
    rare: { value: string; records: number }[]
    inRare: number
    top: string
    topShare: number
  }[]
}
export type Repeats = Omit<View<'Repeats'>, 'sizes' | 'examples'> & {
  sizes: { times: number; groups: number }[]
  examples: { records: number; rows: number[]; cells: (string | null)[] }[]
}
type Point = { row: number; x: number; y: number; event: boolean | null }
type Dense = {
  x: number
  x2: number
  y: number
  y2: number
  fromX: number
  toX: number
  fromY: number
  toY: number
  records: number
} & Share
type Box = {
  value: string
  records: number
  low: number
  q1: number
  median: number
  q3: number
  high: number
  beyond: number
  apart: { row: number; value: number }[]
} & Omit<Share, 'low' | 'high'>
export type Tile = { x: string; y: string; records: number; expected: number } & Share
type Period = {
  from: string
  to: string
  period: string
  records: number
  of: string | null
  value: number
  valueLow: number | null
  valueHigh: number | null
} & Share
export type Two = { x: string; y: string; records: number; pair?: Pair | null } & (
  | { form: 'points'; parts: Point[] }
  | { form: 'density'; parts: Dense[] }
  | { form: 'boxes'; parts: Box[] }
  | { form: 'mosaic'; parts: Tile[] }
  | { form: 'line'; parts: Period[] }
)

const forTable = (id: number) => ({ params: { path: { id: String(id) } } })

export function useTogether(id: number, enabled = true) {
  return useQuery({
    queryKey: ['pictures', id, 'together'],
    enabled,
    ...whenReady,
    queryFn: async () => (await take(api.GET('/api/tables/{id}/pictures/together', forTable(id)))) as unknown as Together,
  })
}

export function useMissing(id: number) {
  return useQuery({
    queryKey: ['pictures', id, 'missing'],
    ...whenReady,
    queryFn: async () => (await take(api.GET('/api/tables/{id}/pictures/missing', forTable(id)))) as unknown as Missing,
  })
}

export function useApart(id: number) {
  return useQuery({
    queryKey: ['pictures', id, 'apart'],
    ...whenReady,
    queryFn: async () => (await take(api.GET('/api/tables/{id}/pictures/apart', forTable(id)))) as unknown as { columns: ApartColumn[] },
  })
}

export function useLopsided(id: number) {
  return useQuery({
    queryKey: ['pictures', id, 'lopsided'],
    ...whenReady,
    queryFn: async () => (await take(api.GET('/api/tables/{id}/pictures/lopsided', forTable(id)))) as unknown as Lopsided,
  })
}

export function useRepeats(id: number, columns: string[] | null) {
  return useQuery({
    queryKey: ['pictures', id, 'repeats', columns],
    ...whenReady,
    queryFn: async () =>
      (await take(
        api.GET('/api/tables/{id}/pictures/repeats', {
          params: { path: { id: String(id) }, query: columns === null ? {} : { columns: JSON.stringify(columns) } },
        }),
      )) as unknown as Repeats,
    placeholderData: (before) => before,
  })
}

export function useTwo(id: number, x: string | null, y: string | null) {
  return useQuery({
    queryKey: ['pictures', id, 'two', x, y],
    enabled: x !== null && y !== null && x !== y,
    queryFn: async () =>
      (await take(
        api.GET('/api/tables/{id}/pictures/two', { params: { path: { id: String(id) }, query: { x: x ?? '', y: y ?? '' } } }),
      )) as unknown as Two,
    placeholderData: (before) => before,
    retry: false,
  })
}
