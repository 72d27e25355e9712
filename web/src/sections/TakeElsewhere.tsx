import { Button, Menu, MenuItem } from '@mui/material'
import { useState } from 'react'

/** What can be read, taken elsewhere: what is worth stating as sentences, all as a table, or a condition of SQL on the prepared columns. */
export function TakeElsewhere({ file, many }: { file: string; many: string }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const ways = [
    { as: 'text&sound=1', label: 'Rules worth stating, as sentences' },
    { as: 'csv', label: `All ${many}, as CSV` },
    { as: 'sql', label: 'As a condition of SQL, on the columns as prepared' },
  ]
  return (
    <>
      <Button aria-haspopup="menu" onClick={(e) => setAnchor(e.currentTarget)}>
        Take it elsewhere…
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {ways.map((w) => (
          <MenuItem key={w.as} component="a" href={`${file}?as=${w.as}`} download onClick={() => setAnchor(null)}>
            {w.label}
          </MenuItem>
        ))}
      </Menu>
    </>
  )
}
