import { type Decision, money, type Terms, TIERS } from '../../data/list'
import { cutoffSaid, fixed, number, whole } from '../../ui/format'
import { useWritten } from '../../ui/useWritten'

/** A band in words: under the first edge, over the last, or between two. */
function band(edges: number[], k: number, write: (v: number) => string): string {
  if (edges.length === 0) return 'all'
  if (k === 0) return `under ${write(edges[0]!)}`
  if (k === edges.length) return `from ${write(edges[k - 1]!)}`
  return `${write(edges[k - 1]!)} to ${write(edges[k]!)}`
}

/** Records by chance and by value: how many of each cell are acted on, what they return, and their tier. */
export function TierMatrix({ decision }: { decision: Decision }) {
  const { terms } = decision
  const chances = terms.chanceEdges as number[]
  const values = terms.worthColumn == null ? [] : (terms.valueEdges as number[])
  const most = Math.max(1e-9, ...decision.cells.map((c) => c.return))
  const down = Array.from({ length: chances.length + 1 }, (_, i) => chances.length - i)
  const across = Array.from({ length: values.length + 1 }, (_, i) => values.length - i)
  return (
    <table className="ledger" aria-label="Tiers by chance and by value" style={{ tableLayout: 'fixed' }}>
      <thead>
        <tr>
          <th style={{ width: 92 }}>Chance</th>
          {across.map((v) => (
            <th key={v} className="small">
              {values.length === 0 ? 'Acted on' : band(values, v, (e) => money(e, terms.unit))}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {down.map((c) => (
          <tr key={c}>
            <td className="small">{band(chances, c, cutoffSaid)}</td>
            {across.map((v) => {
              const cell = decision.cells.find((o) => o.chance === c && o.value === v)
              if (!cell) return <td key={v} />
              return (
                <td
                  key={v}
                  className="small"
                  style={{
                    background: cell.acted > 0 ? `rgba(31, 111, 95, ${0.08 + (0.2 * Math.max(0, cell.return)) / most})` : undefined,
                    lineHeight: '15px',
                    height: 38,
                  }}
                >
                  <b>{whole(cell.acted)}</b> of {whole(cell.records)}
                  <br />
                  {cell.acted > 0 ? money(cell.return, terms.unit) : ' '}
                  {cell.acted > 0 && <b style={{ float: 'right', paddingRight: 4 }}>{TIERS[cell.rank - 1]}</b>}
                </td>
              )
            })}
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** What the records of each tier on the list cost and bring; they add up to the whole. */
export function TierLedger({ decision }: { decision: Decision }) {
  const { unit } = decision.terms
  const line = (name: string, f: Decision['acted']) => (
    <>
      <td>
        <b>{name}</b>
      </td>
      <td className="n">{whole(f.actions)}</td>
      <td className="n">{money(f.cost, unit)}</td>
      <td className="n">{fixed(f.prevented, 1)}</td>
      <td className="n">{money(f.return, unit)}</td>
      <td className="n">{f.roi == null ? '–' : number(f.roi, 2)}</td>
    </>
  )
  return (
    <table className="ledger above-8" aria-label="What each tier brings">
      <thead>
        <tr>
          <th>Tier</th>
          <th className="n" style={{ width: 54 }}>
            Actions
          </th>
          <th className="n" style={{ width: 54 }}>
            Cost
          </th>
          <th className="n" style={{ width: 70 }}>
            Prevented
          </th>
          <th className="n" style={{ width: 64 }}>
            Return
          </th>
          <th className="n" style={{ width: 40 }} title="Return on what is spent">
            ROI
          </th>
        </tr>
      </thead>
      <tbody>
        {decision.tiers.map((t) => (
          <tr key={t.rank}>{line(TIERS[t.rank - 1]!, t.figures)}</tr>
        ))}
      </tbody>
      <tfoot>
        <tr>{line('', decision.acted)}</tr>
      </tfoot>
    </table>
  )
}

/** Edges written exactly: "15%, 40%". */
export function EdgesField({
  label,
  edges,
  ofChance,
  onDone,
}: {
  label: string
  edges: number[]
  ofChance: boolean
  onDone: (edges: number[]) => void
}) {
  const write = (e: number) => (ofChance ? cutoffSaid(e) : String(e))
  const field = useWritten(edges.map(write).join(', '), (text) => {
    const next = text
      .split(/[,;]\s*/)
      .filter((t) => t.trim() !== '')
      .map((t) => Number(t.replace('%', '').trim()) / (ofChance ? 100 : 1))
    if (next.every((e) => Number.isFinite(e))) onDone(next.map((e) => Number(e.toPrecision(6))).sort((a, b) => a - b))
  })
  return (
    <label className="size-13">
      {label}{' '}
      <input
        className="bound"
        value={field.text}
        onChange={(e) => field.write(e.target.value)}
        onBlur={field.done}
        onKeyDown={(e) => e.key === 'Enter' && field.done()}
        style={{ width: 118 }}
      />
    </label>
  )
}

/** How the list would change with each assumption, in sentences. */
export function Assumptions({ decision }: { decision: Decision }) {
  const { terms } = decision
  const says = (a: Decision['assumptions'][number]): string =>
    ({
      works: `If an action works in ${a.value < terms.works ? 'only ' : ''}${cutoffSaid(a.value)}`,
      cost: `If an action costs ${money(a.value, terms.unit)}`,
      worth: `If an event is worth a quarter less`,
      chance: `If chances are a fifth too high`,
    })[a.what] ?? a.what
  return (
    <table className="ledger above-8" aria-label="What if an assumption is another">
      <thead>
        <tr>
          <th>Assumption</th>
          <th className="n" style={{ width: 64 }} title="Records that still pay, capacity aside">
            Still pay
          </th>
          <th className="n" style={{ width: 70 }}>
            Return
          </th>
        </tr>
      </thead>
      <tbody>
        {decision.assumptions.map((a) => (
          <tr key={a.what + String(a.value)}>
            <td className="small clipped" title={says(a)}>
              {says(a)}
            </td>
            <td className="n">{whole(a.paying)}</td>
            <td className="n">{money(a.return, terms.unit)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** The terms that are changed most, each a field. */
export function FewTerms({ terms, onChange }: { terms: Terms; onChange: (change: Partial<Terms>) => void }) {
  return (
    <div className="facts-of-terms">
      <Field
        label="Actions in all"
        value={terms.most == null ? '' : String(terms.most)}
        hint="no limit"
        onDone={(t) => onChange({ most: t === '' ? null : Math.max(0, Math.round(Number(t))) })}
      />
      <Field label={`An action costs, ${terms.unit}`} value={String(terms.cost)} onDone={(t) => onChange({ cost: Number(t) })} />
      <Field
        label="It works in, %"
        value={String(Number((100 * terms.works).toPrecision(4)))}
        onDone={(t) => {
          const works = Number(t) / 100
          onChange({ works, worksLow: Math.min(terms.worksLow, works), worksHigh: Math.max(terms.worksHigh, works) })
        }}
      />
    </div>
  )
}

export function Field({
  label,
  named,
  value,
  hint = '',
  width = 74,
  onDone,
}: {
  label: string
  /** Where the label is not shown. */
  named?: string
  value: string
  hint?: string
  width?: number
  onDone: (text: string) => void
}) {
  const field = useWritten(value, (text) => {
    const trimmed = text.trim().replaceAll(',', '')
    if (trimmed === '' ? hint !== '' : Number.isFinite(Number(trimmed))) onDone(trimmed)
  })
  return (
    <label className="term">
      <span>{label}</span>
      <input
        className="bound n"
        aria-label={named}
        value={field.text}
        placeholder={hint}
        inputMode="decimal"
        onChange={(e) => field.write(e.target.value)}
        onBlur={field.done}
        onKeyDown={(e) => e.key === 'Enter' && field.done()}
        style={{ width }}
      />
    </label>
  )
}
