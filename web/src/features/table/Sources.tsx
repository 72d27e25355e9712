import { Button, TextField } from '@mui/material'
import { useState } from 'react'
import { Trouble } from '../../ui/Trouble'
import { useExamples, useTakeExample } from '../../data/table'

/** A statement instead of a whole table. */
export function Select({ value, onDone }: { value: string; onDone: (statement: string) => void }) {
  const [text, setText] = useState(value)
  return (
    <form
      className="above-6"
      onSubmit={(e) => {
        e.preventDefault()
        if (text.trim() !== '') onDone(text.trim())
      }}
    >
      <TextField
        label="or what a SELECT gives"
        value={text}
        multiline
        minRows={2}
        fullWidth
        size="small"
        onChange={(e) => setText(e.target.value)}
        slotProps={{
          htmlInput: { maxLength: 4000, spellCheck: false, style: { fontFamily: '"JetBrains Mono Variable", monospace', fontSize: 12 } },
        }}
      />
      <Button size="small" type="submit" disabled={text.trim() === '' || text.trim() === value} sx={{ marginTop: '6px' }}>
        Show its records
      </Button>
    </form>
  )
}

/** Examples that ship with the app. */
export function Shelf({ onTaken }: { onTaken: (uploadId: number) => void }) {
  const examples = useExamples()
  const take = useTakeExample()
  if (!examples.data || examples.data.length === 0) return null
  return (
    <div style={{ marginTop: 22, textAlign: 'left', maxWidth: 620 }}>
      <h3 className="fig-title">Or take an example from the shelf</h3>
      <table className="ledger above-6" aria-label="Examples">
        <tbody>
          {examples.data.map((e) => (
            <tr key={e.name}>
              <td className="nm" style={{ width: 140 }}>
                {e.fileName}
              </td>
              <td style={{ whiteSpace: 'normal', padding: '4px 6px' }} className="soft">
                {e.says}
              </td>
              <td style={{ width: 70 }}>
                <Button
                  size="small"
                  disabled={take.isPending}
                  aria-label={`Take ${e.fileName}`}
                  onClick={() => take.mutate(e.name, { onSuccess: (u) => onTaken(u.id) })}
                >
                  Take
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Trouble error={take.error} />
    </div>
  )
}
