import { date, fixed, number, share, whole } from '../../ui/format'
import type { LedgerColumn } from '../../ui/Ledger'
import { Shape } from '../../ui/Shape'
import { RelationMark } from '../../sections/RelationMark'
import { type Finding, type Relation, tone } from '../../data/finding'
import type { Column } from '../../data/table'

/** What stands in each line of the Register; short beside a large column. */
export function registerColumns(
  relations: Map<string, Relation>,
  scale: [number, number],
  findings: Finding[],
  short: boolean,
  /** Room for counts of a large table */
  large = false,
  roomy = false,
): LedgerColumn<Column>[] {
  const all: LedgerColumn<Column>[] = [
    {
      key: 'name',
      title: 'Column',
      width: 132,
      sortable: true,
      cell: (c) => (
        <span className="nm" title={c.name}>
          {c.name}
        </span>
      ),
    },
    { key: 'kind', title: 'Kind', width: 72, sortable: true, cell: (c) => c.kind },
    { key: 'use', title: 'Use', width: 62, sortable: true, cell: (c) => <Use column={c} /> },
    {
      key: 'missing',
      title: 'Miss. %',
      number: true,
      width: large ? 58 : 52,
      sortable: true,
      cell: (c) =>
        c.missing === 0 ? (
          <span className="soft">0</span>
        ) : (
          <b>{c.missingShare < 0.001 ? (100 * c.missingShare).toFixed(2) : (100 * c.missingShare).toFixed(1)}</b>
        ),
    },
    { key: 'distinct', title: 'Distinct', number: true, gives: 2, width: large ? 76 : 58, sortable: true, cell: (c) => whole(c.distinct) },
    { key: 'shape', title: 'Shape', width: 62, gives: 1, said: () => false, className: 'mark', cell: (c) => <ColumnShape column={c} /> },
    ...(relations.size > 0
      ? [
          {
            key: 'alone',
            title: 'Alone',
            width: 86,
            sortable: true,
            className: 'mark',
            cell: (c: Column) => <Alone relation={relations.get(c.name)} scale={scale} />,
          },
        ]
      : []),
    { key: 'says', title: 'Finding', least: 96, cell: (c) => <Says column={c} findings={findings} inFull={roomy} /> },
  ]
  return short ? all.filter((c) => ['name', 'kind', 'says'].includes(c.key)) : all
}

function Use({ column }: { column: Column }) {
  if (column.use === 'target') return <b>target</b>
  if (!column.known) return <span className="brass">late</span>
  return column.use === 'input' ? <span className="soft">input</span> : <b>{column.use}</b>
}

/** A word's size of the distribution; at the right the share of missing cells, from the ground up. */
function ColumnShape({ column }: { column: Column }) {
  const height = Math.max(1.5, 14 * column.missingShare)
  return (
    <span title={shapeSays(column)} style={{ display: 'inline-flex' }}>
      <Distribution column={column} />
      <svg width={6} height={16} aria-hidden="true">
        {column.missing > 0 && <rect x={2} y={15 - height} width={4} height={height} fill="var(--brass)" />}
      </svg>
    </span>
  )
}

function shapeSays(column: Column): string {
  const gaps = column.missing > 0 ? `; ${share(column.missingShare)} missing` : ''
  const first = column.bins[0]
  const last = column.bins[column.bins.length - 1]
  if (column.top.length > 0)
    return `${column.top
      .slice(0, 4)
      .map((t) => `${t.value} ${share(t.share, 0)}`)
      .join(', ')}${gaps}`
  if (!first || !last) return `no value${gaps}`
  const write = (v: number) => (column.kind === 'date' ? date(new Date(1000 * v).toISOString()) : number(v))
  return `${column.kind === 'text' ? 'lengths of the texts, ' : ''}${write(first.low)} to ${write(last.high)}${gaps}`
}

function Distribution({ column }: { column: Column }) {
  const width = 52
  if (column.kind === 'yes/no') return <Shape bars={column.top} band width={width} />
  if (column.kind === 'category') return <Shape bars={column.top} width={width} />
  if (column.kind === 'identifier')
    return (
      <svg width={width} height={16} aria-hidden="true">
        <path d={`M0 8.5H${width}`} stroke="var(--rule-firm)" strokeDasharray="1 2" />
      </svg>
    )
  return <Shape bars={column.bins} steps width={width} />
}

/** How well the column alone ranks records by the target; an arrow for what is known too late to be used. */
function Alone({ relation, scale }: { relation: Relation | undefined; scale: [number, number] }) {
  if (relation?.alone == null) return null
  if (relation.late)
    return (
      <span className="brass one-line" title="Known only after the decision">
        <svg width="34" height="12" aria-hidden="true" style={{ display: 'inline', verticalAlign: 'middle' }}>
          <path d="M2 6H30M26 3l4 3-4 3" fill="none" stroke="currentColor" strokeDasharray="1.5 2" />
        </svg>{' '}
        <b>{fixed(relation.alone, 2)}</b>
      </span>
    )
  return <RelationMark relation={relation} scale={scale} width={84} />
}

/** The most harmful finding about a column, in a few words or in full, and how many more there are. */
function Says({ column, findings, inFull }: { column: Column; findings: Finding[]; inFull: boolean }) {
  const own = findings.filter((f) => f.columns.includes(column.name))
  // Of two columns that say the same, the remark stands with the one that could go.
  const first = own.find((f) => f.columns.length < 2 || f.columns[1] === column.name) ?? own[0]
  if (!first) return column.misfits > 0 ? <span className="brass">{whole(column.misfits)} cells do not fit</span> : null
  const short = first.columns.length > 1 && first.columns[1] !== column.name ? `see ${first.columns[1]}` : first.short
  return (
    <span className={tone(first.severity)} title={first.sentence}>
      {inFull && !short.startsWith('see ') ? first.sentence : short}
      {own.length > 1 && <span className="soft"> +{own.length - 1}</span>}
    </span>
  )
}
