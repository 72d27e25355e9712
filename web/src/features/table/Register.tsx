import { Button, Tab, TableCell, TableRow, Tabs } from '@mui/material'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { useAddress } from '../../ui/address'
import { count, date, share, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Ledger } from '../../ui/Ledger'
import { Note } from '../../ui/Note'
import { Shape } from '../../ui/Shape'
import { Loading, Trouble } from '../../ui/Trouble'
import { useNotes } from '../frame/notes'
import { useStudy, useStudyId } from '../study/api'
import { TargetDialog } from '../study/TargetDialog'
import { ColumnPanel } from './ColumnPanel'
import { type Column, useRegister } from './api'

type Narrowing = 'all' | 'missing' | 'inputs' | 'late'
const narrowings: Record<Narrowing, (c: Column) => boolean> = {
  all: () => true,
  missing: (c) => c.missing > 0,
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
  const filtered = columns.filter(narrowings[narrow] ?? narrowings.all)
  const rows = [...filtered].sort((a, b) => (descending ? -1 : 1) * compare(a, b, sortKey))
  const missing = columns.reduce((s, c) => s + c.missing, 0)
  const isMain = study.data?.tableId === tableId
  const target = isMain ? study.data?.target : null

  const repairs = table?.repairs ?? []
  const notes = (isMain && !target ? 1 : 0) + repairs.length
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
      {repairs.map((r) => (
        <Note key={r} title="Mended while reading">
          {r}
        </Note>
      ))}
    </>,
    `register ${tableId} ${target} ${repairs.length}`,
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
              {count(columns.filter((c) => c.missing > 0).length, 'column has', 'columns have')} missing cells
              {columns.some((c) => !c.known) && `, ${columns.filter((c) => !c.known).length} known only afterwards`}.{' '}
              {target ? (
                <>
                  The target is <b>{target}</b>, event “{study.data?.event}”.
                </>
              ) : isMain ? (
                'No target is chosen yet.'
              ) : null}
            </>
          )
        }
      >
        <Button component={Link} to={`/study/${studyId}/import`}>
          Import a table…
        </Button>
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
              <Tab value="missing" label={`With missing ${columns.filter(narrowings.missing).length}`} />
              <Tab value="inputs" label={`Inputs ${columns.filter(narrowings.inputs).length}`} />
              <Tab value="late" label={`Known only after ${columns.filter(narrowings.late).length}`} />
            </Tabs>
            {table && (
              <Link to={`/study/${studyId}/table/${table.id}/rows`} style={{ marginLeft: 'auto', lineHeight: '33px', fontSize: 13 }}>
                Rows view
              </Link>
            )}
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
              lineNumber={(c) => c.position + 1}
              columns={[
                {
                  key: 'name',
                  title: 'Column',
                  width: 148,
                  sortable: true,
                  cell: (c) => (
                    <span className="nm" title={c.name}>
                      {c.name}
                    </span>
                  ),
                },
                { key: 'kind', title: 'Kind', width: 70, sortable: true, cell: (c) => c.kind },
                { key: 'use', title: 'Use', width: 78, sortable: true, cell: (c) => <Use column={c} /> },
                {
                  key: 'missing',
                  title: 'Missing %',
                  number: true,
                  width: 72,
                  sortable: true,
                  cell: (c) =>
                    c.missing === 0 ? (
                      <span className="soft">0</span>
                    ) : (
                      <b>{c.missingShare < 0.001 ? (100 * c.missingShare).toFixed(2) : (100 * c.missingShare).toFixed(1)}</b>
                    ),
                },
                { key: 'distinct', title: 'Distinct', number: true, width: 62, sortable: true, cell: (c) => whole(c.distinct) },
                { key: 'shape', title: 'Shape', width: 66, className: 'mark', cell: (c) => <ColumnShape column={c} /> },
                { key: 'says', title: 'Stands out', cell: (c) => <span className="brass">{remark(c, table.rows)}</span> },
              ]}
              footer={
                <TableRow>
                  <TableCell />
                  <TableCell colSpan={3}>{count(columns.length, 'column')}</TableCell>
                  <TableCell colSpan={4} sx={{ fontWeight: '400 !important' }}>
                    <b>{whole(missing)} cells missing</b>, {share(missing / Math.max(1, table.rows * columns.length))} of{' '}
                    {whole(table.rows * columns.length)}
                  </TableCell>
                </TableRow>
              }
            />
          )}
        </section>
        {selected !== null && <ColumnPanel id={selected} onClose={() => set({ column: null })} />}
      </div>
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
  if (!column.known) return <span className="brass">known late</span>
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

/** What the profile alone says; findings with evidence and remedies come with their own station work (issue 3). */
function remark(c: Column, rows: number): string {
  if (rows > 0 && c.missing === rows) return 'empty'
  if (c.distinct === 1) return 'constant'
  if (c.misfits > 0) return `${whole(c.misfits)} cells do not fit`
  if (c.missingShare > 0.6) return 'mostly missing'
  if (c.missingShare > 0.1) return `1 in ${Math.round(1 / c.missingShare)} missing`
  if (c.missing > 0) return `${whole(c.missing)} missing`
  if (rows > 20 && c.distinct === rows) return 'all distinct'
  return ''
}

function compare(a: Column, b: Column, key: string): number {
  switch (key) {
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
