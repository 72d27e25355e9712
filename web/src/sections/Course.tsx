import { count, fixed, number, whole } from '../ui/format'
import { roundTicks } from '../ui/scale'
import type { SectionOf } from '../data/judgment'

type Rounds = SectionOf<'course'>['course']

/** How a model's error fell round by round. */
export function Course({ section }: { section: SectionOf<'course'> }) {
  return (
    <section className="pad" style={{ maxWidth: 720 }}>
      <CourseFigure course={section.course} of={section.courseOf} by={section.by} />
    </section>
  )
}

export function CourseFigure({ course, of, by }: { course: Rounds; of: string; by: string }) {
  const lines: { name: string; stroke: string; dash?: string; of: (p: Rounds[number]) => number | null | undefined }[] = [
    { name: 'rows not learned from', stroke: 'var(--verdigris)', of: (p) => p.validation },
    { name: 'training rows', stroke: 'var(--ink-soft)', dash: '4 3', of: (p) => p.training },
  ]
  const values = course.flatMap((p) => [p.training, p.validation]).filter((v): v is number => v != null)
  const marks = roundTicks([Math.min(...values), Math.max(...values)], 4)
  const [low, high] = [Math.min(...values, ...marks), Math.max(...values, ...marks)]
  const [width, height, left, bottom] = [420, 210, 46, 22]
  const last = course[course.length - 1]!.round
  const x = (t: number) => left + (t / last) * (width - left - 8)
  const y = (v: number) => 8 + ((high - v) / Math.max(1e-12, high - low)) * (height - bottom - 16)
  const judged = course.filter((p) => p.validation != null)
  const best = judged.reduce((b, p) => (p.validation! < b.validation! ? p : b), judged[0] ?? course[0]!)
  return (
    <figure className="flush">
      <h2 className="fig-title">{judged.length > 0 ? `Least error near ${count(best.round, by)}` : 'The error on training rows'}</h2>
      <p className="fig-sub">
        {of} by number of {by}s
        {judged.length > 0 && `: ${fixed(best.validation)} at its least, ${fixed(judged[judged.length - 1]!.validation)} at the end`}.
      </p>
      <svg width={width} height={height} role="img" aria-label={`${of} by number of ${by}s`} style={{ maxWidth: '100%' }}>
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
          const drawn = course.filter((p) => l.of(p) != null)
          return drawn.length > 1 ? (
            <path
              key={l.name}
              d={drawn.map((p, i) => `${i === 0 ? 'M' : 'L'}${x(p.round)} ${y(l.of(p)!)}`).join('')}
              fill="none"
              stroke={l.stroke}
              strokeWidth={1.8}
              strokeDasharray={l.dash}
            />
          ) : null
        })}
        {judged.length > 0 && by === 'epoch' && <circle cx={x(best.round)} cy={y(best.validation!)} r={4} fill="var(--verdigris)" />}
      </svg>
      <p className="small soft">
        <span style={{ color: 'var(--verdigris)' }}>━</span> rows not learned from
        {course.some((p) => p.training != null) && ' · ╌ training rows'}
      </p>
    </figure>
  )
}
