import { Button } from '@mui/material'
import { useNavigate } from 'react-router'
import { type Effect, type Search, useStartSearch } from '../../data/search'
import type { View } from '../../api/client'
import { share } from '../../ui/format'
import { figure, type Figure } from '../../ui/measure'
import { Trouble } from '../../ui/Trouble'

const [WIDE, HIGH, LEFT] = [220, 116, 40]

/** One small picture for each varied setting: median, middle half and best of the tries at each of its values. */
export function SettingParts({ search: s, studyId }: { search: Search; studyId: number }) {
  const go = useNavigate()
  const start = useStartSearch(studyId)
  const all = s.effects.flatMap((e) => e.parts.flatMap((p) => [p.quarter, p.threeQuarters, p.best, p.median]))
  const range: [number, number] = [Math.min(...all), Math.max(...all)]
  const [first, ...others] = s.effects
  const widen = (e: Effect) => {
    const asked = s.asked as unknown as {
      spaces: { learner: string; settings: Record<string, unknown> }[]
      variants: { id: number }[]
      choices: ({ names: string[]; without: boolean } | null)[]
      named: string[]
      way: View<'SearchRequest'>['way']
      tries: number | null
      seed: number
      part: number | null
    }
    const learner = s.best[0]!.learner
    start.mutate(
      {
        spaces: asked.spaces
          .filter((q) => q.learner === learner)
          .map((q) => ({ learner: q.learner, settings: { ...q.settings, [e.name]: e.widened } })),
        variantIds: asked.variants.map((v) => v.id),
        choices: asked.choices.flatMap((c, i) => (c ? [{ ...c, name: asked.named[i] ?? '' }] : [])),
        allColumns: asked.choices.includes(null),
        ...(asked.way === undefined ? {} : { way: asked.way }),
        tries: asked.tries,
        seed: asked.seed,
        rows: asked.part,
      },
      { onSuccess: (j) => void go(`/study/${studyId}/trials/search/${j.subject}`) },
    )
  }
  return (
    <section className="ruled" aria-label="What each setting did">
      <div className="pad" style={{ paddingBottom: 4 }}>
        <h2 className="fig-title">
          {first && first.share > 0.02
            ? `${first.label} explains ${share(first.share, 0)} of the spread${others[0] && others[0].share > 0.02 ? `, ${others[0].label.toLowerCase()} ${share(others[0].share, 0)}` : ''}`
            : 'No setting mattered much'}
        </h2>
        <p className="fig-sub">
          Median (dot), middle half (bar) and best (ring) of the tries at each value; tries are no sample of anything.
        </p>
        <Trouble error={start.error} />
      </div>
      <div className="wraps">
        {s.effects.map((e) => (
          <figure key={e.name} className="pad" style={{ margin: 0, borderRight: '1px solid var(--rule)' }}>
            <figcaption>
              <b>{e.label}</b> <span className="soft small">{e.share < 0.01 ? 'under 1%' : share(e.share, 0)} of the spread</span>
            </figcaption>
            <Parts effect={e} measure={s.measure} range={range} />
            {e.edge !== 0 && (
              <p className="small brass">
                Best at the edge of the range{' '}
                <Button size="small" disabled={start.isPending || s.stale} onClick={() => widen(e)}>
                  Widen
                </Button>
              </p>
            )}
          </figure>
        ))}
      </div>
    </section>
  )
}

function Parts({ effect: e, measure, range }: { effect: Effect; measure: Figure; range: [number, number] }) {
  const y = (v: number) => 8 + ((range[1] - v) / Math.max(1e-12, range[1] - range[0])) * (HIGH - 34)
  const x = (i: number) => LEFT + ((i + 0.5) * (WIDE - LEFT)) / e.parts.length
  const says = e.parts.map((p) => `${p.label}: median ${figure(measure, p.median)}, best ${figure(measure, p.best)}, ${p.tries} tries`)
  return (
    <svg width={WIDE} height={HIGH} role="img" aria-label={`${measure.name} by ${e.label.toLowerCase()}: ${says.join('; ')}`}>
      {range.map((v) => (
        <g key={v}>
          <path d={`M${LEFT} ${y(v)}H${WIDE}`} stroke="var(--rule)" />
          <text x={LEFT - 5} y={y(v) + 4} textAnchor="end" className="ax">
            {figure(measure, v)}
          </text>
        </g>
      ))}
      <path
        d={e.parts.map((p, i) => `${i === 0 ? 'M' : 'L'}${x(i)} ${y(p.median)}`).join('')}
        fill="none"
        stroke="var(--verdigris)"
        strokeWidth="1.2"
      />
      {e.parts.map((p, i) => (
        <g key={p.label}>
          <title>{says[i]}</title>
          <path d={`M${x(i)} ${y(p.quarter)}V${y(p.threeQuarters)}`} stroke="var(--rule-firm)" strokeWidth="5" />
          <circle cx={x(i)} cy={y(p.median)} r={2.6} fill="var(--verdigris)" />
          <circle cx={x(i)} cy={y(p.best)} r={2.8} fill="var(--paper)" stroke="var(--brass)" strokeWidth="1.3" />
          <text x={x(i)} y={HIGH - 6} textAnchor="middle" className="ax">
            {p.label.length > 9 ? `${p.label.slice(0, 8)}…` : p.label}
          </text>
        </g>
      ))}
    </svg>
  )
}
