import { Slot } from '../ui/Slot'
import type { TableInfo } from '../data/table'

export type Divided = { way: string; by: string | null; validation: string | null; sealedValue: string | null }

const ways = [
  { value: 'chance', label: 'by chance', effect: 'the usual way' },
  { value: 'group', label: 'by whole groups', effect: 'one household never on both sides' },
  { value: 'time', label: 'by time', effect: 'the past learns, what came later judges' },
  { value: 'marker', label: 'by a marker', effect: 'a column says which rows judge' },
]

/** How rows are divided into those that teach, those that judge, and those that are sealed. */
export function Division({
  table,
  target,
  value,
  onChange,
}: {
  table: TableInfo
  target: string
  value: Divided
  onChange: (value: Divided) => void
}) {
  const others = table.columns.filter((c) => c.name !== target)
  const possible = others.filter((c) =>
    value.way === 'time'
      ? c.kind === 'date' || c.kind === 'number'
      : value.way === 'marker'
        ? (c.kind === 'category' || c.kind === 'yes/no') && c.distinct <= 20
        : c.kind !== 'date' && c.distinct > 1,
  )
  const first = (way: string): string | null =>
    (way === 'time'
      ? others.find((c) => c.kind === 'date')
      : way === 'group'
        ? (others.find((c) => c.use === 'key' && c.distinct < table.rows) ??
          others.find((c) => c.kind === 'identifier' && c.distinct < table.rows))
        : others.find((c) => c.use === 'split marker')
    )?.name ?? null
  const marks = value.way === 'marker' ? (table.columns.find((c) => c.name === value.by)?.top ?? []) : []
  const folds = table.rows < 50000
  return (
    <p className="sentence" style={{ marginTop: 10, fontSize: 15 }}>
      Rows are divided{' '}
      <Slot
        label="Divided"
        value={value.way}
        choices={ways}
        onChange={(way) => onChange({ way, by: first(way), validation: null, sealedValue: null })}
      />
      {value.way !== 'chance' && (
        <>
          , by{' '}
          <Slot
            label="Column that divides"
            wait={value.by === null}
            value={value.by ?? 'choose a column'}
            choices={possible.map((c) => ({ value: c.name, label: c.name, effect: c.kind }))}
            onChange={(by) => onChange({ ...value, by, validation: null, sealedValue: null })}
          />
        </>
      )}
      {value.way === 'marker' && value.by !== null && (
        <>
          ;{' '}
          <Slot
            label="Validates"
            wait={value.validation === null}
            value={value.validation ?? 'choose a value'}
            choices={marks.map((m) => ({ value: m.value, label: m.value }))}
            onChange={(validation) => onChange({ ...value, validation })}
          />{' '}
          validates,{' '}
          <Slot
            label="Sealed"
            value={value.sealedValue ?? ''}
            choices={[{ value: '', label: 'nothing' }, ...marks.map((m) => ({ value: m.value, label: m.value }))]}
            onChange={(v) => onChange({ ...value, sealedValue: v === '' ? null : v })}
          />{' '}
          is sealed
        </>
      )}
      .{' '}
      <span className="soft small">
        {value.way === 'chance' && (folds ? 'The others judge in 5 folds, 2 times.' : 'Of the others, a quarter judges.')}
        {value.way === 'group' && 'Rows with the same value always stay together.'}
        {value.way === 'time' && 'The latest fifth is sealed; each stretch before it is judged by what came earlier.'}
      </span>
    </p>
  )
}
