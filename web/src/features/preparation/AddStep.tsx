import { Button, ListSubheader, Menu, MenuItem } from '@mui/material'
import { useState } from 'react'
import { Link } from 'react-router'
import { useStudyId } from '../../data/study'
import type { Described } from '../../data/preparation'

const groups: [string, string][] = [
  ['missing', 'What is missing'],
  ['columns', 'Columns'],
  ['values', 'Values'],
  ['rows', 'Rows'],
  ['combine', 'Several columns together'],
]

const others = [
  ['look up', 'Join another table', 'Looks up columns of another table by a key; no record is multiplied.'],
  ['gather', 'Gather to a coarser record', 'Makes one record of all that share a key, with counts, sums and means.'],
] as const

/** Every kind of step, by what it is about. */
export function AddStep({ kinds, onAdd }: { kinds: Described[]; onAdd: (kind: Described) => void }) {
  const studyId = useStudyId()
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
                <span className="soft small clipped">{k.says}</span>
              </MenuItem>
            )),
        ])}
        <ListSubheader sx={{ lineHeight: '30px' }}>
          Other tables: made first, as a table of its own, and made again for new records
        </ListSubheader>
        {others.map(([what, title, says]) => (
          <MenuItem key={what} component={Link} to={`/study/${studyId}/table?combine=${what}`} title={says}>
            <span style={{ width: 190, flex: 'none' }}>{title}</span>
            <span className="soft small">{says}</span>
          </MenuItem>
        ))}
      </Menu>
    </>
  )
}
