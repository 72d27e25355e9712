import { Button, Tab, TableCell, TableRow, Tabs } from '@mui/material'
import { useMemo, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { useAddress } from '../../ui/address'
import { count, date, fixed, share, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { IntervalMark } from '../../ui/IntervalMark'
import { Ledger } from '../../ui/Ledger'
import { Note } from '../../ui/Note'
import { Shape } from '../../ui/Shape'
import { Loading, Trouble } from '../../ui/Trouble'
import { type Finding, open, type Relation, tone, useFindings } from '../finding/api'
import { FindingNote } from '../finding/FindingNote'
import { useNotes } from '../frame/notes'
import { useStudy, useStudyId } from '../study/api'
import { TargetDialog } from '../study/TargetDialog'
import { Slot } from '../../ui/Slot'
import { ChangeColumns } from './ChangeColumns'
import { ColumnPanel } from './ColumnPanel'
import { kinds, uses } from './texts'
import { type Column, useRegister } from './api'

const any = 'any'
/** At least so many cells missing. */
const missingFrom: Record<string, number> = { any: 0, some: 1e-12, 'over 5%': 0.05, 'over half': 0.5 }

type Narrowing = 'all' | 'findings' | 'inputs' | 'late'
const narrowings: Record<Narrowing, (c: Column, found: Set<string>) => boolean> = {
  all: () => true,
  findings: (c, found) => found.has(c.name),
  inputs: (c) => c.use === 'input' && c.known,
  late: (c) => !c.known,
}

/** The columns of a table, one a line, with everything known about each. */
export function Register() {
  const studyId = useStudyId()
  const study = useStudy(studyId)
  const tableId = Number(useParams().tableId ?? 0) || study.data?.tableId || null
  const register = useRegister(tableId)
  const [params, set] = useAddress()
  const go = useNavigate()
  const [choosing, setChoosing] = useState(false)
  const narrow = (params.get('narrow') ?? 'all') as Narrowing
  const sortKey = params.get('sort') ?? 'position'
  const descending = params.get('down') === '1'
  const selected = params.has('column') ? Number(params.get('column')) : null
  const table = register.data
  const columns = table?.columns ?? []
  const found = useFindings(tableId, table?.state === 'ready')
  const findings = useMemo(() => open(found.data?.findings ?? []), [found.data])
  const concerned = useMemo(() => new Set(findings.flatMap((f) => f.columns)), [findings])
  const relations = useMemo(() => new Map((found.data?.relations ?? []).map((r) => [r.column, r])), [found.data])
  const speaking = [...relations.values()].filter((r) => !r.late && (r.adjusted ?? 1) < 0.05)
  const scale: [number, number] = [0.48, Math.max(0.66, ...[...relations.values()].filter((r) => !r.late).map((r) => r.high ?? 0))]
  const kind = params.get('kind') ?? any
  const use = params.get('use') ?? any
  const gaps = params.get('missing') ?? any
  const text = params.get('name') ?? ''
  const [marked, setMarked] = useState<Set<number>>(new Set())
  const [changing, setChanging] = useState(false)
  const filtered = columns.filter(
    (c) =>
      (narrowings[narrow] ?? narrowings.all)(c, concerned) &&
      (kind === any || c.kind === kind) &&
      (use === any || c.use === use) &&
      c.missingShare >= (missingFrom[gaps] ?? 0) &&
      c.name.toLowerCase().includes(text.toLowerCase()),
  )
  const chosen = columns.filter((c) => marked.has(c.id))
  const rows = [...filtered].sort((a, b) => (descending ? -1 : 1) * compare(a, b, sortKey, relations))
  const missing = columns.reduce((s, c) => s + c.missing, 0)
  const isMain = study.data?.tableId === tableId
  const target = isMain ? study.data?.target : null

  const repairs = table?.repairs ?? []
  // In the margin stands what concerns whole rows or would do harm; the rest stands with its column.
  const pressing = findings.filter((f) => f.columns.length === 0 || f.severity === 'high')
  const notes = (isMain && !target ? 1 : 0) + repairs.length + pressing.length
  useNotes(
    notes,
    <>
      {isMain && !target && (
        <Note
          title="No target is chosen"
          remedies={
            <Button size="small" onClick={() => setChoosing(true)}>
              Choose target…
            </Button>
          }
        >
          Which column should be predicted, and which of its values counts as the event? Choosing it seals a fifth of the rows.
        </Note>
      )}
      {tableId !== null &&
        pressing.map((f) => <FindingNote key={f.key} finding={f} columns={columns} studyId={studyId} tableId={tableId} />)}
      {repairs.map((r) => (
        <Note key={r} title="Mended while reading">
          {r}
        </Note>
      ))}
    </>,
    `register ${tableId} ${target} ${repairs.length} ${columns.map((c) => c.version).join()} ${pressing.map((f) => f.key).join()}`,
  )

  if (study.data && study.data.tables.length === 0)
    return (
      <>
        <Head title="Table" small={study.data.name} say="This study has no table yet." />
        <div className="sheet fit">
          <div className="empty">
            <h2>A study begins with a table of past cases</h2>
            <p>
              One line a case, one column for each thing known about it, and a column that says how it ended. Nothing is changed in your
              file.
            </p>
            <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/import`}>
              Import a table
            </Button>
          </div>
        </div>
      </>
    )

  return (
    <>
      <Head
        title="Register"
        small={table && `${table.name}, edition of ${date(table.importedAt)}`}
        say={
          table && (
            <>
              <b>
                {count(table.rows, 'record')}, {count(table.columnCount, 'column')}:
              </b>{' '}
              {found.data ? `${concerned.size} ${concerned.size === 1 ? 'carries' : 'carry'} findings` : 'looking them over …'}
              {target && found.data && (
                <>
                  , {speaking.length} {speaking.length === 1 ? 'says' : 'say'} something about <b>{target}</b> on their own
                </>
              )}
              {columns.some((c) => !c.known) && `, ${columns.filter((c) => !c.known).length} are known only afterwards`}.{' '}
              {target ? null : isMain ? 'No target is chosen yet.' : null}
            </>
          )
        }
      >
        <Button component={Link} to={`/study/${studyId}/import`}>
          Import a table…
        </Button>
        {isMain && target && (
          <Button component={Link} to={`/study/${studyId}/table/${tableId}/goes-with`}>
            What goes with {target}
          </Button>
        )}
        {isMain && <Button onClick={() => setChoosing(true)}>{target ? 'Change target…' : 'Choose target…'}</Button>}
        {isMain && target ? (
          <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/preparation`}>
            Prepare this table
          </Button>
        ) : null}
      </Head>
      <div className="sheet fit split">
        <section className="col" style={{ flex: 1 }}>
          <div style={{ display: 'flex', borderBottom: '1px solid var(--rule)', padding: '0 12px' }}>
            <Tabs value={narrow} onChange={(_, v: Narrowing) => set({ narrow: v === 'all' ? null : v })} aria-label="Narrow the register">
              <Tab value="all" label={`All ${columns.length}`} />
              <Tab value="findings" label={`With findings ${concerned.size}`} />
              <Tab value="inputs" label={`Inputs ${columns.filter((c) => narrowings.inputs(c, concerned)).length}`} />
              <Tab value="late" label={`Known only after ${columns.filter((c) => narrowings.late(c, concerned)).length}`} />
            </Tabs>
            {table && (
              <span style={{ marginLeft: 'auto', lineHeight: '33px', fontSize: 13, display: 'flex', gap: 14 }}>
                <Link to={`/study/${studyId}/table/${table.id}/pictures`}>Pictures</Link>
                <Link to={`/study/${studyId}/table/${table.id}/rows`}>Rows view</Link>
              </span>
            )}
          </div>
          <div className="narrow" role="group" aria-label="Narrow by">
            <span>
              Kind{' '}
              <Slot
                label="Kind"
                value={kind}
                choices={[any, ...kinds].map((k) => ({ value: k, label: k }))}
                onChange={(v) => set({ kind: v === any ? null : v })}
              />
            </span>
            <span>
              use{' '}
              <Slot
                label="Use"
                value={use}
                choices={[any, 'target', ...uses].map((u) => ({ value: u, label: u }))}
                onChange={(v) => set({ use: v === any ? null : v })}
              />
            </span>
            <span>
              missing{' '}
              <Slot
                label="Missing"
                value={gaps}
                choices={Object.keys(missingFrom).map((m) => ({ value: m, label: m }))}
                onChange={(v) => set({ missing: v === any ? null : v })}
              />
            </span>
            <input
              aria-label="Name contains"
              placeholder="Name contains"
              value={text}
              onChange={(e) => set({ name: e.target.value === '' ? null : e.target.value })}
            />
            <span style={{ marginLeft: 'auto', display: 'flex', gap: 12, alignItems: 'center' }}>
              {chosen.length > 0 && (
                <button type="button" className="link" onClick={() => setMarked(new Set())}>
                  Clear
                </button>
              )}{' '}
              <button type="button" className="link" onClick={() => setMarked(new Set([...marked, ...rows.map((c) => c.id)]))}>
                Choose all {rows.length}
              </button>{' '}
              <Button size="small" disabled={chosen.length === 0} onClick={() => setChanging(true)}>
                {chosen.length === 0 ? 'Change chosen…' : `Change ${chosen.length}…`}
              </Button>
            </span>
          </div>
          {register.isPending && tableId !== null && <Loading what="the register" />}
          <Trouble error={register.error} onRetry={() => void register.refetch()} />
          {table?.state === 'importing' && <Loading what={table.fileName} />}
          {table?.state === 'ready' && (
            <Ledger<Column>
              label={`Columns of ${table.name}`}
              rows={rows}
              rowKey={(c) => c.id}
              selected={selected}
              onSelect={(c) => set({ column: String(c.id) })}
              sort={{ key: sortKey, descending }}
              onSort={(key) => set({ sort: key, down: sortKey === key && !descending ? '1' : null })}
              lineNumber={(c) => (
                <label className="choose">
                  <input
                    type="checkbox"
                    aria-label={`Choose ${c.name}`}
                    checked={marked.has(c.id)}
                    onClick={(e) => e.stopPropagation()}
                    onChange={(e) => {
                      const next = new Set(marked)
                      if (e.target.checked) next.add(c.id)
                      else next.delete(c.id)
                      setMarked(next)
                    }}
                  />
                  <span>{c.position + 1}</span>
                </label>
              )}
              columns={[
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
                  width: 52,
                  sortable: true,
                  cell: (c) =>
                    c.missing === 0 ? (
                      <span className="soft">0</span>
                    ) : (
                      <b>{c.missingShare < 0.001 ? (100 * c.missingShare).toFixed(2) : (100 * c.missingShare).toFixed(1)}</b>
                    ),
                },
                { key: 'distinct', title: 'Distinct', number: true, width: 58, sortable: true, cell: (c) => whole(c.distinct) },
                { key: 'shape', title: 'Shape', width: 62, className: 'mark', cell: (c) => <ColumnShape column={c} /> },
                ...(relations.size > 0
                  ? [
                      {
                        key: 'auc',
                        title: 'Alone, AUC',
                        width: 86,
                        sortable: true,
                        className: 'mark',
                        cell: (c: Column) => <Alone relation={relations.get(c.name)} scale={scale} />,
                      },
                    ]
                  : []),
                { key: 'says', title: 'Finding', cell: (c) => <Says column={c} findings={findings} /> },
              ]}
              footer={
                <TableRow>
                  <TableCell />
                  <TableCell colSpan={3}>{count(columns.length, 'column')}</TableCell>
                  <TableCell colSpan={relations.size > 0 ? 5 : 4} sx={{ fontWeight: '400 !important' }}>
                    <b>{whole(missing)} cells missing</b>, {share(missing / Math.max(1, table.rows * columns.length))} of{' '}
                    {whole(table.rows * columns.length)}
                  </TableCell>
                </TableRow>
              }
            />
          )}
        </section>
        {selected !== null && <ColumnPanel id={selected} tableId={tableId ?? 0} studyId={studyId} onClose={() => set({ column: null })} />}
      </div>
      {changing && tableId !== null && (
        <ChangeColumns
          tableId={tableId}
          columns={chosen}
          onClose={(done) => {
            setChanging(false)
            if (done) setMarked(new Set())
          }}
        />
      )}
      {choosing && table && study.data && (
        <TargetDialog
          study={study.data}
          table={table}
          onClose={() => setChoosing(false)}
          onDone={() => void go(`/study/${studyId}/preparation`)}
        />
      )}
    </>
  )
}

function Use({ column }: { column: Column }) {
  if (column.use === 'target') return <b>target</b>
  if (!column.known) return <span className="brass">late</span>
  return column.use === 'input' ? <span className="soft">input</span> : <b>{column.use}</b>
}

function ColumnShape({ column }: { column: Column }) {
  if (column.kind === 'yes/no') return <Shape bars={column.top} band />
  if (column.kind === 'category') return <Shape bars={column.top} />
  if (column.kind === 'identifier')
    return (
      <svg width={58} height={16} aria-hidden="true">
        <path d="M0 8.5H58" stroke="var(--rule-firm)" strokeDasharray="1 2" />
      </svg>
    )
  return <Shape bars={column.bins} steps />
}

/** How well the column alone ranks records by the target; an arrow for what is known too late to be used. */
function Alone({ relation, scale }: { relation: Relation | undefined; scale: [number, number] }) {
  if (relation?.auc == null) return null
  if (relation.late)
    return (
      <span className="brass" title="Known only after the decision" style={{ whiteSpace: 'nowrap' }}>
        <svg width="34" height="12" aria-hidden="true" style={{ display: 'inline', verticalAlign: 'middle' }}>
          <path d="M2 6H30M26 3l4 3-4 3" fill="none" stroke="currentColor" strokeDasharray="1.5 2" />
        </svg>{' '}
        <b>{fixed(relation.auc, 2)}</b>
      </span>
    )
  return (
    <span title={`AUC ${fixed(relation.auc)}, ${fixed(relation.low)} to ${fixed(relation.high)}`}>
      <IntervalMark
        value={relation.auc}
        low={relation.low}
        high={relation.high}
        scale={scale}
        width={84}
        reference={0.5}
        tone={(relation.adjusted ?? 1) < 0.05 ? 'verdigris' : 'soft'}
      />
    </span>
  )
}

/** The most harmful finding about a column in a few words, and how many more there are. */
function Says({ column, findings }: { column: Column; findings: Finding[] }) {
  const own = findings.filter((f) => f.columns.includes(column.name))
  // Of two columns that say the same, the remark stands with the one that could go.
  const first = own.find((f) => f.columns.length < 2 || f.columns[1] === column.name) ?? own[0]
  if (!first) return column.misfits > 0 ? <span className="brass">{whole(column.misfits)} cells do not fit</span> : null
  const short = first.columns.length > 1 && first.columns[1] !== column.name ? `see ${first.columns[1]}` : first.short
  return (
    <span className={tone(first.severity)} title={first.sentence}>
      {short}
      {own.length > 1 && <span className="soft"> +{own.length - 1}</span>}
    </span>
  )
}

function compare(a: Column, b: Column, key: string, relations: Map<string, Relation>): number {
  switch (key) {
    case 'auc':
      return (relations.get(a.name)?.auc ?? 0) - (relations.get(b.name)?.auc ?? 0)
    case 'name':
    case 'kind':
    case 'use':
      return a[key].localeCompare(b[key])
    case 'missing':
    case 'distinct':
      return a[key] - b[key]
    default:
      return a.position - b.position
  }
}
