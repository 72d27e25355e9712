import { count, number, pValue } from '../../ui/format'
import type { Judgment } from './api'

const said: Record<string, string> = { start: 'begins with', enter: 'enters', remove: 'leaves', stop: 'nothing more' }

/** How a regression chose its columns, step by step. */
export function Choice({ judgment }: { judgment: Judgment }) {
  const steps = judgment.choice
  const last = [...steps].reverse().find((s) => s.action !== 'stop')
  const byP = steps.some((s) => s.p != null)
  return (
    <section className="pad">
      <h2 className="fig-title">
        {count(last?.columns.length ?? 0, 'column was', 'columns were')} chosen in {count(steps.length, 'step')}
      </h2>
      <p className="fig-sub">
        On all open rows; in each fold the choice was made anew, so the figures above stay honest. Losses are those of each step fitted on
        four fifths of the rows, and of the fifth kept back from it.
      </p>
      <table className="ledger" aria-label="Choice of columns">
        <thead>
          <tr>
            <th className="n" style={{ width: 40 }}>
              Step
            </th>
            <th style={{ width: 210 }}>What happens</th>
            <th className="n" style={{ width: 100 }}>
              {byP ? 'p' : 'AIC or BIC'}
            </th>
            <th className="n" style={{ width: 96 }}>
              Training loss
            </th>
            <th className="n" style={{ width: 96 }}>
              On held rows
            </th>
            <th>Columns after it</th>
          </tr>
        </thead>
        <tbody>
          {steps.map((s, i) => (
            <tr key={i}>
              <td className="n soft">{i + 1}</td>
              <td>
                {s.column && <b>{s.column}</b>} {said[s.action] ?? s.action}
              </td>
              <td className="n">{s.p != null ? pValue(s.p) : s.aic != null ? number(s.aic) : ''}</td>
              <td className="n soft">{s.action === 'stop' ? '' : number(s.training)}</td>
              <td className="n">{s.action === 'stop' ? '' : number(s.held)}</td>
              <td className="soft" title={s.columns.join(', ')}>
                {s.action === 'stop' ? '' : s.columns.length === 0 ? 'none' : s.columns.join(', ')}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
