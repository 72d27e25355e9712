import { Link } from 'react-router'
import type { SectionOf } from '../data/judgment'
import { fixed } from '../ui/format'

/** Which trials a blend is made of, and how much each counts. */
export function Blend({ section, studyId }: { section: SectionOf<'blend'>; studyId: number }) {
  const most = Math.max(1e-9, ...section.members.map((m) => Math.abs(m.weight)))
  const used = section.members.filter((m) => m.weight !== 0)
  const first = [...section.members].sort((a, b) => b.weight - a.weight)[0]!
  const isOdds = section.how === 'regression on log-odds'
  return (
    <section className="pad" style={{ maxWidth: 720 }}>
      <h2 className="fig-title">
        {used.length === section.members.length
          ? `All ${used.length} trials count`
          : `${used.length} of ${section.members.length} trials count`}
        , {first.name} most
      </h2>
      <p className="fig-sub">
        {isOdds
          ? 'Coefficients of a regression on their log-odds, by answers for rows that their models had not seen.'
          : section.how === 'mean'
            ? 'All count alike.'
            : 'Weights of 0 and more that add to 1, at which their mean lost least on rows that their models had not seen.'}
      </p>
      <table className="ledger" aria-label="Trials of the blend">
        <thead>
          <tr>
            <th>Trial</th>
            <th className="n" style={{ width: 90 }}>
              {isOdds ? 'Coefficient' : 'Weight'}
            </th>
            <th style={{ width: 220 }}>
              <span className="sr">Drawn</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {section.members.map((m) => (
            <tr key={m.trialId}>
              <td className="nm">
                <Link to={`/study/${studyId}/judgment/${m.trialId}`}>{m.name}</Link>
              </td>
              <td className="n">{fixed(m.weight)}</td>
              <td>
                <svg width={200} height={10} aria-hidden="true">
                  <rect width={(Math.abs(m.weight) / most) * 200} height={10} fill={m.weight < 0 ? '#4A6595' : 'var(--verdigris)'} />
                </svg>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
