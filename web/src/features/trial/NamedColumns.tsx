import { Menu, MenuItem } from '@mui/material'
import { useState } from 'react'
import type { Setting } from '../../data/settings'
import { useOffered } from '../../data/trial'
import { count } from '../../ui/format'

const ALL = 'all'

/** The columns that a text names, separated by commas. */
const named = (text: string): string[] =>
  text
    .split(',')
    .map((n) => n.trim())
    .filter((n) => n !== '')

/** A text that names columns, as a choice for each column of its kinds: straight or bent, free or only rising. */
export function NamedColumns({
  setting: s,
  value,
  variantId,
  onChange,
}: {
  setting: Setting
  value: string
  variantId: number | undefined
  onChange: (value: string) => void
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const offered = useOffered(variantId)
  const [plain, chosen] = s.choices ?? []
  const names = (offered.data ?? []).filter((c) => (s.kinds ?? []).includes(c.kind)).map((c) => c.name)
  const all = value.trim() === ALL
  const own = all ? names : named(value)
  const [first, ...more] = own
  const shown = all ? `all ${names.length}` : first === undefined ? 'none' : more.length === 0 ? first : count(own.length, 'column')
  // A name that is not there stays in sight: the server says what is wrong with it.
  const listed = [...names, ...own.filter((n) => !names.includes(n))]
  return (
    <>
      <button
        id={`setting-${s.name}`}
        type="button"
        className="slot clipped"
        style={{ justifySelf: 'start', maxWidth: '100%' }}
        aria-haspopup="menu"
        aria-expanded={anchor !== null}
        aria-label={`${s.label}: ${shown}`}
        title={own.join(', ')}
        onClick={(e) => setAnchor(e.currentTarget)}
      >
        {shown}
      </button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)} slotProps={{ paper: { sx: { maxHeight: 420 } } }}>
        {listed.length === 0 && <MenuItem disabled>{offered.isPending ? 'Reading the columns…' : 'No column of this kind'}</MenuItem>}
        {listed.map((n) => {
          const on = own.includes(n)
          return (
            <MenuItem
              key={n}
              role="menuitemcheckbox"
              aria-checked={on}
              onClick={() => onChange((on ? own.filter((o) => o !== n) : [...own, n]).join(', '))}
            >
              <span style={{ minWidth: 150 }}>{n}</span>
              <span className={on ? undefined : 'soft'} style={{ marginLeft: 14, ...(on && { color: 'var(--verdigris)' }) }}>
                {on ? chosen : plain}
              </span>
              {!names.includes(n) && <span className="soft small">&nbsp;(not among the columns)</span>}
            </MenuItem>
          )
        })}
      </Menu>
    </>
  )
}
