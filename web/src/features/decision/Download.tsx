import { Button, Checkbox, Dialog, DialogActions, DialogContent, DialogTitle, FormControlLabel } from '@mui/material'
import { useState } from 'react'
import { fileUrl, type Scoring } from '../../data/decision'
import { whole } from '../../ui/format'

/** The scored list as a file: which columns come along, with how many digits, and how sure each answer is. */
export function Download({
  scoring,
  carry,
  onClose,
  onCarry,
}: {
  scoring: Scoring
  carry: string[]
  onClose: () => void
  onCarry: (columns: string[]) => void
}) {
  const [chosen, setChosen] = useState(new Set(carry))
  const [full, setFull] = useState(false)
  const [sure, setSure] = useState(false)
  const list = scoring.columns.filter((c) => chosen.has(c))
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Download the scored list</DialogTitle>
      <DialogContent>
        <p className="below-8">
          {whole(scoring.rows)} records with{' '}
          {scoring.task === 'number'
            ? 'a number'
            : scoring.task === 'several classes'
              ? 'likeliest class, the chances of all'
              : 'chance, call'}{' '}
          and reasons, as CSV. Text that a spreadsheet would run as a formula is guarded by an apostrophe. Carry along:
        </p>
        <div style={{ columns: 2, fontSize: 13 }}>
          {scoring.columns.map((c) => (
            <FormControlLabel
              key={c}
              sx={{ display: 'flex', mr: 0 }}
              slotProps={{ typography: { sx: { fontSize: 13 } } }}
              control={
                <Checkbox
                  size="small"
                  sx={{ p: 0.4 }}
                  checked={chosen.has(c)}
                  onChange={(e) => {
                    const next = new Set(chosen)
                    if (e.target.checked) next.add(c)
                    else next.delete(c)
                    setChosen(next)
                  }}
                />
              }
              label={c}
            />
          ))}
        </div>
        <FormControlLabel
          sx={{ mt: 1 }}
          slotProps={{ typography: { sx: { fontSize: 13 } } }}
          control={<Checkbox size="small" sx={{ p: 0.4 }} checked={full} onChange={(e) => setFull(e.target.checked)} />}
          label={scoring.task === 'number' ? 'All digits, not six' : 'All digits of chances, not four'}
        />
        <FormControlLabel
          slotProps={{ typography: { sx: { fontSize: 13 } } }}
          control={<Checkbox size="small" sx={{ p: 0.4 }} checked={sure} onChange={(e) => setSure(e.target.checked)} />}
          label={
            scoring.task === 'number'
              ? 'How sure: between which numbers 80 and 95 of 100 come'
              : scoring.task === 'several classes'
                ? 'How sure: the set that holds what comes in 90 of 100'
                : 'How sure: the share that came among records of similar chance, with its interval'
          }
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={() => setChosen(new Set(chosen.size === scoring.columns.length ? [] : scoring.columns))}>
          {chosen.size === scoring.columns.length ? 'None' : 'All columns'}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          color="primary"
          component="a"
          href={fileUrl(scoring.id, list, full, sure)}
          download
          onClick={() => {
            onCarry(list)
            onClose()
          }}
        >
          Download
        </Button>
      </DialogActions>
    </Dialog>
  )
}
