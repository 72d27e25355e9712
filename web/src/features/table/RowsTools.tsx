import { Button, Checkbox, FormControlLabel, Menu, MenuItem, Popover } from '@mui/material'
import { useState } from 'react'
import { whole } from '../../ui/format'
import type { TableInfo } from '../../data/table'

export function Search({ value, onChange }: { value: string; onChange: (text: string) => void }) {
  const [text, setText] = useState(value)
  return (
    <form
      role="search"
      onSubmit={(e) => {
        e.preventDefault()
        onChange(text.trim())
      }}
    >
      <input
        value={text}
        maxLength={200}
        onChange={(e) => setText(e.target.value)}
        onBlur={() => text.trim() !== value && onChange(text.trim())}
        aria-label="Text in any column"
        placeholder="Text in any column"
        style={{ width: 138, border: 0, borderBottom: '1px solid var(--ink)', background: 'none', font: 'inherit', fontSize: 13 }}
      />
    </form>
  )
}

export function Save({
  narrowed,
  file,
  copy,
  copied,
  hidden,
  source,
}: {
  narrowed: boolean
  file: (format: string) => string
  copy: () => void
  copied: boolean
  /** Columns that are left empty in sealed records */
  hidden: string[]
  /** Where the owner takes the file as it was imported */
  source: string | null
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const close = () => setAnchor(null)
  return (
    <>
      <Button onClick={(e) => setAnchor(e.currentTarget)} aria-haspopup="menu">
        {copied ? 'Copied' : narrowed ? 'Save these rows…' : 'Save…'}
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={close}>
        <MenuItem component="a" href={file('csv')} download onClick={close}>
          CSV
        </MenuItem>
        <MenuItem component="a" href={file('xlsx')} download onClick={close}>
          XLSX workbook
        </MenuItem>
        <MenuItem component="a" href={file('jsonl')} download onClick={close}>
          JSON Lines
        </MenuItem>
        <MenuItem
          onClick={() => {
            close()
            copy()
          }}
        >
          Copy this page
        </MenuItem>
        {source !== null && (
          <MenuItem component="a" href={source} download onClick={close}>
            {hidden.length > 0 ? 'The imported file, sealed outcomes included (goes into the logbook)' : 'The imported file'}
          </MenuItem>
        )}
        {hidden.length > 0 && (
          <p className="soft small" style={{ margin: '4px 16px', maxWidth: 300 }}>
            Of sealed records {hidden.join(', ')} {hidden.length === 1 ? 'is' : 'are'} left empty.
          </p>
        )}
      </Menu>
    </>
  )
}

export function ChooseColumns({
  table,
  chosen,
  onChange,
}: {
  table: TableInfo
  chosen: string[] | null
  onChange: (names: string[] | null) => void
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const [text, setText] = useState('')
  const names = table.columns.map((c) => c.name)
  const on = new Set(chosen ?? names)
  const put = (next: string[]) => onChange(next.length === names.length ? null : next)
  const found = names.filter((n) => n.toLowerCase().includes(text.toLowerCase()))
  return (
    <>
      <Button onClick={(e) => setAnchor(e.currentTarget)} aria-haspopup="dialog">
        Choose columns…
      </Button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <div
          role="group"
          aria-label="Columns shown"
          style={{ padding: '10px 14px', display: 'flex', flexDirection: 'column', maxHeight: 440 }}
        >
          <input
            autoFocus
            value={text}
            onChange={(e) => setText(e.target.value)}
            placeholder="Name contains"
            aria-label="Name contains"
            style={{ border: 0, borderBottom: '1px solid var(--ink)', background: 'none', font: 'inherit' }}
          />
          <p style={{ margin: '6px 0' }}>
            <Button size="small" onClick={() => put(names.filter((n) => on.has(n) || found.includes(n)))}>
              All {found.length}
            </Button>{' '}
            <Button size="small" onClick={() => put(names.filter((n) => on.has(n) && !found.includes(n)))}>
              None of them
            </Button>
          </p>
          <div style={{ overflow: 'auto', display: 'flex', flexDirection: 'column' }}>
            {found.slice(0, 200).map((n) => (
              <FormControlLabel
                key={n}
                label={n}
                control={
                  <Checkbox
                    size="small"
                    sx={{ padding: '3px 9px' }}
                    checked={on.has(n)}
                    onChange={(_, yes) => put(names.filter((o) => (o === n ? yes : on.has(o))))}
                  />
                }
              />
            ))}
          </div>
          {found.length > 200 && <p className="small soft">{whole(found.length - 200)} more; write a part of the name.</p>}
        </div>
      </Popover>
    </>
  )
}
