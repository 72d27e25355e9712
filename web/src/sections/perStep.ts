import { count, number } from '../ui/format'
import type { SectionOf } from '../data/judgment'

type Coefficient = SectionOf<'coefficients'>['coefficients'][number]

/** A coefficient as it is told: for a step that means something, since one pound or one day more hardly ever does. */
export function perStep(c: Coefficient): Coefficient {
  const times = (v: number | null | undefined) => (v == null ? null : v * c.step)
  const power = (v: number | null | undefined) => (v == null ? null : v ** c.step)
  return {
    ...c,
    estimate: c.estimate * c.step,
    se: times(c.se),
    low: times(c.low),
    high: times(c.high),
    oddsRatio: power(c.oddsRatio),
    oddsLow: power(c.oddsLow),
    oddsHigh: power(c.oddsHigh),
  }
}

/** "per 100 more", of a changed column "per 0.5 more as prepared", "per 30 days later", "against Aldo"; nothing for the constant and for marks. */
export function toldFor(c: Coefficient): string {
  if (c.against != null) return `against ${c.against}`
  if (c.days) return `per ${count(c.step, 'day')} later`
  if (c.step === 1 && c.told === 1 && !c.changed) return ''
  return `per ${number(c.told)} more${c.changed ? ' as prepared' : ''}`
}
