import { whole } from '../../ui/format'
import type { StepView } from '../../data/preparation'

/** Rows, columns and missing cells before and after a step. */
export function TollLedger({ step }: { step: StepView | undefined }) {
  if (!step) return null
  if (step.problem)
    return (
      <div className="problem">
        <b>Cannot be done.</b> {step.problem}
      </div>
    )
  const t = step.toll
  if (!t) return null
  const lines: [string, number, number, (d: number) => string][] = [
    ['Rows', t.rowsBefore, t.rowsAfter, (d) => (d === 0 ? 'none lost' : `−${whole(-d)}`)],
    ['Columns', t.columnsBefore, t.columnsAfter, (d) => (d === 0 ? 'same' : d > 0 ? `+${whole(d)}` : `−${whole(-d)}`)],
    ['Missing cells', t.missingBefore, t.missingAfter, (d) => (d === 0 ? 'same' : d > 0 ? `+${whole(d)}` : `−${whole(-d)}`)],
  ]
  return (
    <>
      <table className="ledger" aria-label="Toll">
        <thead>
          <tr>
            <th style={{ width: 112 }}>Toll</th>
            <th className="n">Before</th>
            <th className="n">After</th>
            <th className="n">Change</th>
          </tr>
        </thead>
        <tbody>
          {lines.map(([name, before, after, change]) => (
            <tr key={name}>
              <td>{name}</td>
              <td className="n">{whole(before)}</td>
              <td className="n">{whole(after)}</td>
              <td
                className={`n toll ${after === before ? 'none' : name === 'Rows' ? 'loss' : name === 'Missing cells' && after < before ? 'gain' : ''}`}
              >
                {change(after - before)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="small">{step.sentence}</p>
    </>
  )
}
