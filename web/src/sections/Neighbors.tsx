import { fixed, number, whole } from '../ui/format'
import type { SectionOf } from '../data/judgment'

/** How many of the records most like one answer for it, and what other numbers would have lost. */
export function Neighbors({ section }: { section: SectionOf<'neighbors'> }) {
  const most = Math.max(1e-12, ...section.weighed.map((w) => w.loss))
  return (
    <section className="pad" style={{ maxWidth: 560 }}>
      <h2 className="fig-title">The {whole(section.asked)} records most like one answer for it</h2>
      <p className="fig-sub">
        {section.weighed.length > 0
          ? 'What each number of neighbors loses on inner folds; the least was taken.'
          : 'Their number was given, not chosen.'}{' '}
        Which records they are stands with the reasons of a record.
      </p>
      {section.weighed.length > 0 && (
        <table className="ledger" aria-label="Numbers of neighbors">
          <thead>
            <tr>
              <th className="n">Neighbors</th>
              <th className="n">Loss</th>
              <th style={{ width: 260 }}>
                <span className="sr">Drawn</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {section.weighed.map((w) => (
              <tr key={w.neighbors} aria-current={w.neighbors === section.asked || undefined}>
                <td className="n" style={{ fontWeight: w.neighbors === section.asked ? 640 : 400 }}>
                  {whole(w.neighbors)}
                </td>
                <td className="n">{w.loss < 100 ? fixed(w.loss, 4) : number(w.loss)}</td>
                <td>
                  <svg width={240} height={10} aria-hidden="true">
                    <rect width={(w.loss / most) * 240} height={10} fill={w.neighbors === section.asked ? 'var(--verdigris)' : '#CFC5B2'} />
                  </svg>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  )
}
