import { Link } from '@mui/material'
import { useState } from 'react'
import { count, fixed, number, pValue, whole } from '../ui/format'
import { IntervalMark } from '../ui/IntervalMark'
import type { Judgment, SectionOf } from '../data/judgment'
import { perStep, toldFor } from './perStep'
import { Reduce } from './Reduce'
import { weakByTerms } from './weak'

/** Coefficients with errors, tests, odds ratios and intervals. */
export function Coefficients({ section, judgment, studyId }: { section: SectionOf<'coefficients'>; judgment: Judgment; studyId: number }) {
  const [byStrength, setByStrength] = useState(true)
  const told = section.coefficients.map(perStep)
  const constants = told.filter((c) => c.name === '(intercept)')
  const terms = told.filter((c) => c.name !== '(intercept)')
  const ordered = byStrength ? [...terms].sort((a, b) => Math.abs(b.z ?? b.estimate) - Math.abs(a.z ?? a.estimate)) : terms
  const list = [...ordered, ...constants]
  const speak = terms.filter((t) => t.p != null && t.p < 0.05).length
  const fit = section.fit
  const isNumber = judgment.trial.task === 'number'
  const several = section.coefficients.some((c) => c.class != null)
  const scale = isNumber ? reachOf(terms) : ([Math.log(0.2), Math.log(5)] as [number, number])
  const ticks = isNumber ? [scale[0], scale[0] / 2, 0, scale[1] / 2, scale[1]] : [0.2, 0.5, 1, 2, 5].map(Math.log)
  // Terms that were chosen by these very rows look surer than they are.
  const { chosen } = section
  const inflated = Math.max(0, ...terms.map((t) => t.vif ?? 0))
  return (
    <section className="pad">
      <h2 className="fig-title">
        {terms[0]?.se == null
          ? `${terms.length} terms; their errors do not exist`
          : chosen
            ? `${count(terms.length, 'term')} left after a choice of columns`
            : `${speak} of ${terms.length} terms stand out from noise`}
      </h2>
      <p className="fig-sub">
        {isNumber
          ? `What each adds to ${judgment.target}, fitted on ${whole(fit.rows_used)} open rows: R² ${fixed(fit.r2)}, residual error ${number(fit.residual_se)}, AIC ${number(fit.aic)}. `
          : several
            ? 'Of each class against the first one. '
            : `Fitted on all ${whole(fit.rows_used)} open rows with a value in every column: log-likelihood ${number(fit.log_likelihood)}, AIC ${number(fit.aic)}, McFadden R² ${fixed(fit.mcfadden_r2)}. `}
        <Link component="button" type="button" onClick={() => setByStrength(!byStrength)}>
          {byStrength ? 'In the order of the columns' : 'Strongest first'}
        </Link>
      </p>
      <table className="ledger" aria-label="Coefficients">
        <thead>
          <tr>
            <th>Term</th>
            {several && <th style={{ width: 120 }}>Class</th>}
            <th className="n" style={{ width: 92 }}>
              Coefficient
            </th>
            <th className="n" style={{ width: 76 }}>
              Error
            </th>
            <th className="n" style={{ width: 70 }}>
              {isNumber ? 't' : 'z'}
            </th>
            <th className="n" style={{ width: 80 }}>
              {chosen ? 'p*' : 'p'}
            </th>
            <th className="n" style={{ width: 92 }}>
              {isNumber ? 'Overlap, VIF' : 'Odds ratio'}
            </th>
            <th className="n" style={{ width: 120 }}>
              95%
            </th>
            <th className="mark" style={{ width: 170 }}>
              <svg width="166" height="14" aria-hidden="true">
                {ticks.map((v, i) => (
                  <text
                    key={v}
                    x={4 + ((v - scale[0]) / (scale[1] - scale[0])) * 158}
                    y={11}
                    className="ax"
                    textAnchor={i === 0 ? 'start' : i === ticks.length - 1 ? 'end' : 'middle'}
                  >
                    {isNumber ? number(v, 2) : number(Math.exp(v), 1)}
                  </text>
                ))}
              </svg>
            </th>
          </tr>
        </thead>
        <tbody>
          {list.map((c) => (
            <tr key={`${c.class ?? ''} ${c.name}`} className={c.p != null && c.p >= 0.05 ? 'aside' : ''}>
              <td className="nm" title={`${c.name} ${toldFor(c)}`.trim()}>
                {c.name === '(intercept)' ? 'constant' : c.name.replace('=', ' is ')} <span className="soft small">{toldFor(c)}</span>
              </td>
              {several && (
                <td className="nm soft" title={c.class ?? ''}>
                  {c.class}
                </td>
              )}
              <td className="n">{number(c.estimate, 3)}</td>
              <td className="n">{number(c.se, 3)}</td>
              <td className="n">{c.z == null ? '–' : fixed(c.z, 2)}</td>
              <td className="n">{pValue(c.p)}</td>
              <td className="n">{isNumber ? fixed(c.vif, 1) : <b>{number(c.oddsRatio, 3)}</b>}</td>
              <td className="n soft">
                {isNumber
                  ? c.low == null
                    ? '–'
                    : `${number(c.low, 3)} to ${number(c.high, 3)}`
                  : c.oddsLow == null
                    ? '–'
                    : `${number(c.oddsLow, 3)} to ${number(c.oddsHigh, 3)}`}
              </td>
              <td className="mark">
                {c.name !== '(intercept)' && (
                  <IntervalMark
                    value={c.estimate}
                    low={c.low}
                    high={c.high}
                    scale={scale}
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
      <p className="soft small above-6">
        {isNumber
          ? `So much more of a number, one where nothing is said, or this value in place of the one named, adds the coefficient. ${inflated > 5 ? `Terms overlap: the largest VIF is ${fixed(inflated, 1)}, so their errors are wide.` : `Terms hardly overlap: the largest VIF is ${fixed(inflated, 1)}.`}`
          : 'An odds ratio of 2 doubles the odds for so much more of a number, one where nothing is said, or against the value named; intervals are Wald’s.'}{' '}
        It tells what goes together, not what causes what.
        {chosen &&
          ' * The same rows chose the columns: errors, intervals and p-values stand as if nothing had been chosen, so all of these terms look surer than they are.'}
      </p>
      {!chosen && (
        <Reduce
          judgment={judgment}
          studyId={studyId}
          weak={weakByTerms(judgment)}
          says="No term of these columns stands out from noise; a p-value at or above 0.05 does not prove that a column says nothing."
          head="Least p-value"
        />
      )}
    </section>
  )
}

/** A scale around nothing that holds nearly all intervals; a constant or one giant term must not flatten the others. */
function reachOf(terms: { estimate: number; low?: number | null; high?: number | null }[]): [number, number] {
  const ends = terms.map((t) => Math.max(Math.abs(t.low ?? t.estimate), Math.abs(t.high ?? t.estimate))).sort((a, b) => a - b)
  const reach = ends[Math.max(0, Math.ceil(0.95 * ends.length) - 1)] ?? 1
  const unit = 10 ** Math.floor(Math.log10(reach || 1))
  const end = Math.ceil((reach || 1) / unit) * unit
  return [-end, end]
}
