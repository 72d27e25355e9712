import { useState } from 'react'
import { whole } from '../../ui/format'

const W = 480
const H = 118
const LEFT = 42

type Props = {
  /** Records by bin, over the whole scale. */
  all: number[]
  /** Of them those in front. */
  on: number[]
  scale: [number, number]
  marks: number[]
  edges: number[]
  step: number
  /** What an edge is called, for those who cannot see it. */
  label: (k: number) => string
  write: (value: number) => string
  onEdges: (edges: number[]) => void
  /** Whether bands between edges are counted in words; the ends of one band may lie at the ends of the scale. */
  count?: boolean
}

/** A histogram with edges that are dragged, or moved by arrow keys. */
export function EdgedHistogram({ all, on, scale, marks, edges, step, label, write, onEdges, count = true }: Props) {
  const [moving, setMoving] = useState<{ k: number; at: number } | null>(null)
  const shown = edges.map((e, k) => (moving?.k === k ? moving.at : e))
  const most = Math.max(1, ...all)
  const reach = scale[1] - scale[0] || 1
  const x = (v: number) => LEFT + ((v - scale[0]) / reach) * (W - LEFT - 8)
  const y = (n: number) => H - (n / most) * (H - 22)
  const at = (i: number) => scale[0] + (reach * i) / all.length
  const within = (k: number, to: number) => {
    const least = k > 0 ? edges[k - 1]! + step : scale[0] + (count ? step : 0)
    const limit = k < edges.length - 1 ? edges[k + 1]! - step : scale[1] - (count ? step : 0)
    return Number(Math.min(limit, Math.max(least, to)).toPrecision(6))
  }
  const done = () => {
    if (moving && moving.at !== edges[moving.k]) onEdges(edges.map((e, k) => (k === moving.k ? moving.at : e)))
    setMoving(null)
  }
  const bands = [scale[0], ...shown, scale[1]]
  const inBand = (of: number[], k: number) =>
    of.reduce((n, c, i) => {
      const middle = (at(i) + at(i + 1)) / 2
      return n + (middle >= bands[k]! && middle < bands[k + 1]! ? c : 0)
    }, 0)
  return (
    <svg
      viewBox={`0 0 ${W} ${H + 22}`}
      width="100%"
      height={H + 22}
      style={{ touchAction: 'none', display: 'block' }}
      onPointerMove={(e) => {
        if (!moving) return
        const box = e.currentTarget.getBoundingClientRect()
        const to = scale[0] + ((((e.clientX - box.left) / box.width) * W - LEFT) / (W - LEFT - 8)) * reach
        setMoving({ k: moving.k, at: within(moving.k, Math.round(to / step) * step) })
      }}
      onPointerUp={done}
      onPointerLeave={done}
    >
      <g fontSize="11" fill="#5C6664" fontFamily="Public Sans, sans-serif">
        {[0, 0.5, 1].map((s) => (
          <g key={s}>
            <path d={`M${LEFT} ${y(s * most)}H${W - 8}`} stroke="#E4DCCB" />
            <text x={LEFT - 5} y={y(s * most) + 4} textAnchor="end">
              {whole(Math.round(s * most))}
            </text>
          </g>
        ))}
        {shown.length > 1 && (
          <rect
            x={x(shown[0]!)}
            width={Math.max(0, x(shown[shown.length - 1]!) - x(shown[0]!))}
            y={12}
            height={H - 12}
            fill="#F5E9D0"
            opacity="0.7"
          />
        )}
        {all.map((n, i) => {
          const left = x(at(i))
          const width = Math.max(0.5, x(at(i + 1)) - left - 1)
          return (
            <g key={i}>
              <rect x={left} y={y(n)} width={width} height={H - y(n)} fill="#CFC5B2" />
              <rect x={left} y={y(on[i] ?? 0)} width={width} height={H - y(on[i] ?? 0)} fill="#1F6F5F" />
            </g>
          )
        })}
        <path d={`M${LEFT} ${H}H${W - 8}`} stroke="#1D2A2A" />
        {marks.map((m, k) => (
          <text key={m} x={x(m)} y={H + 15} textAnchor={k === marks.length - 1 ? 'end' : 'middle'}>
            {write(m)}
          </text>
        ))}
        {count &&
          bands.slice(0, -1).map((low, k) => {
            const width = x(bands[k + 1]!) - x(low)
            return width < 46 ? null : (
              <text key={k} x={x(low) + width / 2} y={10} textAnchor="middle" fill="#1D2A2A">
                {whole(inBand(on, k))} of {whole(inBand(all, k))}
              </text>
            )
          })}
        {shown.map((edge, k) => (
          <g
            key={k}
            role="slider"
            tabIndex={0}
            aria-label={label(k)}
            aria-valuemin={scale[0]}
            aria-valuemax={scale[1]}
            aria-valuenow={edge}
            aria-valuetext={write(edge)}
            style={{ cursor: 'ew-resize' }}
            onPointerDown={(e) => {
              e.currentTarget.focus()
              setMoving({ k, at: edge })
            }}
            onKeyDown={(e) => {
              const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 5, PageDown: -5 }[e.key]
              if (by === undefined) return
              e.preventDefault()
              const to = within(k, edge + by * step)
              if (to !== edges[k]) onEdges(edges.map((o, i) => (i === k ? to : o)))
            }}
          >
            <path d={`M${x(edge)} 12V${H + 4}`} stroke="#8A5716" strokeWidth="1.5" />
            <path d={`M${x(edge)} 12V${H + 4}`} stroke="transparent" strokeWidth="16" />
            <circle cx={x(edge)} cy={H + 2} r="6" fill="#FFFDF8" stroke="#8A5716" strokeWidth="1.5" />
          </g>
        ))}
      </g>
    </svg>
  )
}
