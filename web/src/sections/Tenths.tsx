import { fixed, share, whole } from '../ui/format'
import type { SectionOf } from '../data/judgment'

/** Tenths of the rows, the highest chances first: who is reached when so many are called. */
export function Tenths({ section }: { section: SectionOf<'event'> }) {
  const tenths = section.tenths
  if (tenths.length === 0) return null
  const above = tenths.filter((t) => (t.rateLow ?? 0) > (section.baseRate ?? 0)).length
  return (
    <>
      <h2 className="fig-title">
        {above === 0
          ? 'No tenth is above average beyond noise'
          : above === 1
            ? 'The first tenth is above average'
            : `The first ${above} tenths are above average`}
      </h2>
      <p className="fig-sub">
        The highest chances first, {whole(tenths[0]!.rows)} rows each; average {share(section.baseRate)}.
      </p>
      <table className="ledger tight" aria-label="Tenths of the rows">
        <thead>
          <tr>
            <th className="n" style={{ width: 42 }}>
              Tenth
            </th>
            <th className="n" style={{ width: 44 }}>
              With
            </th>
            <th className="n" style={{ width: 94 }}>
              Share, 95%
            </th>
            <th className="n" style={{ width: 46 }}>
              Lift
            </th>
            <th className="n" style={{ width: 52 }}>
              So far
            </th>
          </tr>
        </thead>
        <tbody>
          {tenths.map((t) => (
            <tr key={t.tenth}>
              <td className="n">{t.tenth}</td>
              <td className="n">{whole(t.events)}</td>
              <td className="n">
                <b>{share(t.rate)}</b> ±{' '}
                {t.rateHigh == null || t.rateLow == null ? '–' : (100 * Math.max(t.rateHigh - t.rate, t.rate - t.rateLow)).toFixed(1)}
              </td>
              <td className="n">{fixed(t.lift, 2)}</td>
              <td className="n">{share(t.caught, 0)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}
