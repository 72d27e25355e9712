import { Button, Checkbox, FormControlLabel, Popover, TextField } from '@mui/material'
import { type FormEvent, useState } from 'react'
import { whole } from '../ui/format'
import { Slot } from '../ui/Slot'
import type { Column, TableInfo } from '../data/table'
import { type Condition, valuesOf } from '../data/conditions'

/** What is needed of a table to ask about its columns. */
type Askable = { columns: Pick<Column, 'name' | 'kind' | 'top' | 'bins'>[]; asks: TableInfo['asks'] }

type Props = {
  table: Askable
  lead?: string
  conditions: Condition[]
  any: boolean
  onChange: (conditions: Condition[], any: boolean) => void
}

/** The sentence that says which records are shown; each of its words can be changed in place. */
export function Where({ table, lead = 'Records where', conditions, any, onChange }: Props) {
  const columnChoices = table.columns.map((c) => ({ value: c.name, label: c.name, effect: c.kind }))
  const asks = (name: string) => {
    const kind = table.columns.find((c) => c.name === name)?.kind
    return table.asks.find((a) => a.kind === kind)?.relations ?? []
  }
  const put = (i: number, next: Condition) =>
    onChange(
      conditions.map((c, j) => (j === i ? next : c)),
      any,
    )
  /** A column of another kind is asked the most usual question of its kind, with a value that exists. */
  const fresh = (name: string): Condition => {
    const column = table.columns.find((c) => c.name === name)
    const relation = asks(name)[0] ?? 'is present'
    const first = column?.top[0]?.value ?? (column?.bins.length ? middle(column) : '')
    return valuesOf(relation) === 0 || first === '' ? [name, first === '' ? 'is present' : relation] : [name, relation, first]
  }
  return (
    <p className="sentence flush">
      {lead}{' '}
      {conditions.map((c, i) => (
        <span key={i}>
          {i > 0 && (
            <>
              {' '}
              <Slot
                label="Joined by"
                value={any ? 'or' : 'and'}
                choices={[
                  { value: 'and', label: 'and', effect: 'all must hold' },
                  { value: 'or', label: 'or', effect: 'one is enough' },
                ]}
                onChange={(v) => onChange(conditions, v === 'or')}
              />{' '}
            </>
          )}
          <Slot label={`Column ${i + 1}`} value={c[0]} choices={columnChoices} onChange={(name) => put(i, fresh(name))} />{' '}
          <Slot
            label={`Relation ${i + 1}`}
            value={c[1]}
            choices={asks(c[0]).map((r) => ({ value: r, label: r }))}
            onChange={(relation) => put(i, [c[0], relation, ...fit(c.slice(2), relation)])}
          />{' '}
          {valuesOf(c[1]) > 0 && (
            <Values
              condition={c}
              column={table.columns.find((o) => o.name === c[0])}
              label={`Value ${i + 1}`}
              onChange={(values) => put(i, [c[0], c[1], ...values])}
            />
          )}
        </span>
      ))}{' '}
      <Slot
        label="Add a condition"
        value={conditions.length === 0 ? 'choose a column…' : 'and…'}
        choices={columnChoices}
        onChange={(name) => onChange([...conditions, fresh(name)], any)}
      />
    </p>
  )
}

function middle(column: Askable['columns'][number]): string {
  const bin = column.bins[Math.floor(column.bins.length / 2)]!
  return column.kind === 'date' ? new Date(bin.low * 1000).toISOString().slice(0, 10) : String(Number(bin.low.toPrecision(3)))
}

function fit(values: string[], relation: string): string[] {
  const wanted = valuesOf(relation)
  if (wanted === Infinity) return values
  return wanted === 2 ? [values[0] ?? '', values[1] ?? values[0] ?? ''] : values.slice(0, wanted)
}

/** One or more values, chosen among the frequent ones or written. */
function Values({
  condition,
  column,
  label,
  onChange,
}: {
  condition: Condition
  column: Askable['columns'][number] | undefined
  label: string
  onChange: (values: string[]) => void
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const [draft, setDraft] = useState<string[]>([])
  const values = condition.slice(2)
  const takes = valuesOf(condition[1])
  const coded = column?.kind === 'category' || column?.kind === 'yes/no'
  const shown = values.join(condition[1] === 'is between' ? ' and ' : ', ') || '…'
  function submit(event: FormEvent) {
    event.preventDefault()
    setAnchor(null)
    const written = draft.map((v) => v.trim()).filter((v) => v !== '')
    if (written.length > 0 && (takes !== 2 || written.length === 2)) onChange(written)
  }
  if (coded && takes === 1)
    return (
      <Slot
        label={label}
        value={values[0] ?? ''}
        choices={(column?.top ?? []).map((t) => ({ value: t.value, label: t.value, ...(t.count > 0 ? { effect: whole(t.count) } : {}) }))}
        onChange={(v) => onChange([v])}
      />
    )
  return (
    <>
      <button
        type="button"
        className="slot"
        aria-haspopup="dialog"
        aria-expanded={anchor !== null}
        aria-label={`${label}: ${shown}`}
        onClick={(e) => {
          setDraft(takes === 2 ? [values[0] ?? '', values[1] ?? ''] : takes === 1 ? [values[0] ?? ''] : values)
          setAnchor(e.currentTarget)
        }}
      >
        {shown}
      </button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <form onSubmit={submit} style={{ padding: 14, display: 'flex', flexDirection: 'column', gap: 10, minWidth: 220 }}>
          {takes === Infinity && coded ? (
            (column?.top ?? []).map((t) => (
              <FormControlLabel
                key={t.value}
                label={`${t.value}  (${whole(t.count)})`}
                control={
                  <Checkbox
                    size="small"
                    checked={draft.includes(t.value)}
                    onChange={(_, on) => setDraft(on ? [...draft, t.value] : draft.filter((v) => v !== t.value))}
                  />
                }
              />
            ))
          ) : takes === Infinity ? (
            <TextField
              autoFocus
              multiline
              minRows={3}
              label="One value a line"
              value={draft.join('\n')}
              onChange={(e) => setDraft(e.target.value.split('\n'))}
            />
          ) : (
            draft.map((v, i) => (
              <TextField
                key={i}
                autoFocus={i === 0}
                label={takes === 2 ? (i === 0 ? 'From' : 'To') : column?.kind === 'date' ? 'Date, as 2026-03-14' : 'Value'}
                value={v}
                onChange={(e) => setDraft(draft.map((d, j) => (j === i ? e.target.value : d)))}
              />
            ))
          )}
          <Button type="submit" variant="contained" size="small">
            Show these
          </Button>
        </form>
      </Popover>
    </>
  )
}
