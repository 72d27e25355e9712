import { useState } from 'react'
import type { Matters } from '../../data/reasons'
import { fixed, number, whole } from '../../ui/format'

const FEW = 8
const W = 300

/** How each column's effect spreads over records: one tick per record, taller where the column's value is higher. */
export function Spread({ data }: { data: Matters }) {
  const [asTable, setAsTable] = useState(false)
  const lines = data.columns.filter((c) => c.spread.length > 0).slice(0, FEW)
  const isNumber = data.trial.task === 'number'
  const reach = Math.max(1e-12, ...lines.flatMap((l) => l.spread.map((s) => Math.abs(s[0] ?? 0))))
  const x = (v: number) => W / 2 + (v / reach) * (W / 2 - 6)
  const said = (v: number) => (isNumber ? number(v, 3) : fixed(100 * v, 1))
  const mean = (of: number[]) => (of.length === 0 ? 0 : of.reduce((a, b) => a + b, 0) / of.length)
  const halves = (l: (typeof lines)[number]) => {
    const low = l.spread.filter((s) => (s[1] ?? 0) < 0.5).map((s) => s[0] ?? 0)
    const high = l.spread.filter((s) => (s[1] ?? 0) > 0.5).map((s) => s[0] ?? 0)
    return [mean(low), mean(high)] as const
  }
  return (
    <>
      <h2 className="fig-title">How far each reaches into single answers</h2>
      <p className="fig-sub">
        {whole(data.looked)} records, each a tick: left lowers, right raises, {isNumber ? `in units of ${data.target}` : 'in points'}. A
        tall tick is a high value of the column, a short one a low value.
      </p>
      <table className="ledger" aria-label="Spread of effects">
        <thead>
          <tr>
            <th>Column</th>
            {asTable ? (
              <>
                <th className="n">Least</th>
                <th className="n">Of low values</th>
                <th className="n">Of high values</th>
                <th className="n">Most</th>
              </>
            ) : (
              <th className="mark" style={{ width: W + 4 }}>
                <span className="soft small">
                  −{said(reach)} to {said(reach)}
                </span>
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {lines.map((l) => {
            const effects = l.spread.map((s) => s[0] ?? 0)
            const [low, high] = halves(l)
            return (
              <tr key={l.column}>
                <td className="nm clipped" title={l.column}>
                  {l.column}
                </td>
                {asTable ? (
                  <>
                    <td className="n">{said(Math.min(...effects))}</td>
                    <td className="n">{said(low)}</td>
                    <td className="n">{said(high)}</td>
                    <td className="n">{said(Math.max(...effects))}</td>
                  </>
                ) : (
                  <td className="mark">
                    <svg
                      width={W}
                      height="26"
                      role="img"
                      aria-label={`${l.column}: from ${said(Math.min(...effects))} to ${said(Math.max(...effects))}; low values ${said(low)}, high values ${said(high)} on average`}
                    >
                      <path d={`M${W / 2} 0V26`} stroke="var(--rule-firm)" />
                      {l.spread.map(([effect, at], i) => {
                        const h = 4 + 18 * (at ?? 0.5)
                        return (
                          <path
                            key={i}
                            d={`M${x(effect ?? 0)} ${13 - h / 2}v${h}`}
                            stroke={(effect ?? 0) < 0 ? 'var(--c3)' : 'var(--c2)'}
                            strokeWidth="1.5"
                            opacity="0.75"
                          />
                        )
                      })}
                    </svg>
                  </td>
                )}
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className="small above-4">
        <button type="button" className="link" onClick={() => setAsTable(!asTable)}>
          {asTable ? 'As a picture' : 'As a table'}
        </button>
      </p>
    </>
  )
}
