import { Slot } from '../ui/Slot'
import type { TableInfo } from '../data/table'
import type { Figure } from '../data/combine'

const ways: { value: string; label: string; kinds: string[] }[] = [
  { value: 'count', label: 'how many records', kinds: [] },
  { value: 'sum', label: 'the sum of', kinds: ['number'] },
  { value: 'mean', label: 'the mean of', kinds: ['number'] },
  { value: 'min', label: 'the smallest', kinds: ['number', 'date'] },
  { value: 'max', label: 'the largest', kinds: ['number', 'date'] },
  { value: 'share', label: 'the share of records where', kinds: ['category', 'yes/no'] },
  { value: 'latest', label: 'the latest', kinds: ['number', 'category', 'yes/no', 'date', 'text', 'identifier'] },
]

/** What is gathered of each key, as a sentence. */
export function Figures({ table, figures, onChange }: { table: TableInfo; figures: Figure[]; onChange: (figures: Figure[]) => void }) {
  const fitting = (how: string) => table.columns.filter((c) => ways.find((w) => w.value === how)?.kinds.includes(c.kind))
  const dates = table.columns.filter((c) => c.kind === 'date')
  const usable = ways.filter((w) => w.kinds.length === 0 || (fitting(w.value).length > 0 && (w.value !== 'latest' || dates.length > 0)))
  const fresh = (how: string, name?: string): Figure => {
    const column = fitting(how).find((c) => c.name === name) ?? fitting(how)[0]
    if (how === 'count' || !column) return { how }
    return {
      how,
      column: column.name,
      ...(how === 'share' ? { value: column.top[0]?.value ?? '' } : {}),
      ...(how === 'latest' ? { by: dates[0]?.name ?? '' } : {}),
    }
  }
  const put = (i: number, f: Figure | null) => onChange(figures.flatMap((o, j) => (j === i ? (f ? [f] : []) : [o])))
  return (
    <>
      {figures.map((f, i) => (
        <span key={i}>
          {i > 0 && ', '}
          <Slot
            label={`Figure ${i + 1}`}
            value={f.how}
            choices={[...usable, ...(figures.length > 1 ? [{ value: '', label: 'not this one' }] : [])].map((w) => ({
              value: w.value,
              label: w.label,
            }))}
            onChange={(how) => put(i, how === '' ? null : fresh(how, f.column))}
          />
          {f.column !== undefined && (
            <>
              {' '}
              <Slot
                label={`Column of figure ${i + 1}`}
                value={f.column}
                choices={fitting(f.how).map((c) => ({ value: c.name, label: c.name, effect: c.kind }))}
                onChange={(name) => put(i, fresh(f.how, name))}
              />
            </>
          )}
          {f.value !== undefined && (
            <>
              {' is '}
              <Slot
                label={`Value of figure ${i + 1}`}
                value={f.value}
                choices={(table.columns.find((c) => c.name === f.column)?.top ?? []).map((t) => ({ value: t.value, label: t.value }))}
                onChange={(value) => put(i, { ...f, value })}
              />
            </>
          )}
          {f.by !== undefined && dates.length > 1 && (
            <>
              {' by '}
              <Slot
                label={`Date of figure ${i + 1}`}
                value={f.by}
                choices={dates.map((d) => ({ value: d.name, label: d.name }))}
                onChange={(by) => put(i, { ...f, by })}
              />
            </>
          )}
        </span>
      ))}{' '}
      <Slot
        label="Gather more"
        value="and…"
        choices={usable.map((w) => ({ value: w.value, label: w.label }))}
        onChange={(how) => onChange([...figures, fresh(how)])}
      />
    </>
  )
}
