import { Button, ListSubheader, Menu, MenuItem } from '@mui/material'
import { useState } from 'react'
import type { Described } from './api'

const groups: [string, string][] = [
  ['missing', 'What is missing'],
  ['columns', 'Columns'],
  ['values', 'Values'],
  ['rows', 'Rows'],
  ['combine', 'Several columns together'],
]

/** Every kind of step, by what it is about. */
export function AddStep({ kinds, onAdd }: { kinds: Described[]; onAdd: (kind: Described) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  return (
    <>
      <Button variant="contained" color="primary" aria-haspopup="menu" onClick={(e) => setAnchor(e.currentTarget)}>
        Add a step…
      </Button>
      <Menu
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        slotProps={{ paper: { sx: { maxHeight: 560, maxWidth: 620 } } }}
      >
        {groups.flatMap(([group, title]) => [
          <ListSubheader key={group} sx={{ lineHeight: '30px' }}>
            {title}
          </ListSubheader>,
          ...kinds
            .filter((k) => k.group === group)
            .map((k) => (
              <MenuItem
                key={k.step}
                title={k.says}
                onClick={() => {
                  setAnchor(null)
                  onAdd(k)
                }}
              >
                <span style={{ width: 190, flex: 'none' }}>{k.title}</span>
                <span className="soft small" style={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
                  {k.says}
                </span>
              </MenuItem>
            )),
        ])}
      </Menu>
    </>
  )
}
