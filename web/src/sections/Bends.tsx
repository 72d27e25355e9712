import { number, signed } from '../ui/format'
import { roundTicks } from '../ui/scale'
import type { SectionOf } from '../data/judgment'

/** Numbers that a regression follows along a curve, each with its knots. */
export function Bends({ section }: { section: SectionOf<'bends'> }) {
  return (
    <section className="pad">
      <h2 className="fig-title">{section.bends.length === 1 ? 'One number bends' : `${section.bends.length} numbers bend`}</h2>
      <p className="fig-sub">
        What each adds{section.isOdds ? ' to the log-odds' : ''} against its middle knot; straight beyond the outer knots, which are marked.
        {section.bends.some((b) => b.half.length > 0) && ' The band is the 95 % interval of each point.'}
      </p>
      <div className="wraps" style={{ gap: 24 }}>
        {section.bends.map((b) => (
          <Bend key={b.column} bend={b} />
        ))}
      </div>
    </section>
  )
}

function Bend({ bend }: { bend: SectionOf<'bends'>['bends'][number] }) {
  const [w, h, left, bottom] = [360, 190, 48, 24]
  const edge = (side: -1 | 1) => bend.adds.map((v, i) => v + side * (bend.half[i] ?? 0))
  const marks = roundTicks([Math.min(0, ...edge(-1)), Math.max(0, ...edge(1))], 4)
  const [low, high] = [Math.min(...marks, ...edge(-1)), Math.max(...marks, ...edge(1))]
  const ends: [number, number] = [bend.at[0]!, bend.at[bend.at.length - 1]!]
  const x = (v: number) => left + ((v - ends[0]) / (ends[1] - ends[0])) * (w - left - 8)
  const y = (v: number) => 8 + ((high - v) / Math.max(1e-12, high - low)) * (h - bottom - 12)
  const points = (values: number[]) => bend.at.map((v, i) => `${x(v)} ${y(values[i]!)}`)
  const least = bend.adds.indexOf(Math.min(...bend.adds))
  const most = bend.adds.indexOf(Math.max(...bend.adds))
  return (
    <figure className="flush" style={{ flex: '0 1 380px' }}>
      <h3 className="size-13">
        <b>{bend.column}</b>{' '}
        <span className="soft">
          least near {number(bend.at[least], 3)}, most near {number(bend.at[most], 3)}
        </span>
      </h3>
      <svg
        viewBox={`0 0 ${w} ${h}`}
        width="100%"
        role="img"
        aria-label={`Curve of ${bend.column}, from ${number(ends[0], 3)} to ${number(ends[1], 3)}`}
      >
        {marks.map((v) => (
          <g key={v}>
            <path d={`M${left} ${y(v)}H${w - 8}`} stroke={v === 0 ? 'var(--ink-soft)' : 'var(--rule)'} />
            <text x={left - 6} y={y(v) + 4} textAnchor="end" className="ax">
              {signed(v)}
            </text>
          </g>
        ))}
        {bend.knots.map((k) => (
          <path key={k} d={`M${x(k)} ${h - bottom}v6`} stroke="var(--ink)" />
        ))}
        {roundTicks(ends, 5).map((t) => (
          <text key={t} x={x(t)} y={h - 4} textAnchor="middle" className="ax">
            {number(t)}
          </text>
        ))}
        {bend.half.length > 0 && (
          <path d={`M${[...points(edge(1)), ...points(edge(-1)).reverse()].join('L')}Z`} fill="var(--verdigris)" fillOpacity={0.14} />
        )}
        <path d={`M${points(bend.adds).join('L')}`} fill="none" stroke="var(--verdigris)" strokeWidth={2} />
      </svg>
    </figure>
  )
}
