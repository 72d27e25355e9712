import { fixed, share, whole } from '../ui/format'
import { figureOf, type Interval, type SectionOf } from '../data/judgment'

/** What the curves are drawn from. */
export type Drawn = Pick<SectionOf<'event'>, 'rows' | 'unanswered' | 'events' | 'baseRate' | 'figures' | 'roc'>

/** One cut-off on all the curves. */
export type Point = {
  cutoff: number | null
  /** Share of all rows that is called. */
  called: number
  /** Share of those with the event that is called. */
  caught: number
  /** Share of those without it that is called. */
  vain: number
  /** Share of the called with the event; unknown while nobody is called. */
  precision: number | null
  /** The same over the average. */
  lift: number | null
}

export function pointsOf(figures: Drawn): Point[] {
  const answered = figures.rows - figures.unanswered
  const events = Math.round(figures.baseRate * answered)
  const others = answered - events
  const rate = answered > 0 ? events / answered : 0
  return figures.roc.map(([vain = 0, caught = 0, cutoff = null]) => {
    vain ??= 0
    caught ??= 0
    const calls = caught * events + vain * others
    const precision = calls > 0 ? (caught * events) / calls : null
    return {
      cutoff,
      called: calls / Math.max(1, answered),
      caught,
      vain,
      precision,
      lift: precision !== null && rate > 0 ? precision / rate : null,
    }
  })
}

/** What is caught when so large a share is called, between the two nearest points. */
export function caughtAt(points: Point[], called: number): number {
  const after = points.findIndex((p) => p.called >= called)
  const b = points[after]
  const a = points[after - 1]
  if (!b) return 1
  if (!a || b.called === a.called) return b.caught
  return a.caught + ((called - a.called) / (b.called - a.called)) * (b.caught - a.caught)
}

const most = (points: Point[]) =>
  points.reduce<Point | null>((best, p) => (best === null || p.caught - p.vain > best.caught - best.vain ? p : best), null)

const NONE: Interval = { value: null, low: null, high: null }

function interval(drawn: Drawn, key: string): Interval {
  return figureOf(drawn.figures, key)?.interval ?? NONE
}

type CurveName = 'roc' | 'precision' | 'gains' | 'lift' | 'ks'

export type Curve = {
  name: CurveName
  label: string
  /** The figure under the small drawing. */
  value: (figures: Drawn, points: Point[]) => string
  title: (figures: Drawn, points: Point[], event: string) => string
  sub: (figures: Drawn) => string
  x: { of: keyof Point; name: string }
  y: { of: 'caught' | 'precision' | 'lift'; also?: 'vain'; name: string }
  /** From and to what doing nothing goes. */
  nothing: (rate: number) => [[number, number], [number, number]]
  how: string[]
}

const said = (i: Interval) => `${fixed(i.value)}${i.low != null ? `, ${fixed(i.low)} to ${fixed(i.high)}` : ''}`

export const CURVES: Curve[] = [
  {
    name: 'roc',
    label: 'ROC',
    value: (f) => fixed(interval(f, 'auc').value),
    title: (f) =>
      (interval(f, 'auc').low ?? 0) > 0.5 ? 'It ranks better than doing nothing' : 'It does not rank better than doing nothing',
    sub: (f) => `AUC ${said(interval(f, 'auc'))}; doing nothing 0.500.`,
    x: { of: 'vain', name: 'called in vain, of 100 without the event' },
    y: { of: 'caught', name: 'Caught, of 100' },
    nothing: () => [
      [0, 0],
      [1, 1],
    ],
    how: [
      'Going through the cut-offs from high to low, the curve shows which share of the records with the event is caught, against which share of the others is called in vain.',
      'The dashed line is what calling at random would reach. The area under the curve (AUC) is the chance that a record with the event gets a higher chance than one without; its interval is DeLong’s.',
    ],
  },
  {
    name: 'precision',
    label: 'Precision',
    value: (f) => fixed(interval(f, 'averagePrecision').value),
    title: (_, points, event) => {
      const half = points.find((p) => p.caught >= 0.5)
      return half?.precision != null
        ? `To catch half, ${whole(100 * half.precision)} of 100 calls are right`
        : `Of those called, how many are “${event}”`
    },
    sub: (f) => `Average precision ${said(interval(f, 'averagePrecision'))}; doing nothing ${fixed(f.baseRate)}.`,
    x: { of: 'caught', name: 'caught, of 100 with the event' },
    y: { of: 'precision', name: 'Right, of 100 called' },
    nothing: (rate) => [
      [0, rate],
      [1, rate],
    ],
    how: [
      'For each share caught (to the right), the curve shows how many of the called have the event. Where the event is rare this says more than the ROC curve, for the many without it do not flatter it.',
      'The dashed line is the average share: what calling at random is right in. Average precision is the area in steps, without smoothing; its interval comes from drawing the records again.',
    ],
  },
  {
    name: 'gains',
    label: 'Gains, 10%',
    value: (_, points) => whole(100 * caughtAt(points, 0.1)),
    title: (_, points, event) => `The first tenth holds ${whole(100 * caughtAt(points, 0.1))} of 100 “${event}”`,
    sub: () => 'What is caught when so many are called, the highest chances first.',
    x: { of: 'called', name: 'called, of 100 in all' },
    y: { of: 'caught', name: 'Caught, of 100' },
    nothing: () => [
      [0, 0],
      [1, 1],
    ],
    how: [
      'Records are called in the order of their chance. When the budget is enough for a tenth of all, read above 10 which share of all events that catches.',
      'The dashed line is calling at random: a tenth of the calls catches a tenth of the events.',
    ],
  },
  {
    name: 'lift',
    label: 'Lift, 10%',
    value: (_, points) => (caughtAt(points, 0.1) * 10).toFixed(1),
    title: (_, points) => `In the first tenth the event is ${(caughtAt(points, 0.1) * 10).toFixed(1)} times as frequent`,
    sub: () => 'Share with the event among the called, over the share among all.',
    x: { of: 'called', name: 'called, of 100 in all' },
    y: { of: 'lift', name: 'Times the average' },
    nothing: () => [
      [0, 1],
      [1, 1],
    ],
    how: [
      'How many times as frequent the event is among those called as among all. A lift of 3 for the first tenth means that three times as many are caught as by calling a tenth at random.',
      'At the far left few records decide, so the curve jumps there.',
    ],
  },
  {
    name: 'ks',
    label: 'KS',
    value: (f) => fixed(interval(f, 'ks').value),
    title: (_, points) => {
      const at = most(points)
      return at?.cutoff != null ? `It parts both best at a cut-off of ${share(at.cutoff, 0)}` : 'How far both are parted'
    },
    sub: (f) => `Kolmogorov-Smirnov distance ${said(interval(f, 'ks'))}; doing nothing 0.`,
    x: { of: 'called', name: 'called, of 100 in all' },
    y: { of: 'caught', also: 'vain', name: 'Called, of 100' },
    nothing: () => [
      [0, 0],
      [1, 1],
    ],
    how: [
      'Two curves: the share called of those with the event (solid) and of those without (brass). Their greatest distance is the Kolmogorov-Smirnov figure.',
      'The cut-off where they are farthest apart treats a missed event and a call in vain alike, by share; where costs differ another one is better.',
    ],
  },
]
