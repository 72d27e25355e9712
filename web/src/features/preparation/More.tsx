import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Menu, MenuItem, TextField } from '@mui/material'
import { useRef, useState } from 'react'
import { count } from '../../ui/format'
import { type Step, stepsOfFile, type Variant } from '../../data/preparation'

type Props = {
  variant: Variant | undefined
  several: boolean
  onCompare: () => void
  onCopy: (name: string) => void
  onRename: (name: string) => void
  onDiscard: () => void
  onRead: (name: string, steps: Step[]) => void
  onTrouble: (error: unknown) => void
}

/** What can be done with a variant as a whole. */
export function More({ variant, several, onCompare, onCopy, onRename, onDiscard, onRead, onTrouble }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const [asking, setAsking] = useState<'copy' | 'name' | 'discard' | null>(null)
  const file = useRef<HTMLInputElement>(null)
  const close = (then: () => void) => () => {
    setAnchor(null)
    then()
  }
  return (
    <>
      <Button disabled={!variant} aria-haspopup="menu" onClick={(e) => setAnchor(e.currentTarget)}>
        Variants…
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        <MenuItem onClick={close(() => setAsking('copy'))}>New variant from {variant?.letter}…</MenuItem>
        <MenuItem disabled={!several} onClick={close(onCompare)}>
          Compare side by side
        </MenuItem>
        <MenuItem component="a" href={`/api/variants/${variant?.id}/file`} download onClick={() => setAnchor(null)}>
          Save the steps as JSON
        </MenuItem>
        <MenuItem
          onClick={() => {
            setAnchor(null)
            file.current?.click()
          }}
        >
          New variant from a JSON file…
        </MenuItem>
        <MenuItem onClick={close(() => setAsking('name'))}>Rename {variant?.letter}…</MenuItem>
        <MenuItem disabled={!several} onClick={close(() => setAsking('discard'))}>
          Discard {variant?.letter}…
        </MenuItem>
      </Menu>
      {(asking === 'name' || asking === 'copy') && variant && (
        <Naming
          title={asking === 'copy' ? `What sets it apart from ${variant.letter}?` : `Name of variant ${variant.letter}`}
          start={asking === 'copy' ? '' : variant.name}
          does={asking === 'copy' ? 'Make the variant' : 'Rename it'}
          onClose={() => setAsking(null)}
          onName={(name) => {
            setAsking(null)
            if (asking === 'copy') onCopy(name)
            else if (name !== variant.name) onRename(name)
          }}
        />
      )}
      <Dialog open={asking === 'discard'} onClose={() => setAsking(null)} aria-labelledby="discarding">
        <DialogTitle id="discarding">
          Discard variant {variant?.letter}, {variant?.name}?
        </DialogTitle>
        <DialogContent>
          Its {count(variant?.steps.length ?? 0, 'step')} cannot be brought back. A variant that a trial was made with is kept. To have the
          steps again, save them as JSON first.
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setAsking(null)}>Keep it</Button>
          <Button
            variant="contained"
            color="error"
            onClick={() => {
              setAsking(null)
              onDiscard()
            }}
          >
            Discard it
          </Button>
        </DialogActions>
      </Dialog>
      <input
        ref={file}
        type="file"
        accept=".json,application/json"
        hidden
        data-testid="steps-file"
        onChange={(e) => {
          const f = e.target.files?.[0]
          e.target.value = ''
          if (!f) return
          f.text()
            .then((text) => {
              const read = stepsOfFile(text)
              onRead(read.name, read.steps)
            })
            .catch(onTrouble)
        }}
      />
    </>
  )
}

type Asked = { title: string; start: string; does: string; onClose: () => void; onName: (name: string) => void }

function Naming({ title, start, does, onClose, onName }: Asked) {
  const [name, setName] = useState(start)
  return (
    <Dialog open onClose={onClose} aria-labelledby="naming" fullWidth maxWidth="xs">
      <form
        onSubmit={(e) => {
          e.preventDefault()
          if (name.trim() !== '') onName(name.trim())
        }}
      >
        <DialogTitle id="naming">{title}</DialogTitle>
        <DialogContent>
          <TextField
            autoFocus
            fullWidth
            margin="dense"
            label="Name"
            value={name}
            onChange={(e) => setName(e.target.value)}
            slotProps={{ htmlInput: { maxLength: 120 } }}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={name.trim() === ''}>
            {does}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  )
}
