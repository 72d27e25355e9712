import type { View } from '../api/client'
import { fixed, number, withInterval } from './format'

/** A figure that answers are judged by, as the registry describes it. */
export type Figure = View<'FigureView'>
/** What is told with significant digits, as whatever is in units of the target. */
export const IN_UNITS = { inUnits: true }

type Told = { inUnits: boolean }
type Valued = { value?: number | null; low?: number | null; high?: number | null }

/** Trials of another target keep another figure: only those of what is asked for now are compared. */
export function ofTask<T extends { task: string }>(trials: T[], task: string): T[] {
  return trials.filter((t) => t.task === task)
}

/** As many digits as the interval supports: those of its half, one more than its first. */
function digits(half: number): number {
  return half > 0 ? Math.max(0, Math.min(6, -Math.floor(Math.log10(half)))) : 3
}

export function figure(measure: Told | undefined, value: number | null | undefined): string {
  return measure?.inUnits ? number(value) : fixed(value)
}

export function figured(measure: Told | undefined, m: Valued): string {
  if (!measure?.inUnits) return withInterval(m.value, m.low, m.high)
  if (m.value == null || m.low == null || m.high == null) return number(m.value)
  return withInterval(m.value, m.low, m.high, digits(Math.max(m.high - m.value, m.value - m.low)))
}

/** A value that stands beside one with an interval, told with no more digits than that one. */
export function beside(measure: Told | undefined, value: number | null | undefined, m: Valued): string {
  if (!measure?.inUnits || m.value == null || m.low == null || m.high == null) return figure(measure, value)
  return fixed(value, digits(Math.max(m.high - m.value, m.value - m.low)))
}

/** The better of two values; nothing is worse than anything. */
function better(measure: { more: boolean }, a: number | null | undefined, b: number | null | undefined): boolean {
  if (a == null) return false
  return b == null || (measure.more ? a > b : a < b)
}

export function bestOf<T extends { measure: Figure; value?: number | null }>(trials: T[]): T | undefined {
  return trials.reduce<T | undefined>((best, t) => (!best || better(t.measure, t.value, best.value) ? t : best), undefined)
}

/** The stretch that marks of the figure share: from doing nothing to perfect where more is better, else from nothing to a little over the baseline. */
export function scaleOf(measure: Figure | undefined, baseline: number | null | undefined): [number, number] {
  if (!measure || measure.more) return [Math.min(0.5, baseline ?? 0.5), measure?.most ?? 1]
  return [0, 1.15 * (baseline && baseline > 0 ? baseline : 1)]
}
