import { Button, Tab, TableCell, TableRow, Tabs } from '@mui/material'
import { useMemo, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { useAddress } from '../../ui/address'
import { count, date, share, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Ledger } from '../../ui/Ledger'
import { Note } from '../../ui/Note'
import { useRoomy } from '../../ui/useWidth'
import { Loading, Trouble } from '../../ui/Trouble'
import { open, type Relation, useFindings } from '../../data/finding'
import { useCombinations } from '../../data/combine'
import { CombineDialog } from '../../sections/CombineDialog'
import { MadeNote } from '../../sections/MadeNote'
import { FindingNote } from '../../sections/FindingNote'
import { ThresholdsDialog } from '../../sections/ThresholdsDialog'
import { useNotes } from '../../ui/notes'
import { useStudy, useStudyId } from '../../data/study'
import { TargetDialog } from '../../sections/TargetDialog'
import { ChangeColumns } from './ChangeColumns'
import { ColumnPanel } from './ColumnPanel'
import { Narrow } from './Narrow'
import { narrowedTo } from './narrowing'
import { registerColumns } from './registerColumns'
import { type Column, useRegister } from '../../data/table'

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
  const roomy = useRoomy()
  const scale: [number, number] = [0.48, Math.max(0.66, ...[...relations.values()].filter((r) => !r.late).map((r) => r.high ?? 0))]
  // Beside a large column there is room for the names and what is said of them.
  const wide = selected !== null && params.get('wide') === '1'
  const [marked, setMarked] = useState<Set<number>>(new Set())
  const [changing, setChanging] = useState(false)
  const [thresholds, setThresholds] = useState(false)
  const combining = params.get('combine')
  const combinations = useCombinations(studyId)
  const made = combinations.data?.find((c) => c.tableId === tableId)
  const filtered = columns.filter(
    (c) => (narrowings[narrow] ?? narrowings.all)(c, concerned) && narrowedTo(params, c, table?.rows ?? 0, relations.get(c.name)),
  )
  const chosen = columns.filter((c) => marked.has(c.id))
  const rows = [...filtered].sort((a, b) => (descending ? -1 : 1) * compare(a, b, sortKey, relations))
  const missing = columns.reduce((s, c) => s + c.missing, 0)
  const isMain = study.data?.tableId === tableId
  const target = isMain ? study.data?.target : null

  const repairs = table?.repairs ?? []
  // In the margin stands what concerns whole rows or would do harm; the rest stands with its column.
  const pressing = findings.filter((f) => f.columns.length === 0 || f.severity === 'high')
  const before = table?.before
  const notes = (made ? 1 : 0) + (before ? 1 : 0) + (isMain && !target ? 1 : 0) + repairs.length + pressing.length
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
      {made && table && <MadeNote made={made} studyId={studyId} name={table.name} />}
      {before && (
        <Note title={`Compared with edition ${before.beforeEdition}`}>
          {whole(before.rows)} records, before {whole(before.rowsBefore)}. Kinds and uses are as you settled them there.{' '}
          {before.differences.length === 0
            ? 'No column differs.'
            : before.differences
                .slice(0, 12)
                .map((d) => d.says)
                .join(' ')}
          {before.differences.length > 12 && ` And ${whole(before.differences.length - 12)} more.`}
        </Note>
      )}
      {repairs.map((r) => (
        <Note key={r} title="Mended while reading">
          {r}
        </Note>
      ))}
    </>,
    `register ${tableId} ${made?.sentence} ${target} ${repairs.length} ${columns.map((c) => c.version).join()} ${pressing.map((f) => f.key).join()}`,
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
        small={table && `${table.name}, edition ${table.edition} of ${date(table.importedAt)}`}
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
              {columns.some((c) => !c.known) && `, ${columns.filter((c) => !c.known).length} are known only afterwards`}
              {found.data ? '. ' : ' '}
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
        <section className="col grows">
          <div style={{ display: 'flex', borderBottom: '1px solid var(--rule)', padding: '0 12px' }}>
            <Tabs value={narrow} onChange={(_, v: Narrowing) => set({ narrow: v === 'all' ? null : v })} aria-label="Narrow the register">
              <Tab value="all" label={`All ${columns.length}`} />
              <Tab value="findings" label={`With findings ${concerned.size}`} />
              <Tab value="inputs" label={`Inputs ${columns.filter((c) => narrowings.inputs(c, concerned)).length}`} />
              <Tab value="late" label={`Known only after ${columns.filter((c) => narrowings.late(c, concerned)).length}`} />
            </Tabs>
            {table && !wide && (
              <span style={{ marginLeft: 'auto', whiteSpace: 'nowrap', lineHeight: '33px', fontSize: 13, display: 'flex', gap: 14 }}>
                {narrow === 'findings' && (
                  <button type="button" className="link" onClick={() => setThresholds(true)}>
                    Thresholds…
                  </button>
                )}
                {table.state === 'ready' && (
                  <button type="button" className="link" onClick={() => set({ combine: 'look up' })}>
                    Combine…
                  </button>
                )}
                <Link to={`/study/${studyId}/table/${table.id}/pictures`}>Pictures</Link>
                <Link to={`/study/${studyId}/table/${table.id}/rows`}>Rows view</Link>
              </span>
            )}
          </div>
          {!wide && (
            <Narrow related={relations.size > 0}>
              {chosen.length > 0 && (
                <button type="button" className="link" onClick={() => setMarked(new Set())}>
                  Clear
                </button>
              )}
              <button type="button" className="link" onClick={() => setMarked(new Set([...marked, ...rows.map((c) => c.id)]))}>
                Choose all {rows.length}
              </button>
              <Button size="small" disabled={chosen.length === 0} onClick={() => setChanging(true)}>
                {chosen.length === 0 ? 'Change chosen…' : `Change ${chosen.length}…`}
              </Button>
            </Narrow>
          )}
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
              columns={registerColumns(relations, scale, findings, wide, (table?.rows ?? 0) >= 100_000, roomy)}
              footer={
                wide
                  ? undefined
                  : (isShown) => (
                      <TableRow>
                        <TableCell />
                        <TableCell colSpan={3}>{count(columns.length, 'column')}</TableCell>
                        <TableCell
                          colSpan={2 + ['distinct', 'shape', 'alone'].filter(isShown).length}
                          sx={{ fontWeight: '400 !important' }}
                        >
                          <b>{whole(missing)} cells missing</b>, {share(missing / Math.max(1, table.rows * columns.length))} of{' '}
                          {whole(table.rows * columns.length)}
                        </TableCell>
                      </TableRow>
                    )
              }
            />
          )}
        </section>
        {selected !== null && <ColumnPanel id={selected} tableId={tableId ?? 0} studyId={studyId} onClose={() => set({ column: null })} />}
      </div>
      {combining && table && (
        <CombineDialog
          studyId={studyId}
          table={table}
          start={combining === 'gather' || combining === 'draw' ? combining : 'look up'}
          onClose={(id) => {
            if (id === null) set({ combine: null })
            else void go(`/study/${studyId}/table/${id}`)
          }}
        />
      )}
      {thresholds && <ThresholdsDialog studyId={studyId} onClose={() => setThresholds(false)} />}
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

function compare(a: Column, b: Column, key: string, relations: Map<string, Relation>): number {
  switch (key) {
    case 'alone':
      return (relations.get(a.name)?.alone ?? 0) - (relations.get(b.name)?.alone ?? 0)
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
