import { useRef, useState } from 'react'
import { number, share, whole } from '../../ui/format'
import type { BinsLook } from '../../data/preparation'

/** The cut points of bins over the distribution, with the event's share laid over it. They can be dragged, or moved with the arrow keys. */
export function CutPoints({ look, event, onCuts }: { look: BinsLook; event: string | null; onCuts: (cuts: number[]) => void }) {
  const width = 340
  const height = 120
  const box = useRef<SVGSVGElement>(null)
  const [moving, setMoving] = useState<{ i: number; at: number } | null>(null)
  const low = look.parts[0]?.low ?? 0
  const high = look.parts[look.parts.length - 1]?.high ?? 1
  const span = high - low || 1
  const x = (v: number) => Math.min(width, Math.max(0, ((v - low) / span) * width))
  const most = Math.max(1, ...look.parts.map((p) => p.count))
  const rates = look.bins.map((b) => (b.judged > 0 ? b.events / b.judged : null))
  const top = Math.max(0.01, ...rates.map((r) => r ?? 0)) * 1.15
  const y = (r: number) => height - 14 - (r / top) * (height - 24)
  const cuts = moving ? look.cuts.map((c, i) => (i === moving.i ? moving.at : c)) : look.cuts
  const round = (v: number) => Number(v.toPrecision(4))
  const valueAt = (clientX: number) => {
    const r = box.current?.getBoundingClientRect()
    return round(low + (Math.min(width, Math.max(0, clientX - (r?.left ?? 0))) / width) * span)
  }
  const edges = [low, ...look.cuts, high]
  return (
    <figure className="flush">
      <figcaption className="small">
        <b>{look.column}</b>{' '}
        <span className="soft">drag a cut, or move it with the arrow keys{event ? `; the line is the share of “${event}”` : ''}</span>
      </figcaption>
      <svg
        ref={box}
        width={width}
        height={height}
        style={{ touchAction: 'none', display: 'block' }}
        onPointerMove={(e) => moving && setMoving({ ...moving, at: valueAt(e.clientX) })}
        onPointerUp={() => {
          if (moving) onCuts(look.cuts.map((c, i) => (i === moving.i ? moving.at : c)))
          setMoving(null)
        }}
      >
        {look.parts.map((p, i) => {
          const tall = (p.count / most) * (height - 24)
          return (
            <rect
              key={i}
              x={x(p.low)}
              y={height - 14 - tall}
              width={Math.max(0.6, x(p.high) - x(p.low) - 0.6)}
              height={tall}
              fill="#D8D5CB"
            />
          )
        })}
        {rates.map(
          (r, i) =>
            r !== null && <path key={i} d={`M${x(edges[i]!)} ${y(r)}H${x(edges[i + 1]!)}`} stroke="var(--verdigris)" strokeWidth={2} />,
        )}
        <path d={`M0 ${height - 14}H${width}`} stroke="var(--ink)" />
        {cuts.map((c, i) => (
          <g
            key={i}
            role="slider"
            tabIndex={0}
            aria-label={`Cut ${i + 1} of ${look.column}`}
            aria-valuenow={c}
            aria-valuemin={low}
            aria-valuemax={high}
            style={{ cursor: 'ew-resize' }}
            onPointerDown={(e) => {
              box.current?.setPointerCapture(e.pointerId)
              setMoving({ i, at: c })
            }}
            onKeyDown={(e) => {
              const by = { ArrowLeft: -1, ArrowRight: 1, ArrowDown: -1, ArrowUp: 1, PageDown: -10, PageUp: 10 }[e.key]
              if (by !== undefined) {
                e.preventDefault()
                onCuts(look.cuts.map((o, j) => (j === i ? round(Math.min(high, Math.max(low, o + (by * span) / 100))) : o)))
              }
              if (e.key === 'Delete' && look.cuts.length > 1) onCuts(look.cuts.filter((_, j) => j !== i))
            }}
          >
            <rect x={x(c) - 6} y={0} width={12} height={height} fill="transparent" />
            <path d={`M${x(c)} 8V${height - 14}`} stroke="var(--brass)" strokeWidth={1.6} />
            <circle cx={x(c)} cy={6} r={4} fill="var(--brass)" />
          </g>
        ))}
        <text x={0} y={height - 2} fontSize={11} fill="var(--ink-soft)">
          {number(low)}
        </text>
        <text x={width} y={height - 2} fontSize={11} textAnchor="end" fill="var(--ink-soft)">
          {number(high)}
        </text>
      </svg>
      <table className="ledger above-4" aria-label="Bins">
        <thead>
          <tr>
            <th>Bin</th>
            <th className="n" style={{ width: 56 }}>
              Rows
            </th>
            <th className="n" style={{ width: 62 }} title={event ? `Share of “${event}”` : 'Choose a target to see the share of its event'}>
              Share
            </th>
            <th className="n" style={{ width: 62 }} title="Weight of evidence: above 0 the event is more frequent here than elsewhere">
              Weight
            </th>
          </tr>
        </thead>
        <tbody>
          {look.bins.slice(0, 40).map((b, i) => (
            <tr key={b.label + i}>
              <td>{b.label}</td>
              <td className="n">{whole(b.count)}</td>
              <td className="n">{rates[i] == null ? '–' : share(rates[i])}</td>
              <td className="n">{b.woe === null ? '–' : b.woe.toFixed(2).replace('-', '−')}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {look.value != null && (
        <p className="soft small">
          Information value {look.value.toFixed(3)}: under 0.02 says next to nothing, 0.1 is weak, 0.3 is strong. On unsealed rows.
        </p>
      )}
    </figure>
  )
}
