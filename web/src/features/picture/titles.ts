import { count, fixed, number, share, whole } from '../../ui/format'
import type { ApartColumn, Lopsided, Missing, Pair, Repeats, Together, Two } from '../../data/picture'

/** What each picture says in a sentence, from its own figures; where nothing is certain it says so. */

/** Two columns that say nearly the same. */
const same = (p: Pair) => Math.abs(p.strength) >= 0.95
export const clear = (p: Pair) => p.adjusted < 0.05 && Math.abs(p.strength) >= 0.05

export function togetherTitle(data: Together, target: string | null | undefined): string {
  const others = data.pairs.filter((p) => p.first !== target && p.second !== target)
  const copies = others.filter(same)
  if (copies.length > 0)
    return `${copies[0]!.first} and ${copies[0]!.second} nearly say the same${copies.length > 1 ? `, and ${count(copies.length - 1, 'other pair')} too` : ''}`
  const first = others[0]
  return first && clear(first)
    ? `${first.first} and ${first.second} go together most, ${fixed(Math.abs(first.strength), 2)}`
    : 'No two columns clearly go together'
}

export function networkTitle(data: Together, threshold: number): string {
  const linked = new Set(data.pairs.filter((p) => clear(p) && Math.abs(p.strength) >= threshold).flatMap((p) => [p.first, p.second]))
  const alone = data.order.length - linked.size
  return `${whole(linked.size)} of ${count(data.order.length, 'column')} are linked at ${fixed(threshold, 2)} or more; ${whole(alone)} stand${alone === 1 ? 's' : ''} alone`
}

export function missingTitle(data: Missing): string {
  if (data.columns.length === 0) return 'Nothing is missing'
  const w = data.where[0]
  if (w) {
    const most = w.levels[0]!
    const least = w.levels[w.levels.length - 1]!
    return `${w.column} is missing by ${w.by}: from ${share(least.share)} to ${share(most.share)}`
  }
  const together = data.patterns.find((p) => p.missing.length > 1)
  return together
    ? `${together.missing.join(' and ')} are missing together in ${count(together.records, 'record')}`
    : `${data.columns[0]!.column} is missing most, in ${share(data.columns[0]!.share)}; no two columns are missing together`
}

export function apartTitle(columns: ApartColumn[]): string {
  const far = columns.filter((c) => (c.largestZ ?? 0) > 3.5 && c.below + c.above > 0)
  const first = far[0]
  return first
    ? `${count(first.below + first.above, 'record')} stand${first.below + first.above === 1 ? 's' : ''} apart in ${first.column}, up to ${number(first.apart[0]?.value)}`
    : 'No record stands far apart in a column of numbers'
}

export function lopsidedTitle(data: Lopsided): string {
  const first = data.numbers[0]
  if (first && Math.abs(first.skewness) >= 1)
    return `${first.column} leans furthest ${first.skewness > 0 ? 'right' : 'left'}, skewness ${fixed(first.skewness, 1)}`
  const rare = data.categories[0]
  return rare ? `${rare.column} has ${count(rare.rare.length, 'rare value')}` : 'No column is lopsided'
}

export function repeatsTitle(data: Repeats, all: boolean): string {
  if (data.groups === 0)
    return all ? 'No record repeats another in every column' : `No two records are equal in ${data.columns.join(' and ')}`
  return all
    ? `${count(data.more, 'record')} repeat${data.more === 1 ? 's' : ''} an earlier one in every column`
    : `${whole(data.repeated)} records share their ${data.columns.join(' and ')} with another one`
}

export function twoTitle(data: Two): string {
  const p = data.pair
  if (!p) return `${data.x} and ${data.y}`
  if (!clear(p) && p.p >= 0.05) return `${data.x} and ${data.y} do not clearly go together`
  if (p.measure === 'rank correlation')
    return `The larger ${data.x}, the ${p.strength > 0 ? 'larger' : 'smaller'} ${data.y}: rank correlation ${fixed(p.strength, 2)}`
  return `${data.y} differs by ${data.x}: ${p.measure} ${fixed(p.strength, 2)}`
}
