import type { View } from '../../api/client'
import { number, whole } from '../../ui/format'
import { figure } from '../../ui/measure'
import { useLearners } from '../../data/trial'

type Guided = View<'GuidedView'>
const [WIDE, HIGH, LEFT] = [520, 190, 46]
const TONES = ['var(--c1)', 'var(--c3)', 'var(--c2)', 'var(--c4)', 'var(--c6)', 'var(--c5)', 'var(--c7)', 'var(--c8)']

/** How tries climbed: each a dot on its rung, by learner; the best of them beneath. */
export function Climb({ guided: g }: { guided: Guided }) {
  const learners = useLearners()
  const known = g.tries.filter((t) => t.value != null)
  const names = [...new Set(known.map((t) => t.title))]
  const values = known.map((t) => t.value!)
  const [low, high] = [Math.min(...values), Math.max(...values)]
  const y = (v: number) => 14 + ((high - v) / Math.max(1e-12, high - low)) * (HIGH - 50)
  const band = (WIDE - LEFT) / 3
  const settings = (t: Guided['tries'][number]) =>
    learners.data
      ?.find((l) => l.name === t.learner)
      ?.settings.filter((s) => s.name in t.settings)
      .map(
        (s) =>
          `${s.label.toLowerCase()} ${typeof t.settings[s.name] === 'number' ? number(t.settings[s.name] as number) : String(t.settings[s.name])}`,
      )
      .join(', ')
  if (known.length === 0)
    return (
      <>
        <h2 className="fig-title">No try has been weighed yet</h2>
        <p className="fig-sub">Tries begin when what can be made of the columns is known.</p>
      </>
    )
  return (
    <>
      <h2 className="fig-title">
        {known[0]!.title} {g.state === 'done' ? 'climbed best' : 'leads so far'}
      </h2>
      <p className="fig-sub">{g.measure.name} while searching, rung by rung; figures of different rungs are of different rows.</p>
      <p className="small">
        {names.map((n, i) => (
          <span key={n} style={{ marginRight: 12 }}>
            <svg width="9" height="9" aria-hidden="true">
              <circle cx="4.5" cy="4.5" r="3.6" fill={TONES[i % TONES.length]} />
            </svg>{' '}
            {n}
          </span>
        ))}
      </p>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        style={{ width: '100%', maxWidth: 620, display: 'block' }}
        role="img"
        aria-label={`Tries by rung: ${g.rungs.map((r) => `${r.name}, ${r.done} tries, best ${figure(g.measure, r.best)}`).join('; ')}`}
      >
        {[low, high].map((v) => (
          <g key={v}>
            <path d={`M${LEFT} ${y(v)}H${WIDE}`} stroke="var(--rule)" />
            <text x={LEFT - 6} y={y(v) + 4} textAnchor="end" className="ax">
              {figure(g.measure, v)}
            </text>
          </g>
        ))}
        {[0, 1, 2].map((r) => (
          <g key={r}>
            {r > 0 && <path d={`M${LEFT + r * band} 6V${HIGH - 30}`} stroke="var(--rule-firm)" />}
            <text x={LEFT + (r + 0.5) * band} y={HIGH - 14} textAnchor="middle" className="ax">
              {g.rungs[r] ? `rung ${r + 1}, ${whole(g.rungs[r].rows)} rows` : `rung ${r + 1}`}
            </text>
          </g>
        ))}
        {known.map((t, i) => {
          const own = known.filter((o) => o.rung === t.rung)
          const at = (own.indexOf(t) + 0.5) / own.length
          return (
            <circle
              key={`${t.rung} ${t.place}`}
              cx={LEFT + (t.rung - 1) * band + 8 + at * (band - 16)}
              cy={y(t.value!)}
              r={i === 0 ? 5 : 3.2}
              fill={t.made ? TONES[names.indexOf(t.title) % TONES.length] : 'var(--paper)'}
              stroke={TONES[names.indexOf(t.title) % TONES.length]}
            >
              <title>{`${t.title}, ${settings(t)}: ${figure(g.measure, t.value)}${t.made ? '' : ', without made features'}`}</title>
            </circle>
          )
        })}
      </svg>
      <table className="ledger" aria-label="Best tries">
        <thead>
          <tr>
            <th className="n" style={{ width: 46 }}>
              Rung
            </th>
            <th>Try</th>
            <th className="n" style={{ width: 74 }}>
              {g.measure.name}
            </th>
            <th className="n" style={{ width: 60 }}>
              s
            </th>
          </tr>
        </thead>
        <tbody>
          {known.slice(0, 10).map((t) => (
            <tr key={`${t.rung} ${t.place}`}>
              <td className="n soft">{t.rung}</td>
              <td className="clipped" title={settings(t)}>
                <b>{t.title}</b> <span className="soft">{settings(t)}</span>
                {!t.made && <span className="soft"> without made features</span>}
              </td>
              <td className="n">{figure(g.measure, t.value)}</td>
              <td className="n soft">{t.seconds.toFixed(1)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}
