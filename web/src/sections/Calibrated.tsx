import type { Judgment, SectionOf } from '../data/judgment'
import { fixed } from '../ui/format'

/** Which way chances were calibrated, and what each way would have given on folds that it had not learned from. */
export function Calibrated({ section: s }: { section: SectionOf<'calibrated'>; judgment: Judgment }) {
  const losses = s.ways.filter((w) => w.logLoss != null)
  const best = Math.min(...losses.map((w) => w.logLoss!))
  return (
    <section className="pad ruled" aria-label="Calibration">
      <h2 className="fig-title">{s.way === 'as they come' ? 'Chances stay as they come' : `Chances are calibrated by ${s.way}`}</h2>
      <p className="fig-sub">
        {s.asked === 'whichever does better' && 'Whichever does better was asked for. '}
        Each way was learned on the other folds and judged on this one; new records are answered by what all folds taught.
      </p>
      <table className="ledger tight" aria-label="Ways to calibrate" style={{ width: 'auto' }}>
        <thead>
          <tr>
            <th>Chances</th>
            <th className="n">Log loss</th>
            <th className="n">Against the best way</th>
          </tr>
        </thead>
        <tbody>
          {s.ways.map((w) => (
            <tr key={w.way} className={w.way === s.way ? 'sel' : ''}>
              <td>{w.way}</td>
              <td className="n">{w.logLoss == null ? 'cannot' : fixed(w.logLoss, 4)}</td>
              <td className="n">{w.logLoss == null ? '–' : w.logLoss === best ? 'best' : `+${fixed(w.logLoss - best, 4)}`}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
