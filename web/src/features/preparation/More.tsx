import { Button, Menu, MenuItem } from '@mui/material'
import { useRef, useState } from 'react'
import { type Step, stepsOfFile, type Variant } from './api'

type Props = {
  variant: Variant | undefined
  several: boolean
  onCompare: () => void
  onCopy: () => void
  onRead: (name: string, steps: Step[]) => void
  onTrouble: (error: unknown) => void
}

/** What can be done with a variant as a whole. */
export function More({ variant, several, onCompare, onCopy, onRead, onTrouble }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
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
        <MenuItem onClick={close(onCopy)}>New variant from {variant?.letter}</MenuItem>
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
      </Menu>
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
