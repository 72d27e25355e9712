import { Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material'
import { useState } from 'react'
import { count, share, whole } from '../ui/format'
import { Slot } from '../ui/Slot'
import { Trouble } from '../ui/Trouble'
import { type TableInfo, titled, useRegister, useTables } from '../data/table'
import { type Figure, type Preview, type Combination, useCombine, useLook } from '../data/combine'
import { Figures } from './Figures'

type What = Combination['kind']

type Props = { studyId: number; table: TableInfo; start: What; onClose: (tableId: number | null) => void }

/** So many are learned from well while somebody waits. */
const DRAWN = 1_000_000

/** A table made from this one: columns of another one beside it, its records gathered into coarser ones, or some of them drawn. */
export function CombineDialog({ studyId, table, start, onClose }: Props) {
  const tables = useTables(studyId)
  const others = (tables.data ?? []).filter((t) => t.id !== table.id && t.state === 'ready')
  const [what, setWhat] = useState(start)
  const [otherId, setOtherId] = useState<number | null>(null)
  const other = useRegister(otherId ?? others[0]?.id)
  const [chosenKey, setKey] = useState<string | null>(null)
  const [otherKey, setOtherKey] = useState<string | null>(null)
  const [columns, setColumns] = useState<string[]>([])
  const [figures, setFigures] = useState<Figure[]>([{ how: 'count' }])
  const [records, setRecords] = useState(String(table.rows > DRAWN ? DRAWN : Math.max(1, Math.round(table.rows / 2))))
  const [seed, setSeed] = useState('2026')
  const [name, setName] = useState('')
  const look = useLook(studyId)
  const make = useCombine(studyId)
  const beside = other.data
  // A key that both tables know, or one that stands in several records: that is what is looked up, or gathered.
  const key = chosenKey ?? (what === 'look up' ? commonKey(table, beside) : repeatedKey(table)) ?? guessKey(table)
  const matching = otherKey ?? beside?.columns.find((c) => c.name === key)?.name ?? (beside ? guessKey(beside) : '')
  const combination: Combination = {
    'look up': { kind: 'look up' as const, key, otherKey: matching, columns },
    gather: { kind: 'gather' as const, key, figures },
    draw: { kind: 'draw' as const, records: plain(records) ?? 0, seed: plain(seed) ?? 0 },
  }[what]
  const wanted = { tableId: table.id, otherId: what === 'look up' ? (beside?.id ?? null) : null, combination, name: name.trim() }
  const ready = {
    'look up': columns.length > 0 && beside !== undefined,
    gather: figures.length > 0,
    draw: (plain(records) ?? 0) > 0 && plain(seed) !== null,
  }[what]
  /** What was looked at no longer holds after a change. */
  const put =
    <T,>(set: (v: T) => void) =>
    (v: T) => {
      set(v)
      look.reset()
    }
  const names = table.columns.map((c) => ({ value: c.name, label: c.name, effect: c.kind }))
  return (
    <Dialog open onClose={() => onClose(null)} maxWidth="md" fullWidth aria-labelledby="combine">
      <DialogTitle id="combine">Make a table from {table.name}</DialogTitle>
      <DialogContent>
        <p className="sentence">
          <Slot
            label="What"
            value={what}
            choices={[
              { value: 'look up', label: 'Look up columns', effect: 'every record stays, none is multiplied' },
              { value: 'gather', label: 'Gather records', effect: 'one record for each key' },
              { value: 'draw', label: 'Draw records', effect: 'some of them by chance, as they are' },
            ]}
            onChange={(v) => put(setWhat)(v as What)}
          />{' '}
          {what === 'draw' ? (
            <>
              by chance: <Digits label="How many records" value={records} width={90} onChange={put(setRecords)} /> of {whole(table.rows)},
              with seed <Digits label="Seed" value={seed} width={60} onChange={put(setSeed)} />. The same seed draws the same records.
            </>
          ) : what === 'look up' ? (
            others.length === 0 ? (
              'needs a second table in this study: import one first.'
            ) : (
              <>
                in{' '}
                <Slot
                  label="Other table"
                  value={String(beside?.id ?? '')}
                  choices={others.map((t) => ({ value: String(t.id), label: titled(t), effect: count(t.rows, 'record') }))}
                  onChange={(v) => {
                    put(setOtherId)(Number(v))
                    setOtherKey(null)
                    setColumns([])
                  }}
                />{' '}
                where <Slot label="Key" value={key} choices={names} onChange={put(setKey)} /> is its{' '}
                <Slot
                  label="Key there"
                  value={matching}
                  choices={(beside?.columns ?? []).map((c) => ({ value: c.name, label: c.name, effect: c.kind }))}
                  onChange={put(setOtherKey)}
                />
                : take{' '}
                {columns.map((c) => (
                  <span key={c}>
                    <Slot
                      label={`Column ${c}`}
                      value={c}
                      choices={[{ value: '', label: `not ${c}` }]}
                      onChange={() => put(setColumns)(columns.filter((o) => o !== c))}
                    />
                    ,{' '}
                  </span>
                ))}
                <Slot
                  label="Take a column"
                  value={columns.length === 0 ? 'which columns?' : 'and…'}
                  wait={columns.length === 0}
                  choices={(beside?.columns ?? [])
                    .filter((c) => c.name !== matching && !columns.includes(c.name))
                    .map((c) => ({ value: c.name, label: c.name, effect: c.kind }))}
                  onChange={(v) => put(setColumns)([...columns, v])}
                />
              </>
            )
          ) : (
            <>
              of each <Slot label="Key" value={key} choices={names} onChange={put(setKey)} />:{' '}
              <Figures table={table} figures={figures} onChange={put(setFigures)} />
            </>
          )}
        </p>
        <Trouble error={look.error ?? make.error} />
        {look.data && <Toll preview={look.data} what={what} fresh={what === 'look up' ? columns.length : 0} />}
        {look.data && (
          <TextField
            label="Name of the table"
            value={name}
            onChange={(e) => setName(e.target.value)}
            slotProps={{ htmlInput: { maxLength: 120 } }}
            sx={{ marginTop: '12px', width: 320 }}
          />
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={() => onClose(null)}>Leave it</Button>
        {look.data ? (
          <Button
            variant="contained"
            color="primary"
            disabled={name.trim() === '' || make.isPending}
            onClick={() => make.mutate(wanted, { onSuccess: (job) => onClose(job.subject) })}
          >
            Make it
          </Button>
        ) : (
          <Button variant="contained" color="primary" disabled={!ready || look.isPending} onClick={() => look.mutate(wanted)}>
            {look.isPending ? 'Counting …' : 'See what it gives'}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  )
}

function Digits({ label, value, width, onChange }: { label: string; value: string; width: number; onChange: (text: string) => void }) {
  return (
    <input
      aria-label={label}
      value={value}
      inputMode="numeric"
      onChange={(e) => onChange(e.target.value)}
      className="underlined"
      style={{ width }}
    />
  )
}

/** A whole number as people write it. */
function plain(text: string): number | null {
  const digits = text.replace(/[\s,_]/g, '')
  return /^\d{1,15}$/.test(digits) ? Number(digits) : null
}

const isKey = (c: TableInfo['columns'][number]) => c.use === 'key' || c.kind === 'identifier'

function commonKey(table: TableInfo, other: TableInfo | undefined): string | undefined {
  return table.columns.find((c) => isKey(c) && other?.columns.some((o) => o.name === c.name))?.name
}

function repeatedKey(table: TableInfo): string | undefined {
  return table.columns.find((c) => isKey(c) && c.distinct < table.rows - c.missing)?.name
}

function guessKey(table: TableInfo): string {
  return (table.columns.find((c) => c.use === 'key') ?? table.columns.find((c) => c.kind === 'identifier') ?? table.columns[0])?.name ?? ''
}

/** The new columns stand first in the sample, where they are seen. */
function Toll({ preview, what, fresh }: { preview: Preview; what: What; fresh: number }) {
  const t = preview.toll
  const order = preview.names.map((_, j) => (j < fresh ? preview.names.length - fresh + j : j - fresh))
  return (
    <div role="status">
      <p>
        <b>
          {whole(t.rowsBefore)} × {t.columnsBefore} → {whole(t.rowsAfter)} × {t.columnsAfter}.
        </b>{' '}
        {t.unmatched > 0 && `${count(t.unmatched, 'record')} find no match: their new cells are missing. `}
        {t.keyless > 0 && `${count(t.keyless, 'record')} ${t.keyless === 1 ? 'has' : 'have'} no key. `}
        {t.multiplied > 0 &&
          `${count(t.multiplied, 'key')} stand${t.multiplied === 1 ? 's' : ''} more than once in the other table: the first is taken.`}
        {what === 'draw'
          ? t.rowsAfter < t.rowsBefore
            ? `${share(t.rowsAfter / t.rowsBefore)} of the records, each as likely as any other.`
            : 'There are no more: all of them are taken.'
          : t.unmatched + t.keyless + t.multiplied === 0 && 'Every record has its key, and each key is there once.'}
      </p>
      {preview.sealed && <p className="brass">{preview.sealed}</p>}
      <div style={{ overflow: 'auto', maxHeight: 230 }} tabIndex={0} role="region" aria-label="The first records">
        <table className="ledger" aria-label="The first records" style={{ tableLayout: 'auto' }}>
          <thead>
            <tr>
              {order.map((j) => (
                <th key={j} style={j >= preview.names.length - fresh ? { color: 'var(--ink)' } : {}}>
                  {preview.names[j]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {preview.records.map((r, i) => (
              <tr key={i}>
                {order.map((j) => (
                  <td key={j} className={r[j] == null ? 'brass' : ''}>
                    {r[j] ?? '–'}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  )
}
