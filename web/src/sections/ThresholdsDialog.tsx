import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useState } from 'react'
import { number } from '../ui/format'
import { Loading, Trouble } from '../ui/Trouble'
import { type Threshold, useChangeThresholds, useThresholds } from '../data/finding'

/** From where on something is a finding, for this study. */
export function ThresholdsDialog({ studyId, onClose }: { studyId: number; onClose: () => void }) {
  const kept = useThresholds(studyId)
  return (
    <Dialog open onClose={onClose} maxWidth="md" aria-labelledby="thresholds">
      <DialogTitle id="thresholds">From where on is it a finding?</DialogTitle>
      {kept.data ? (
        <Form key={kept.dataUpdatedAt} studyId={studyId} thresholds={kept.data} onClose={onClose} />
      ) : (
        <DialogContent>{kept.isPending ? <Loading what="the thresholds" /> : <Trouble error={kept.error} />}</DialogContent>
      )}
    </Dialog>
  )
}

function Form({ studyId, thresholds, onClose }: { studyId: number; thresholds: Threshold[]; onClose: () => void }) {
  const change = useChangeThresholds(studyId)
  const [texts, setTexts] = useState(() => Object.fromEntries(thresholds.map((t) => [t.name, String(t.value)])))
  const values = Object.fromEntries(thresholds.map((t) => [t.name, Number(texts[t.name]!.replace(',', '.'))]))
  const wrong = thresholds.filter((t) => texts[t.name]!.trim() === '' || !Number.isFinite(values[t.name]!) || values[t.name]! < 0)
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault()
        if (wrong.length === 0) change.mutate(values, { onSuccess: onClose })
      }}
    >
      <DialogContent>
        <table className="ledger" aria-label="Thresholds">
          <thead>
            <tr>
              <th>It is a finding when</th>
              <th className="n" style={{ width: 90 }}>
                From
              </th>
              <th className="n" style={{ width: 80 }}>
                Usual
              </th>
            </tr>
          </thead>
          <tbody>
            {thresholds.map((t) => (
              <tr key={t.name}>
                <td style={{ whiteSpace: 'normal', paddingRight: 20 }}>{t.says}</td>
                <td className="n">
                  <input
                    aria-label={t.says}
                    aria-invalid={wrong.includes(t)}
                    value={texts[t.name]}
                    inputMode="decimal"
                    onChange={(e) => setTexts({ ...texts, [t.name]: e.target.value })}
                    style={{
                      width: 70,
                      textAlign: 'right',
                      border: 0,
                      borderBottom: '1px solid var(--ink)',
                      background: 'none',
                      font: 'inherit',
                    }}
                  />
                </td>
                <td className="n soft">{number(t.usual)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {wrong.length > 0 && <p className="problem">Each threshold is a number from 0 on.</p>}
        <Trouble error={change.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={() => setTexts(Object.fromEntries(thresholds.map((t) => [t.name, String(t.usual)])))}>All as usual</Button>
        <Button onClick={onClose}>Leave them</Button>
        <Button type="submit" variant="contained" color="primary" disabled={wrong.length > 0 || change.isPending}>
          Look again
        </Button>
      </DialogActions>
    </form>
  )
}
