import type { View } from '../../api/client'
import { number, share, whole } from '../../ui/format'

type Way = View<'Treatments'>

/** Ways to treat what is missing, each tried where the answer is known. */
export function Ways({ ways, chosen, onChoose }: { ways: Way[]; chosen: string; onChoose: (method: string) => void }) {
  return (
    <div>
      <table className="ledger" aria-label="Ways to treat it">
        <thead>
          <tr>
            <th>Ways to treat it</th>
            <th className="n" style={{ width: 76 }}>
              Rows lost
            </th>
            <th className="n" style={{ width: 60 }} title="Mean difference from the true value, where it is known">
              Error
            </th>
            <th className="n" style={{ width: 62 }} title="How much of the column's spread is left">
              Spread
            </th>
          </tr>
        </thead>
        <tbody>
          {ways.map((w) => (
            <tr key={w.method} className={w.method === chosen ? 'sel' : ''}>
              <td>
                <label style={{ display: 'flex', gap: 6, alignItems: 'center' }}>
                  <input type="radio" name="way" checked={w.method === chosen} onChange={() => onChoose(w.method)} className="accented" />
                  {w.method}
                </label>
              </td>
              <td className={`n ${w.rowsLost > 0 ? 'toll loss' : ''}`}>{w.rowsLost > 0 ? `−${whole(w.rowsLost)}` : '0'}</td>
              <td className="n">{w.error == null ? '–' : number(w.error, 3)}</td>
              <td className="n">{share(w.spread, 0)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="soft small">Error: every fifth known training cell is taken away and filled again; how far off, on average.</p>
    </div>
  )
}
