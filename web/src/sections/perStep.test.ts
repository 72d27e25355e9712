import { describe, expect, it } from 'vitest'
import { perStep, toldFor } from './perStep'

const one = {
  name: 'quoted_cost',
  class: null,
  step: 100,
  told: 100,
  changed: false,
  days: false,
  against: null,
  estimate: 0.002,
  se: 0.0005,
  z: 4,
  p: 0.0001,
  low: 0.001,
  high: 0.003,
  oddsRatio: Math.exp(0.002),
  oddsLow: Math.exp(0.001),
  oddsHigh: Math.exp(0.003),
  vif: null,
}

describe('a coefficient per step', () => {
  it('is so many times the one of a unit, its odds ratio that power', () => {
    const told = perStep(one)
    expect(told.estimate).toBeCloseTo(0.2, 12)
    expect(told.se).toBeCloseTo(0.05, 12)
    expect([told.low, told.high]).toEqual([0.1, expect.closeTo(0.3, 12)])
    expect(told.oddsRatio).toBeCloseTo(Math.exp(0.2), 12)
    expect(told.oddsHigh).toBeCloseTo(Math.exp(0.3), 12)
    expect([told.z, told.p]).toEqual([4, 0.0001])
  })
  it('has no bounds where the one of a unit has none', () => {
    const told = perStep({ ...one, se: null, low: null, high: null, oddsLow: null, oddsHigh: null, oddsRatio: null })
    expect([told.se, told.low, told.oddsRatio, told.oddsHigh]).toEqual([null, null, null, null])
  })
  it.each([
    [{ ...one }, 'per 100 more'],
    [{ ...one, step: 0.001, told: 0.001 }, 'per 0.001 more'],
    [{ ...one, step: 1, told: 1 }, ''],
    [{ ...one, step: 0.7, told: 5 }, 'per 5 more'],
    [{ ...one, step: 1, told: 20 }, 'per 20 more'],
    [{ ...one, step: 0.5, told: 0.5, changed: true }, 'per 0.5 more as prepared'],
    [{ ...one, step: 1, days: true }, 'per 1 day later'],
    [{ ...one, step: 2000, days: true }, 'per 2,000 days later'],
    [{ ...one, step: 1, told: 1, against: 'none' }, 'against none'],
  ])('says what it is for: %#', (c, words) => expect(toldFor(c)).toBe(words))
})
