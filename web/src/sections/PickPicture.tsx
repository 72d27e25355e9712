import { useState } from 'react'
import type { View } from '../api/client'
import { type Picked, usePickPicture } from '../data/judgment'
import { Chart } from '../ui/Chart'
import { date, number, tick, whole } from '../ui/format'
import { roundTicks } from '../ui/scale'
import { Slot } from '../ui/Slot'
import { Loading, Trouble } from '../ui/Trouble'

type Axis = View<'AxisView'>
type Span = [number, number]

const W = 620
const H = 300
const DAY = 86_400_000

/** The records of a cell or a band, on any two columns, laid over all the others. */
export function PickPicture({ trialId, picked, what }: { trialId: number; picked: Picked; what: string }) {
  const [x, setX] = useState('')
  const [y, setY] = useState('')
  const picture = usePickPicture(trialId, picked, x, y, true)
  const data = picture.data
  if (!data) return picture.error ? <Trouble known error={picture.error} /> : <Loading what="the picture" />
  const choices = data.columns.map((c) => ({ value: c, label: c }))
  const across = spanOf(data.x, [...data.picked.map((p) => p[0]!), ...data.others.map((p) => p[0]!)])
  const up = spanOf(data.y, [...data.picked.map((p) => p[1]!), ...data.others.map((p) => p[1]!)])
  const place = (p: number[], i: number): [number, number] => [
    px(p[0]! + shake(data.x, i, 0.618034), across),
    py(p[1]! + shake(data.y, i, 0.414214), up),
  ]
  return (
    <div className="pad">
      <Trouble known error={picture.error} />
      <p className="sentence size-13">
        Across <Slot label="Column across" value={data.x.name} choices={choices} onChange={setX} />, upward{' '}
        <Slot label="Column upward" value={data.y.name} choices={choices} onChange={setY} />
      </p>
      <Chart
        title={`${whole(data.total)} ${what}, on ${data.x.name} and ${data.y.name}`}
        sub={`Filled: these${data.picked.length < data.total - data.missing ? `, the ${whole(data.picked.length)} most mistaken` : ''}. Pale: ${data.others.length < data.rest ? `${whole(data.others.length)} of ` : ''}the ${whole(data.rest)} others.${data.missing > 0 ? ` ${whole(data.missing)} have no value in one of the two.` : ''}`}
        height={H + 42}
        name={`records-${trialId}`}
        drawn={
          <svg width={W} height={H + 40} role="img" aria-label={`${what} on ${data.x.name} and ${data.y.name}`}>
            {marksOf(data.y, up).map(([v, text]) => (
              <g key={`y${v}`}>
                <path d={`M92 ${py(v, up)}H${W - 8}`} stroke="#dcd4c4" />
                <text x={86} y={py(v, up) + 4} textAnchor="end" fontSize="11" fill="#5b6663">
                  {text.slice(0, 14)}
                </text>
              </g>
            ))}
            {marksOf(data.x, across).map(([v, text], _, all) => (
              <text key={`x${v}`} x={px(v, across)} y={H + 14} textAnchor="middle" fontSize="11" fill="#5b6663">
                {text.slice(0, Math.max(4, Math.floor(90 / all.length)))}
              </text>
            ))}
            <text x={(92 + W) / 2} y={H + 32} textAnchor="middle" fontSize="11" fill="#5b6663">
              {data.x.name}
            </text>
            {data.others.map((p, i) => {
              const [cx, cy] = place(p, i)
              return <circle key={i} cx={cx} cy={cy} r={1.8} fill="#b9af9b" opacity="0.55" />
            })}
            {data.picked.map((p, i) => {
              const [cx, cy] = place(p, i)
              return <circle key={i} cx={cx} cy={cy} r={2.8} fill="#a5382b" opacity="0.8" stroke="#fffdf8" strokeWidth="0.6" />
            })}
          </svg>
        }
        data={{
          heads: ['record', data.x.name, data.y.name],
          rows: data.picked.map((p) => [p[2]!, said(data.x, p[0]!), said(data.y, p[1]!)]),
        }}
        how={
          <p>
            Each filled dot is one of the records you opened, each pale one a record that is not among them, both of rows that the model had
            not seen. Where filled dots lie closer together than pale ones, this kind of mistake is frequent. Values of a category are
            spread a little around their place, so that dots do not cover each other.
          </p>
        }
      />
    </div>
  )
}

const px = (v: number, [low, high]: Span) => 96 + ((v - low) / Math.max(1e-12, high - low)) * (W - 112)
const py = (v: number, [low, high]: Span) => 6 + (1 - (v - low) / Math.max(1e-12, high - low)) * (H - 12)

function spanOf(axis: Axis, values: number[]): Span {
  if (axis.kind === 'category') return [-0.6, axis.labels.length - 0.4]
  const sorted = values.filter(Number.isFinite).sort((a, b) => a - b)
  if (sorted.length === 0) return [0, 1]
  const [low, high] = [sorted[0]!, sorted[sorted.length - 1]!]
  return low === high ? [low - 1, high + 1] : [low, high]
}

/** The same dot always at the same place: no draw, so that a picture can be made again. */
function shake(axis: Axis, i: number, step: number): number {
  return axis.kind === 'category' ? (((i + 1) * step) % 1) * 0.7 - 0.35 : 0
}

function said(axis: Axis, v: number): string {
  if (axis.kind === 'category') return axis.labels[Math.round(v)] ?? ''
  return axis.kind === 'date' ? date(new Date(v * DAY).toISOString()) : number(v)
}

function marksOf(axis: Axis, span: Span): [number, string][] {
  if (axis.kind === 'category') return axis.labels.map((l, i) => [i, l])
  return roundTicks(span, 5).map((v) => [v, axis.kind === 'date' ? said(axis, v) : tick(v)])
}
