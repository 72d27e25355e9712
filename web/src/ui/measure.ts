import { fixed, number, withInterval } from './format'

/** The figure that trials are ranked by: AUC of an event, log loss of several classes, RMSE of a number. */
export type Measured = {
  task?: string
  measure: string
  value?: number | null
  low?: number | null
  high?: number | null
  baseline?: number | null
}

const more = (measure: string) => measure === 'AUC'

/** Trials of another target keep another figure: only those of what is asked for now are compared. */
export function ofTask<T extends { measure: string }>(trials: T[], task: string): T[] {
  const measure = task === 'number' ? 'RMSE' : task === 'several classes' ? 'log loss' : 'AUC'
  return trials.filter((t) => t.measure === measure)
}

/** As many digits as the interval supports: those of its half, one more than its first. */
function digits(half: number): number {
  return half > 0 ? Math.max(0, Math.min(6, -Math.floor(Math.log10(half)))) : 3
}

export function figure(measure: string, value: number | null | undefined): string {
  return measure === 'RMSE' ? number(value) : fixed(value)
}

export function figured(m: Measured): string {
  if (m.measure !== 'RMSE' || m.value == null || m.low == null || m.high == null)
    return m.measure === 'RMSE' ? number(m.value) : withInterval(m.value, m.low, m.high)
  return withInterval(m.value, m.low, m.high, digits(Math.max(m.high - m.value, m.value - m.low)))
}

/** The better of two values; nothing is worse than anything. */
export function better(measure: string, a: number | null | undefined, b: number | null | undefined): boolean {
  if (a == null) return false
  return b == null || (more(measure) ? a > b : a < b)
}

export function bestOf<T extends { measure: string; value?: number | null }>(trials: T[]): T | undefined {
  return trials.reduce<T | undefined>((best, t) => (!best || better(t.measure, t.value, best.value) ? t : best), undefined)
}

/** The stretch that marks of the figure share: from worthless to perfect for AUC, from nothing to a little over the baseline for errors. */
export function scaleOf(measure: string, baseline: number | null | undefined): [number, number] {
  return more(measure) ? [0.5, 1] : [0, 1.15 * (baseline && baseline > 0 ? baseline : 1)]
}
