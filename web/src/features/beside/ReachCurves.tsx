import { type ReactNode, useState } from 'react'
import type { SideBySide } from '../../data/beside'
import { Chart } from '../../ui/Chart'
import { fixed, number, share, whole } from '../../ui/format'
import { roundTicks } from '../../ui/scale'
import { markOf, short } from './marks'

const WAYS = {
  calls: { label: 'by calls', x: 'called, of 100 records', y: 'caught, of 100' },
  vain: { label: 'by calls in vain', x: 'called in vain, of 100 without', y: 'caught, of 100' },
  right: { label: 'right by caught', x: 'caught, of 100', y: 'right, of 100 called' },
} as const
type Way = keyof typeof WAYS
type Point = { x: number; y: number }

const W = 206
const H = 196

/** The curves laid over each other, and what the others reach less than the first at the same place, with its interval. */
export function ReachCurves({ data }: { data: SideBySide }) {
  const [way, setWay] = useState<Way>('calls')
  const two = data.task === 'two classes'
  const curves = data.reached.map((r) => lay(data, r, two ? way : 'calls'))
  const axis = axisOf(data)
  const most = deepest(data)
  const names = data.trials.map((_, k) => short(data.trials, k))
  return (
    <section className="pad" style={{ flex: '0 1 458px', borderLeft: '1px solid var(--rule)' }} aria-label="Curves side by side">
      <Chart
        key={way}
        title={most}
        sub={`Left as they are; right what the others reach less than ${names[0]!.toLowerCase()} at the same place.`}
        height={H + 40}
        name={`trials-side-by-side-${data.trials.map((t) => t.number).join('-')}`}
        drawn={
          <svg width={2 * W + 14} height={H + 36} role="img" aria-label={most}>
            <Frame
              x={two ? WAYS[way].x : axis.name}
              y={two ? WAYS[way].y : axis.y}
              ticks={two ? [0, 25, 50, 75, 100] : axis.ticks}
              rows={[0, 25, 50, 75, 100]}
              left={0}
              span={[0, two ? 100 : axis.most]}
              up={[0, 100]}
            >
              {curves.map((points, k) => (
                <path
                  key={k}
                  d={path(points, [0, two ? 100 : axis.most], [0, 100])}
                  fill="none"
                  stroke={markOf(k).color}
                  strokeWidth={k === 0 ? 2 : 1.6}
                  {...(markOf(k).dash === undefined ? {} : { strokeDasharray: markOf(k).dash })}
                />
              ))}
            </Frame>
            <Less data={data} />
          </svg>
        }
        data={{
          heads: [axis.name, ...names, ...names.slice(1).flatMap((n) => [`${n}, less`, 'low', 'high'])],
          rows: data.xs.map((x, i) => [
            axis.write(x),
            ...data.reached.map((r) => share(r[i])),
            ...data.less.flatMap((l) => [l[i]?.value, l[i]?.low, l[i]?.high].map((v) => fixed(100 * (v ?? 0), 1))),
          ]),
        }}
        how={
          <>
            <p>{axis.how}</p>
            <p>
              The right picture subtracts the first trial’s curve. The shaded band is a 95% interval of that place alone, from the records
              that one of the two reaches and the other does not; it takes the models as they are. Records of equal chance stand in an order
              drawn once.
            </p>
          </>
        }
      />
      {two && (
        <div role="group" aria-label="Which curves" className="above-4" style={{ display: 'flex', gap: 14 }}>
          {(Object.keys(WAYS) as Way[]).map((w) => (
            <button
              key={w}
              type="button"
              className="link size-13"
              aria-pressed={w === way}
              style={w === way ? { fontWeight: 700 } : undefined}
              onClick={() => setWay(w)}
            >
              {WAYS[w].label}
            </button>
          ))}
        </div>
      )}
    </section>
  )
}

function axisOf(data: SideBySide) {
  const last = data.xs.at(-1) ?? 1
  if (data.task === 'number')
    return {
      name: 'error at most',
      y: 'records, of 100',
      ticks: roundTicks([0, last], 4),
      most: last,
      write: (x: number) => number(x),
      how: 'Each curve tells how many of 100 records are predicted with an error of at most so much. Higher is better.',
    }
  const shares = { ticks: [0, 25, 50, 75, 100], most: 100, write: (x: number) => whole(x) }
  return data.task === 'two classes'
    ? {
        ...shares,
        name: 'records called',
        y: 'caught, of 100',
        how: 'Records are called in the order of their chance, the highest first; the curve tells how many of 100 events are among them.',
      }
    : {
        ...shares,
        name: 'records, surest first',
        y: 'named right, of 100',
        how: 'Records are taken in the order in which the model is sure of its name, surest first; the curve tells how many of all records are named right by then.',
      }
}

/** A trial's points in the way that was asked for, in percent. */
function lay(data: SideBySide, reached: number[], way: Way): Point[] {
  if (data.task === 'number') return data.xs.map((x, i) => ({ x, y: 100 * (reached[i] ?? 0) }))
  const others = Math.max(1, data.rows - data.of)
  return data.xs.flatMap((x, i) => {
    const hits = (reached[i] ?? 0) * data.of
    if (way === 'vain') return [{ x: (100 * (x - hits)) / others, y: 100 * (reached[i] ?? 0) }]
    if (way === 'right') return x === 0 ? [] : [{ x: 100 * (reached[i] ?? 0), y: (100 * hits) / x }]
    return [{ x: (100 * x) / Math.max(1, data.rows), y: 100 * (reached[i] ?? 0) }]
  })
}

/** Where another one is farthest from the first, beyond its band. */
function deepest(data: SideBySide): string {
  let most: { k: number; x: number; value: number } | null = null
  data.less.forEach((line, k) =>
    line.forEach((l, i) => {
      const clear = (l.low ?? 0) > 0 || (l.high ?? 0) < 0
      if (clear && Math.abs(l.value ?? 0) > Math.abs(most?.value ?? 0)) most = { k: k + 1, x: data.xs[i] ?? 0, value: l.value ?? 0 }
    }),
  )
  const found = most as { k: number; x: number; value: number } | null
  if (!found) return 'Nowhere do they part by more than noise'
  const verb = found.value < 0 ? 'trails' : 'leads'
  const where =
    data.task === 'number'
      ? `at errors up to ${number(found.x)}`
      : `at ${Math.round((100 * found.x) / Math.max(1, data.rows))} of 100 records`
  return `${short(data.trials, found.k)} ${verb} most ${where}`
}

function path(points: Point[], [x0, x1]: [number, number], [y0, y1]: [number, number], from = 0): string {
  return points.map((p, i) => `${i === 0 ? 'M' : 'L'}${(from + px(p.x, x0, x1)).toFixed(1)} ${py(p.y, y0, y1).toFixed(1)}`).join('')
}

const px = (x: number, x0: number, x1: number) => 34 + ((Math.min(x, x1) - x0) / Math.max(1e-12, x1 - x0)) * (W - 46)
const py = (y: number, y0: number, y1: number) => 6 + (1 - (y - y0) / Math.max(1e-12, y1 - y0)) * (H - 14)

function Frame({
  x,
  y,
  ticks,
  rows,
  left,
  span,
  up,
  children,
}: {
  x: string
  y: string
  ticks: number[]
  rows: number[]
  left: number
  span: [number, number]
  up: [number, number]
  children: ReactNode
}) {
  const text = { fontSize: 11, fill: '#5b6663' }
  return (
    <g transform={`translate(${left} 0)`}>
      {rows.map((v) => (
        <g key={v}>
          <path d={`M34 ${py(v, ...up)}H${W - 12}`} stroke={v === 0 ? '#b9af9b' : '#dcd4c4'} />
          <text x={29} y={py(v, ...up) + 4} textAnchor="end" {...text}>
            {number(v)}
          </text>
        </g>
      ))}
      {ticks.map((v) => (
        <text key={v} x={px(v, ...span)} y={H + 8} textAnchor="middle" {...text}>
          {number(v)}
        </text>
      ))}
      <text x={(34 + W - 12) / 2} y={H + 24} textAnchor="middle" {...text}>
        {x}
      </text>
      <text x={W - 12} y={H - 16} textAnchor="end" {...text}>
        {y}
      </text>
      {children}
    </g>
  )
}

/** What each other trial reaches less than the first, with its band. */
function Less({ data }: { data: SideBySide }) {
  const number = data.task === 'number'
  const xs = data.xs.map((x) => (number ? x : (100 * x) / Math.max(1, data.rows)))
  const span: [number, number] = [0, number ? (data.xs.at(-1) ?? 1) : 100]
  const all = data.less.flatMap((l) => l.flatMap((p) => [100 * (p.low ?? 0), 100 * (p.high ?? 0)]))
  const up: [number, number] = [Math.min(-1, ...all), Math.max(1, ...all)]
  return (
    <Frame x="the same" y="less, of 100" ticks={roundTicks(span, 4)} rows={roundTicks(up, 5)} left={W + 14} span={span} up={up}>
      <path d={`M34 ${py(0, ...up)}H${W - 12}`} stroke={markOf(0).color} strokeWidth="2" />
      {data.less.map((line, k) => {
        const at = (of: (p: (typeof line)[number]) => number) => line.map((p, i) => ({ x: xs[i] ?? 0, y: 100 * of(p) }))
        const back = at((p) => p.low ?? 0).reverse()
        return (
          <g key={k}>
            <path
              d={`${path(
                at((p) => p.high ?? 0),
                span,
                up,
              )}${path(back, span, up).replace('M', 'L')}Z`}
              fill={markOf(k + 1).color}
              opacity="0.14"
            />
            <path
              d={path(
                at((p) => p.value ?? 0),
                span,
                up,
              )}
              fill="none"
              stroke={markOf(k + 1).color}
              strokeWidth="1.8"
              {...(markOf(k + 1).dash === undefined ? {} : { strokeDasharray: markOf(k + 1).dash })}
            />
          </g>
        )
      })}
    </Frame>
  )
}
