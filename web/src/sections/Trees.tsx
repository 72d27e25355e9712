import { count, fixed, number, share, whole } from '../ui/format'
import { roundTicks } from '../ui/scale'
import type { SectionOf } from '../data/judgment'

/** What a forest or a boosted model leans on, and how its error fell with the number of trees. */
export function Trees({ section }: { section: SectionOf<'trees'> }) {
  const most = Math.max(...section.importance.map((i) => i.share), 1e-9)
  const sums = section.importance.map((_, at) => section.importance.slice(0, at + 1).reduce((s, i) => s + i.share, 0))
  const half = 1 + sums.findIndex((s) => s >= 0.5)
  return (
    <div className="wraps">
      <section className="pad" style={{ flex: '1 1 460px' }}>
        <h2 className="fig-title">
          {half === 1 ? 'One column does' : `${half} columns do`} half of the work, {section.importance[0]?.column} most
        </h2>
        <p className="fig-sub">
          Importance inside the model: the share of all that its divisions gained on training rows, by column; columns with many values gain
          more of it by chance.
        </p>
        <table className="ledger" aria-label="Importance">
          <thead>
            <tr>
              <th>Column</th>
              <th className="n" style={{ width: 76 }}>
                Share
              </th>
              <th style={{ width: 190 }}>
                <span className="sr">Drawn</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {section.importance.map((i) => (
              <tr key={i.column}>
                <td className="nm" title={i.column}>
                  {i.column}
                </td>
                <td className="n">{share(i.share)}</td>
                <td>
                  <svg width={170} height={10} aria-hidden="true">
                    <rect width={(i.share / most) * 170} height={10} fill="var(--verdigris)" />
                  </svg>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      {section.course.length > 1 && (
        <section className="pad" style={{ flex: '1 1 420px', borderLeft: '1px solid var(--rule)' }}>
          <Curve section={section} />
        </section>
      )}
    </div>
  )
}

function Curve({ section }: { section: SectionOf<'trees'> }) {
  const points = section.course
  const lines: { name: string; stroke: string; dash?: string; of: (p: (typeof points)[number]) => number | null | undefined }[] = [
    { name: 'rows not learned from', stroke: 'var(--verdigris)', of: (p) => p.validation },
    { name: 'training rows', stroke: 'var(--ink-soft)', dash: '4 3', of: (p) => p.training },
  ]
  const values = points.flatMap((p) => [p.training, p.validation]).filter((v): v is number => v != null)
  const marks = roundTicks([Math.min(...values), Math.max(...values)], 4)
  const [low, high] = [Math.min(...values, ...marks), Math.max(...values, ...marks)]
  const [width, height, left, bottom] = [420, 210, 46, 22]
  const last = points[points.length - 1]!.trees
  const x = (t: number) => left + (t / last) * (width - left - 8)
  const y = (v: number) => 8 + ((high - v) / Math.max(1e-12, high - low)) * (height - bottom - 16)
  const judged = points.filter((p) => p.validation != null)
  const best = judged.reduce((b, p) => (p.validation! < b.validation! ? p : b), judged[0] ?? points[0]!)
  return (
    <figure className="flush">
      <h2 className="fig-title">{judged.length > 0 ? `Least error near ${count(best.trees, 'tree')}` : 'The error on training rows'}</h2>
      <p className="fig-sub">
        {section.courseOf} by number of trees
        {judged.length > 0 && `: ${fixed(best.validation)} at its least, ${fixed(judged[judged.length - 1]!.validation)} at the end`}.
      </p>
      <svg width={width} height={height} role="img" aria-label={`${section.courseOf} by number of trees`} style={{ maxWidth: '100%' }}>
        {marks.map((v) => (
          <g key={v}>
            <path d={`M${left} ${y(v)}H${width - 8}`} stroke="var(--rule)" />
            <text x={left - 6} y={y(v) + 4} textAnchor="end" className="ax">
              {number(v)}
            </text>
          </g>
        ))}
        {roundTicks([1, last], 4).map((t) => (
          <text key={t} x={x(t)} y={height - 6} textAnchor={x(t) > width - 20 ? 'end' : 'middle'} className="ax">
            {whole(t)}
          </text>
        ))}
        {lines.map((l) => {
          const drawn = points.filter((p) => l.of(p) != null)
          return drawn.length > 1 ? (
            <path
              key={l.name}
              d={drawn.map((p, i) => `${i === 0 ? 'M' : 'L'}${x(p.trees)} ${y(l.of(p)!)}`).join('')}
              fill="none"
              stroke={l.stroke}
              strokeWidth={1.8}
              strokeDasharray={l.dash}
            />
          ) : null
        })}
      </svg>
      <p className="small soft">
        <span style={{ color: 'var(--verdigris)' }}>━</span> rows not learned from
        {points.some((p) => p.training != null) && ' · ╌ training rows'}
      </p>
    </figure>
  )
}
