import { useState } from 'react'
import { type Reasons } from '../../data/reasons'
import { fixed, number, share, whole } from '../../ui/format'

/** A column with its value, in words. */
export const plain = (c: { column: string; value?: string | null }) => `${c.column.replaceAll('_', ' ')} ${c.value ?? 'missing'}`

/** By what means the answer was shared out, and how surely. */
function howShared(account: NonNullable<Reasons['account']>, isNumber: boolean): string {
  if (account.orders > 0) {
    const within = isNumber ? number(3 * account.error, 2) : `${Math.max(0.1, 300 * account.error).toFixed(1)} points`
    return `Shared out by ${whole(account.orders)} drawn orders, within ${within}.`
  }
  if (account.scale == null) return 'Shared out exactly.'
  const difference = isNumber ? 'the difference' : 'the difference of chances'
  return `Shared out exactly as ${account.scale}, and from there in proportion to ${difference}.`
}

/** Lowers and raises as two columns of an account; the sums close it. In points, or the unit of the number. */
export function Account({ reasons }: { reasons: Reasons }) {
  const [own, setOwn] = useState(false)
  const [all, setAll] = useState(false)
  if (reasons.why != null)
    return (
      <p className="soft">A record with a missing value that no step fills gets no answer. Fill the column in Preparation and fit again.</p>
    )
  const account = reasons.account
  if (!account) return <p className="soft">There is nothing to share out.</p>
  const isNumber = reasons.task === 'number'
  // Trees that add up are exact on their own scale; a regression tells its own account by itself.
  const trees = account.scale != null
  const hasOwn = trees || (!isNumber && reasons.contributions.length > 0 && reasons.task === 'two classes')
  const scale = account.scale ?? 'log-odds'
  const lines = own
    ? trees
      ? account.columns.map((c) => ({ ...c, effect: c.own ?? 0 }))
      : reasons.contributions.map((c) => ({ column: c.column, value: c.value, effect: c.effect, lost: null, unusual: null }))
    : account.columns
  const base = own ? (trees ? (account.ownBase ?? 0) : (reasons.base ?? 0)) : account.base
  const total = own ? (trees ? base + lines.reduce((s, c) => s + c.effect, 0) : (reasons.logOdds ?? 0)) : account.answer
  const answered = isNumber ? `${reasons.target} ${number(account.answer)}` : `chance ${share(account.answer)}`
  const said = (v: number | null | undefined) => (v == null ? '' : own ? fixed(v, 2) : isNumber ? number(v, 3) : (100 * v).toFixed(1))
  const largest = Math.max(1e-300, ...lines.map((c) => Math.abs(c.effect)))
  const least = own ? 0.005 : isNumber ? 0.005 * largest : 0.0005
  const FEW = 11
  const worth = lines.filter((c) => Math.abs(c.effect) >= least)
  const shown = all ? worth : worth.slice(0, FEW)
  const lower = shown.filter((c) => c.effect < 0).reduce((s, c) => s + c.effect, 0)
  const raise = shown.filter((c) => c.effect > 0).reduce((s, c) => s + c.effect, 0)
  const rest = total - base - lower - raise
  const half = 130
  const unit = own
    ? scale[0]!.toUpperCase() + scale.slice(1)
    : isNumber
      ? reasons.target
      : account.class != null
        ? `Points of the chance of “${account.class}”`
        : 'Points of chance'
  return (
    <>
      <table className="ledger two" aria-label={`What each column does to the answer, in ${unit.toLowerCase()}`}>
        <thead>
          <tr>
            <th>{unit}, against the average record</th>
            <th className="n" style={{ width: 70, color: '#3A547A' }}>
              Lowers
            </th>
            <th className="mark" style={{ width: 2 * half + 10 }}>
              <span className="sr">Bar</span>
            </th>
            <th className="n" style={{ width: 70, color: '#8A5716' }}>
              Raises
            </th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <td className="soft">{own && !trees ? 'Average record' : 'The average, to begin with'}</td>
            <td className="n soft">{base < 0 ? said(-base) : ''}</td>
            <td />
            <td className="n soft">{base >= 0 ? said(base) : ''}</td>
          </tr>
          {shown.map((c) => {
            const w = (Math.abs(c.effect) / largest) * half
            return (
              <tr key={c.column}>
                <td className="nm clipped" title={plain(c) + (c.unusual != null ? `, ${c.unusual}` : '')}>
                  {c.column} <span className="soft">{c.value ?? 'missing'}</span>
                  {c.unusual != null && <span className="brass small"> {c.unusual}</span>}
                </td>
                <td className="n" style={{ color: '#3A547A' }}>
                  {c.effect < 0 ? said(-c.effect) : ''}
                </td>
                <td className="mark">
                  <svg width={2 * half + 10} height="24" aria-hidden="true">
                    <path d={`M${half + 5} 0V24`} stroke="var(--ink)" />
                    <rect
                      x={c.effect < 0 ? half + 5 - w : half + 5}
                      y={7}
                      width={w}
                      height={10}
                      fill={c.effect < 0 ? 'var(--c3)' : 'var(--c2)'}
                    />
                  </svg>
                </td>
                <td className="n" style={{ color: '#8A5716' }}>
                  {c.effect > 0 ? said(c.effect) : ''}
                </td>
              </tr>
            )
          })}
          {Math.abs(rest) >= least && (
            <tr>
              <td className="soft">All others</td>
              <td className="n">{rest < 0 ? said(-rest) : ''}</td>
              <td />
              <td className="n">{rest > 0 ? said(rest) : ''}</td>
            </tr>
          )}
        </tbody>
        <tfoot>
          <tr>
            <td>{isNumber ? `Sums, and ${reasons.target}` : 'Sums, and the chance'}</td>
            <td className="n">{said(-(lower + Math.min(0, base) + Math.min(0, rest)))}</td>
            <td style={{ textAlign: 'center' }}>
              {own ? `${scale} ${fixed(total, 2)}, ${answered}` : isNumber ? number(total) : share(total)}
            </td>
            <td className="n">{said(raise + Math.max(0, base) + Math.max(0, rest))}</td>
          </tr>
        </tfoot>
      </table>
      <p className="soft small above-6">
        {!own && howShared(account, isNumber)}{' '}
        {!own &&
          account.average != null &&
          `The average of all rows is ${isNumber ? number(account.average, 3) : share(account.average)}. `}
        An effect in a model is no cause.{' '}
        {worth.length > FEW && (
          <button type="button" className="link" onClick={() => setAll(!all)}>
            {all ? 'The strongest' : `All ${worth.length} columns`}
          </button>
        )}{' '}
        {hasOwn && (
          <button type="button" className="link" onClick={() => setOwn(!own)}>
            {own ? (isNumber ? `In ${reasons.target}` : 'In points of chance') : 'On the model’s own scale'}
          </button>
        )}
      </p>
    </>
  )
}
