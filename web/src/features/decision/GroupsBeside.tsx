import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import type { View } from '../../api/client'
import type { Scoring } from '../../data/decision'
import { count, fixed, number, share } from '../../ui/format'

const GROUPS = 5
const COLUMNS = 10

/** The groups that were found among the records looked at, named by what mainly speaks for them, with what each column does on average. */
export function GroupsBeside({ scoring, because, onClose }: { scoring: Scoring; because: View<'BecauseView'>; onClose: () => void }) {
  const isNumber = scoring.task === 'number'
  const groups = because.groups.filter((g) => g.effects.length > 0).slice(0, GROUPS)
  const of = (g: (typeof groups)[number], column: string) => g.effects.find((e) => e.column === column)?.value ?? 0
  const strength = (column: string) => Math.max(...groups.map((g) => Math.abs(of(g, column))))
  const columns = [...new Set(groups.flatMap((g) => g.effects.map((e) => e.column)))]
    .sort((a, b) => strength(b) - strength(a))
    .slice(0, COLUMNS)
  const moved = (v: number) => {
    const said = isNumber ? number(v, 3) : fixed(100 * v, 1)
    return v > 0 && Number(said) !== 0 ? `+${said}` : said
  }
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="groups-beside">
      <DialogTitle id="groups-beside">Groups among {count(because.looked, 'record')}, side by side</DialogTitle>
      <DialogContent>
        <p className="small soft below-8">
          Each group is named by what mainly speaks for its records. Figures: what a column does to the answers of the group, on average,{' '}
          {isNumber ? `in units of ${scoring.target}` : 'in points'}.
        </p>
        <div className="scrolls-x">
          <table className="ledger" aria-label="Groups side by side" style={{ minWidth: 170 + 120 * groups.length }}>
            <thead>
              <tr>
                <th style={{ width: 150 }}>Column</th>
                {groups.map((g) => (
                  <th key={g.says} className="n many-lines" title={g.says}>
                    {g.says}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              <tr>
                <td className="soft">Records</td>
                {groups.map((g) => (
                  <td key={g.says} className="n soft">
                    {g.records}
                  </td>
                ))}
              </tr>
              <tr>
                <td>
                  <b>Mean answer</b>
                </td>
                {groups.map((g) => (
                  <td key={g.says} className="n">
                    <b>{isNumber ? number(g.answer) : share(g.answer)}</b>
                  </td>
                ))}
              </tr>
              {columns.map((c) => (
                <tr key={c}>
                  <td className="nm clipped" title={c}>
                    {c}
                  </td>
                  {groups.map((g) => (
                    <td key={g.says} className="n" style={{ color: of(g, c) < 0 ? '#3A547A' : '#8A5716' }}>
                      {moved(of(g, c))}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  )
}
