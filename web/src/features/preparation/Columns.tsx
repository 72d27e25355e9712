import { Button } from '@mui/material'
import { useState } from 'react'
import { whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import type { Candidate, Choose } from '../../data/preparation'

type Props = {
  label: string
  names: string[]
  choose: Choose | undefined
  columns: Candidate[]
  /** Kinds that the step can treat; any when empty */
  kinds: string[]
  missingFirst: boolean
  onChange: (change: { columns: string[]; choose?: Choose | undefined }) => void
}

/** Columns by name, or by a condition that stays true when the table changes. */
export function Columns({ label, names, choose, columns, kinds, missingFirst, onChange }: Props) {
  const [search, setSearch] = useState('')
  const offered = columns.filter((c) => kinds.length === 0 || kinds.includes(c.kind))
  const gone = names.filter((n) => !columns.some((c) => c.name === n))
  // Where the list was opened, what is chosen and what lacks cells stand first; ticking does not make lines jump.
  const [first] = useState(() => new Set([...names, ...(missingFirst ? offered.filter((c) => c.missing > 0).map((c) => c.name) : [])]))
  const shown = offered
    .filter((c) => c.name.toLowerCase().includes(search.toLowerCase()))
    .sort((a, b) => Number(first.has(b.name)) - Number(first.has(a.name)))
  const meant = choose
    ? offered.filter((c) => (choose.kinds.length === 0 || choose.kinds.includes(c.kind)) && (!choose.missing || c.missing > 0))
    : []
  const toggle = (name: string) => onChange({ columns: names.includes(name) ? names.filter((n) => n !== name) : [...names, name] })
  const how = !choose ? 'these' : choose.missing ? 'every one with missing cells' : 'every one'
  return (
    <div>
      <p className="sentence size-15">
        {label}:{' '}
        <Slot
          label={label}
          value={how}
          choices={[
            { value: 'these', label: 'these' },
            { value: 'every one with missing cells', label: 'every one with missing cells', effect: 'also those to come' },
            { value: 'every one', label: 'every one', effect: 'also those to come' },
          ]}
          onChange={(v) =>
            onChange(
              v === 'these'
                ? { columns: meant.map((c) => c.name) }
                : { columns: [], choose: { kinds: choose?.kinds ?? [], missing: v !== 'every one' } },
            )
          }
        />
        {choose && (
          <>
            {' '}
            of kind{' '}
            <Slot
              label="Kind of columns"
              value={choose.kinds[0] ?? 'any'}
              choices={['any', ...(kinds.length > 0 ? kinds : ['number', 'category', 'yes/no', 'date', 'text', 'identifier'])].map((k) => ({
                value: k,
                label: k,
              }))}
              onChange={(k) => onChange({ columns: [], choose: { ...choose, kinds: k === 'any' ? [] : [k] } })}
            />
          </>
        )}
      </p>
      {choose && (
        <p className="soft small">
          {meant.length === 0
            ? 'No column is of that sort now.'
            : `Now ${meant
                .slice(0, 6)
                .map((c) => c.name)
                .join(', ')}${meant.length > 6 ? ` and ${meant.length - 6} more` : ''}.`}
        </p>
      )}
      {!choose && (
        <>
          {offered.length > 10 && (
            <input
              aria-label="Column name contains"
              placeholder="Name contains"
              value={search}
              onChange={(e) => setSearch(e.target.value)}
              style={{
                width: '100%',
                border: 0,
                borderBottom: '1px solid var(--rule-firm)',
                background: 'none',
                font: 'inherit',
                fontSize: 13,
              }}
            />
          )}
          <fieldset style={{ border: 0, padding: 0, margin: 0, maxHeight: 158, overflow: 'auto', borderTop: '1px solid var(--rule)' }}>
            <legend className="sr">{label}</legend>
            {[...gone.map((name) => ({ name, kind: 'no longer there', missing: 0 })), ...shown].map((c) => (
              <label
                key={c.name}
                style={{
                  display: 'flex',
                  alignItems: 'center',
                  gap: 6,
                  borderBottom: '1px solid var(--rule)',
                  fontSize: 13,
                  minHeight: 26,
                }}
              >
                <input type="checkbox" checked={names.includes(c.name)} onChange={() => toggle(c.name)} className="accented" />
                <span style={{ flex: 1, overflow: 'hidden', textOverflow: 'ellipsis' }} title={c.name}>
                  {c.name}
                </span>
                <span className={gone.includes(c.name) ? 'cinn small' : 'soft small'}>
                  {c.kind}
                  {c.missing > 0 && `, ${whole(c.missing)} missing`}
                </span>
              </label>
            ))}
            {shown.length === 0 && <p className="soft small">No column fits.</p>}
          </fieldset>
          {shown.length > 2 && (
            <Button
              size="small"
              variant="text"
              onClick={() => onChange({ columns: shown.map((c) => c.name).filter((n) => !names.includes(n)) })}
            >
              The others instead
            </Button>
          )}
        </>
      )}
    </div>
  )
}
