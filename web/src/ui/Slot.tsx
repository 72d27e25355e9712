import { Menu, MenuItem } from '@mui/material'
import { useState } from 'react'

export type Choice = { value: string; label: string; effect?: string; disabled?: boolean }

/** A word in a sentence that can be changed in place. */
export function Slot({
  value,
  choices,
  onChange,
  label,
  wait = false,
}: {
  value: string
  choices: Choice[]
  onChange: (value: string) => void
  label: string
  wait?: boolean
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const [open, setOpen] = useState(false)
  const shown = choices.find((c) => c.value === value)?.label ?? value
  return (
    <>
      <button
        ref={setAnchor}
        type="button"
        className={wait ? 'slot wait' : 'slot'}
        aria-haspopup="menu"
        aria-expanded={open}
        aria-label={`${label}: ${shown}`}
        onClick={() => setOpen(true)}
      >
        {shown}
      </button>
      <Menu open={open} anchorEl={anchor} onClose={() => setOpen(false)} slotProps={{ paper: { sx: { maxHeight: 420 } } }}>
        {choices.map((c) => (
          <MenuItem
            key={c.value}
            selected={c.value === value}
            disabled={c.disabled ?? false}
            onClick={() => {
              setOpen(false)
              if (c.value !== value) onChange(c.value)
            }}
          >
            <span>{c.label}</span>
            {c.effect && (
              <span className="soft small" style={{ marginLeft: 14 }}>
                {c.effect}
              </span>
            )}
          </MenuItem>
        ))}
      </Menu>
    </>
  )
}
