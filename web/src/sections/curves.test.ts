import { describe, expect, it } from 'vitest'
import type { FigureLine } from '../data/judgment'
import { caughtAt, CURVES, type Drawn, pointsOf } from './curves'

/** Ten records, four with the event, in the order of their chance: yes no yes yes no no yes no no no. */
const outcomes = [1, 0, 1, 1, 0, 0, 1, 0, 0, 0]
const line = (key: string, value: number, low: number | null = null, high: number | null = null): FigureLine => ({
  figure: { key, name: key, more: true, inUnits: false, inShare: false },
  says: '',
  interval: { value, low, high },
})
const roc: (number | null)[][] = [[0, 0, null]]
outcomes.forEach((_, i) => {
  const called = outcomes.slice(0, i + 1)
  const caught = called.filter(Boolean).length
  roc.push([(called.length - caught) / 6, caught / 4, 0.95 - i / 10])
})
const figures = { rows: 12, unanswered: 2, events: 4, baseRate: 0.4, roc, figures: [line('auc', 0.75, 0.4, 1)] } satisfies Drawn
const nobody: Drawn = { rows: 0, unanswered: 0, events: 0, baseRate: 0, roc: [], figures: [] }

describe('points of the curves', () => {
  it('count the called, the caught and what is right among them', () => {
    const points = pointsOf(figures)
    expect(points).toHaveLength(11)
    expect(points[0]).toEqual({ cutoff: null, called: 0, caught: 0, vain: 0, precision: null, lift: null })
    expect(points[4]!.called).toBeCloseTo(0.4, 12)
    expect(points[4]!.precision).toBeCloseTo(0.75, 12)
    expect(points[4]!.lift).toBeCloseTo(1.875, 12)
    expect(points.at(-1)).toMatchObject({ called: 1, caught: 1, vain: 1 })
    expect(points.at(-1)!.precision).toBeCloseTo(0.4, 12)
  })

  it.each([
    [0, 0],
    [0.1, 0.25],
    [0.25, 0.375],
    [0.4, 0.75],
    [1, 1],
  ])('when a share of %f is called, %f is caught', (called, caught) => expect(caughtAt(pointsOf(figures), called)).toBeCloseTo(caught, 12))

  it('are none where there was nothing to measure', () => {
    expect(pointsOf(nobody)).toEqual([])
    expect(caughtAt([], 0.1)).toBe(1)
  })
})

describe('each curve', () => {
  it.each([
    ['roc', 'It does not rank better than doing nothing', 'AUC 0.750, 0.400 to 1.000; doing nothing 0.500.', '0.750'],
    ['precision', 'To catch half, 67 of 100 calls are right', 'Average precision 0.800; doing nothing 0.400.', '0.800'],
    ['gains', 'The first tenth holds 25 of 100 “yes”', 'What is caught when so many are called, the highest chances first.', '25'],
    [
      'lift',
      'In the first tenth the event is 2.5 times as frequent',
      'Share with the event among the called, over the share among all.',
      '2.5',
    ],
    ['ks', 'It parts both best at a cut-off of 65%', 'Kolmogorov-Smirnov distance 0.583; doing nothing 0.', '0.583'],
  ])('%s says what it finds', (name, title, sub, value) => {
    const curve = CURVES.find((c) => c.name === name)!
    const known = { ...figures, figures: [...figures.figures, line('averagePrecision', 0.8), line('ks', 7 / 12)] }
    const points = pointsOf(known)
    expect(curve.title(known, points, 'yes')).toBe(title)
    expect(curve.sub(known)).toBe(sub)
    expect(curve.value(known, points)).toBe(value)
    const [from, to] = curve.nothing(0.4)
    expect([...from, ...to].every((v) => v >= 0 && v <= 1)).toBe(true)
  })

  it('has a title where nobody has the event', () => {
    const empty = { ...nobody, rows: 3 }
    for (const curve of CURVES) expect(curve.title(empty, pointsOf(empty), 'yes')).not.toMatch(/NaN|undefined/)
  })
})
