import type { Slice, Told } from '../../data/recheck'
import { IntervalMark } from '../../ui/IntervalMark'
import { date, fixed, number, share, whole } from '../../ui/format'

export function Periods({ told: t, by }: { told: Told; by: string | null }) {
  const own = t.periods
  const then = t.figures[0]?.then.value ?? null
  return (
    <section className="pad" style={{ flex: '1 1 380px', minWidth: 0 }}>
      <h2 className="fig-title">{own.length === 0 ? 'By time' : `${t.figure} along ${by}`}</h2>
      {own.length === 0 ? (
        <p className="soft">The newer records have no date to be told by, or no outcome is known.</p>
      ) : (
        <>
          <p className="fig-sub">
            The dashed line is the figure then, {fixed(then)}. Weeks begin on Mondays; few records make wide intervals.
          </p>
          <Sliced told={t} label={`${t.figure} by time`} head="From" slices={own} />
        </>
      )}
    </section>
  )
}

export function Groups({ told: t, by, groups }: { told: Told; by: string; groups: Slice[] }) {
  return (
    <section className="pad" style={{ flex: '1 1 380px', minWidth: 0 }}>
      <h2 className="fig-title">
        {t.figure} by {by}
      </h2>
      {groups.length === 0 ? (
        <p className="soft">No outcome is known yet.</p>
      ) : (
        <Sliced told={t} label={`${t.figure} by ${by}`} head={by} slices={groups} />
      )}
    </section>
  )
}

function Sliced({ told: t, label, head, slices }: { told: Told; label: string; head: string; slices: Slice[] }) {
  const ends = slices.flatMap((p) => [p.figure.low, p.figure.high]).filter((v): v is number => v != null)
  const scale: [number, number] = ends.length === 0 ? [0, 1] : [Math.min(...ends), Math.max(...ends)]
  const percent = (v: number | null) => share(v).replace('%', '')
  return (
    <table className="ledger" aria-label={label}>
      <thead>
        <tr>
          <th style={{ width: 106 }}>{head}</th>
          <th className="n" style={{ width: 66 }}>
            Records
          </th>
          <th className="n">{t.figure}</th>
          <th style={{ width: 110 }} />
          <th className="n">Given{t.event != null && ', %'}</th>
          <th className="n">Came{t.event != null && ', %'}</th>
        </tr>
      </thead>
      <tbody>
        {slices.map((p) => (
          <tr key={p.label}>
            <td className="clipped" title={p.label}>
              {/^\d{4}-\d\d-\d\d$/.test(p.label) ? date(p.label) : p.label}
            </td>
            <td className="n soft">{whole(p.rows)}</td>
            <td className="n">{fixed(p.figure.value)}</td>
            <td>
              <IntervalMark {...p.figure} scale={scale} width={106} height={14} reference={t.figures[0]?.then.value ?? undefined} />
            </td>
            <td className="n soft">{t.event == null ? number(p.promised) : percent(p.promised)}</td>
            <td className="n">{t.event == null ? number(p.came.value) : percent(p.came.value)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
