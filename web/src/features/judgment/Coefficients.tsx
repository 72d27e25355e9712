import { Link } from '@mui/material'
import { useState } from 'react'
import { fixed, number, pValue, whole } from '../../ui/format'
import { IntervalMark } from '../../ui/IntervalMark'
import type { Judgment } from './api'

/** Coefficients with errors, tests, odds ratios and intervals. */
export function Coefficients({ judgment }: { judgment: Judgment }) {
  const [byStrength, setByStrength] = useState(true)
  const [constant, ...terms] = judgment.coefficients
  const ordered = byStrength ? [...terms].sort((a, b) => Math.abs(b.z ?? b.estimate) - Math.abs(a.z ?? a.estimate)) : terms
  const list = constant ? [...ordered, constant] : ordered
  const speak = terms.filter((t) => t.p != null && t.p < 0.05).length
  const fit = judgment.fit as Record<string, number | null>
  const oddsScale: [number, number] = [Math.log(0.2), Math.log(5)]
  return (
    <section className="pad">
      <h2 className="fig-title">
        {terms[0]?.se == null
          ? `${terms.length} terms; their errors do not exist`
          : `${speak} of ${terms.length} terms stand out from noise`}
      </h2>
      <p className="fig-sub">
        Fitted on all {whole(fit.rows_used)} open rows with a value in every column: log-likelihood {number(fit.log_likelihood)}, AIC{' '}
        {number(fit.aic)}, McFadden R² {fixed(fit.mcfadden_r2)}.{' '}
        <Link component="button" type="button" onClick={() => setByStrength(!byStrength)}>
          {byStrength ? 'In the order of the columns' : 'Strongest first'}
        </Link>
      </p>
      <table className="ledger" aria-label="Coefficients">
        <thead>
          <tr>
            <th>Term</th>
            <th className="n" style={{ width: 92 }}>
              Coefficient
            </th>
            <th className="n" style={{ width: 76 }}>
              Error
            </th>
            <th className="n" style={{ width: 70 }}>
              z
            </th>
            <th className="n" style={{ width: 80 }}>
              p
            </th>
            <th className="n" style={{ width: 92 }}>
              Odds ratio
            </th>
            <th className="n" style={{ width: 120 }}>
              95%
            </th>
            <th className="mark" style={{ width: 170 }}>
              <svg width="166" height="14" aria-hidden="true">
                {[0.2, 0.5, 1, 2, 5].map((v) => (
                  <text
                    key={v}
                    x={4 + ((Math.log(v) - oddsScale[0]) / (oddsScale[1] - oddsScale[0])) * 158}
                    y={11}
                    className="ax"
                    textAnchor="middle"
                  >
                    {v}
                  </text>
                ))}
              </svg>
            </th>
          </tr>
        </thead>
        <tbody>
          {list.map((c) => (
            <tr key={c.name} className={c.p != null && c.p >= 0.05 ? 'aside' : ''}>
              <td className="nm" title={c.name}>
                {c.name === '(intercept)' ? 'constant' : c.name.replace('=', ' is ')}
              </td>
              <td className="n">{number(c.estimate, 3)}</td>
              <td className="n">{number(c.se, 3)}</td>
              <td className="n">{c.z == null ? '–' : fixed(c.z, 2)}</td>
              <td className="n">{pValue(c.p)}</td>
              <td className="n">
                <b>{number(c.oddsRatio, 3)}</b>
              </td>
              <td className="n soft">{c.oddsLow == null ? '–' : `${number(c.oddsLow, 3)} to ${number(c.oddsHigh, 3)}`}</td>
              <td className="mark">
                {c.name !== '(intercept)' && (
                  <IntervalMark
                    value={c.estimate}
                    low={c.low}
                    high={c.high}
                    scale={oddsScale}
                    width={166}
                    reference={0}
                    tone={c.p != null && c.p >= 0.05 ? 'soft' : 'verdigris'}
                  />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="soft small" style={{ marginTop: 6 }}>
        An odds ratio of 2 doubles the odds for one unit more, or against the first value of a category; intervals are Wald’s. It tells what
        goes together, not what causes what.
      </p>
    </section>
  )
}
