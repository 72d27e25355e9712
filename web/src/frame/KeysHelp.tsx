import { Button, Checkbox, Dialog, DialogActions, DialogContent, DialogTitle, FormControlLabel } from '@mui/material'
import { useState } from 'react'
import { keysEnabled, setKeysEnabled } from '../ui/keys'

const keys: [string, string][] = [
  ['1 – 6', 'the six stations'],
  ['J, K', 'down and up in a ledger'],
  ['Enter', 'open the selected line'],
  ['/', 'find'],
  ['N', 'margin notes'],
  ['L', 'logbook'],
  ['?', 'this list'],
]

export function KeysHelp({ onClose }: { onClose: () => void }) {
  const [on, setOn] = useState(keysEnabled())
  return (
    <Dialog open onClose={onClose}>
      <DialogTitle>Keys</DialogTitle>
      <DialogContent>
        <table className="ledger" style={{ width: 320 }}>
          <tbody>
            {keys.map(([key, what]) => (
              <tr key={key}>
                <td style={{ width: 80 }}>
                  <kbd>{key}</kbd>
                </td>
                <td>{what}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <FormControlLabel
          control={
            <Checkbox
              size="small"
              checked={on}
              onChange={(e) => {
                setOn(e.target.checked)
                setKeysEnabled(e.target.checked)
              }}
            />
          }
          label="Use these keys"
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  )
}
