import { Button } from '@mui/material'
import { useEffect, useState } from 'react'
import { Link, useParams } from 'react-router'
import { NamedSelections } from '../../sections/NamedSelections'
import { useAddress } from '../../ui/address'
import { count, date, share, whole } from '../../ui/format'
import type { View } from '../../api/client'
import { Head } from '../../ui/Head'
import { Ledger } from '../../ui/Ledger'
import { Loading, Trouble } from '../../ui/Trouble'
import { useStudy, useStudyId } from '../../data/study'
import { type RowQuery, useRegister, useRows } from '../../data/table'
import { parseConditions } from '../../data/conditions'
import { ChooseColumns, Save, Search } from './RowsTools'
import { Where } from '../../sections/Where'

const page = 100
/** So many columns are shown unless others are chosen: more would make every page slow to read and to draw. */
const shownAtFirst = 40

/** The records themselves, a page at a time from the server: all, or those for which conditions hold. */
export function Rows() {
  const studyId = useStudyId()
  const tableId = Number(useParams().tableId)
  const register = useRegister(tableId)
  const study = useStudy(studyId)
  const [params, set] = useAddress()
  const offset = Math.max(0, Number(params.get('from') ?? 1) - 1)
  const sort = params.get('sort')
  const descending = params.get('down') === '1'
  const conditions = parseConditions(params.get('where'))
  const any = params.get('any') === '1'
  const search = params.get('search') ?? ''
  const only = params.get('only') ?? ''
  const narrowed = conditions.length > 0 || search !== '' || only !== ''
  const columns = register.data?.columns ?? []
  const chosen =
    params.get('cols')?.split('\n') ?? (columns.length > shownAtFirst ? columns.slice(0, shownAtFirst).map((c) => c.name) : null)
  const [jump, setJump] = useState('')
  const [copied, setCopied] = useState(false)
  const query: RowQuery = {
    offset,
    limit: page,
    descending,
    ...(sort === null ? {} : { sort }),
    ...(conditions.length === 0 ? {} : { where: JSON.stringify(conditions) }),
    ...(any ? { any } : {}),
    ...(search === '' ? {} : { search }),
    ...(only === '' ? {} : { only }),
    ...(chosen === null ? {} : { columns: JSON.stringify(chosen) }),
  }
  const rows = useRows(tableId, query)
  const data = rows.error ? undefined : rows.data
  const total = data?.total ?? register.data?.rows ?? 0
  const selected = params.has('row') ? Number(params.get('row')) : null
  const open = data?.rows.find((r) => r.number === selected)
  const isNumber = (name: string) => columns.find((c) => c.name === name)?.kind === 'number'
  const isDate = (name: string) => columns.find((c) => c.name === name)?.kind === 'date'
  const show = (name: string, cell: string | null) => (cell === null ? '–' : isDate(name) ? date(cell) : cell)
  const isSealed = (r: View<'RowView'>, name: string) => r.sealed && (data?.hidden.includes(name) ?? false)
  const last = Math.min(total, offset + page)
  const asked = new Set(conditions.map((c) => c[0]))
  const file = (format: string) => {
    const q = new URLSearchParams({ format })
    for (const [key, value] of Object.entries(query))
      if (['where', 'any', 'search', 'only', 'sort', 'descending'].includes(key)) q.set(key, String(value))
    return `/api/tables/${tableId}/file?${q}`
  }
  const narrow = (change: Record<string, string | null>) => set({ from: null, row: null, ...change })

  useEffect(() => setCopied(false), [params])
  function copy() {
    if (!data) return
    const lines = [data.names, ...data.rows.map((r) => r.cells.map((c) => c ?? ''))].map((cells) =>
      cells.map((c) => c.replace(/[\t\r\n]+/g, ' ')).join('\t'),
    )
    void navigator.clipboard.writeText(lines.join('\n')).then(() => setCopied(true))
  }

  return (
    <>
      <Head
        title="Rows"
        small={register.data && `${register.data.name}, edition ${register.data.edition} of ${date(register.data.importedAt)}`}
        say={<Say data={data} narrowed={narrowed} total={total} sort={sort} descending={descending} />}
      >
        {sort && <Button onClick={() => set({ sort: null, down: null, from: null })}>In the order of the file</Button>}
        {register.data && (
          <ChooseColumns table={register.data} chosen={chosen} onChange={(names) => set({ cols: names?.join('\n') ?? null })} />
        )}
        <NamedSelections studyId={studyId} view={`table/${tableId}/rows`} query={params.toString()} records={total} narrowed={narrowed} />
        <Save
          narrowed={narrowed}
          file={file}
          copy={copy}
          copied={copied}
          hidden={data?.hidden ?? []}
          source={study.data?.role === 'owner' ? `/api/tables/${tableId}/source` : null}
        />
        <Button component={Link} to={`/study/${studyId}/table/${tableId}`}>
          Register
        </Button>
      </Head>
      <div className="sheet fit split">
        <section className="col fills">
          <div style={{ padding: '9px 14px 7px', borderBottom: '1px solid var(--rule)', display: 'flex', gap: 14, alignItems: 'baseline' }}>
            <div className="fills">
              {only !== '' ? (
                <p className="sentence flush">{count(only.split(',').length, 'record')} behind what was clicked</p>
              ) : (
                register.data && (
                  <Where
                    table={register.data}
                    conditions={conditions}
                    any={any}
                    onChange={(next, or) => narrow({ where: next.length === 0 ? null : JSON.stringify(next), any: or ? '1' : null })}
                  />
                )
              )}
              {conditions.length > 0 && data && (
                <p className="small" style={{ margin: '2px 0 0' }}>
                  Drop one:{' '}
                  {conditions.map((c, i) => (
                    <span key={i}>
                      {i > 0 && '  '}
                      <button
                        type="button"
                        className="link"
                        onClick={() => {
                          const rest = conditions.filter((_, j) => j !== i)
                          narrow({ where: rest.length === 0 ? null : JSON.stringify(rest) })
                        }}
                      >
                        without {c[0]}, {whole(data.without[i] ?? 0)}
                      </button>
                    </span>
                  ))}
                </p>
              )}
            </div>
            <Search key={search} value={search} onChange={(text) => narrow({ search: text === '' ? null : text })} />
            {narrowed && data && (
              <b className="verd" style={{ font: '600 16px/24px var(--serif)', whiteSpace: 'nowrap' }}>
                {whole(total)} of {whole(data.all)}
              </b>
            )}
            {narrowed && (
              <button type="button" className="link small" onClick={() => narrow({ where: null, any: null, search: null, only: null })}>
                Clear
              </button>
            )}
          </div>
          {rows.isPending && <Loading what="the rows" />}
          <Trouble error={rows.error} onRetry={() => void rows.refetch()} />
          {data && total === 0 && (
            <div className="empty">
              <h2>No record answers that</h2>
              <p>Drop a condition, or change a word of the sentence above. Missing cells answer only “is missing”.</p>
            </div>
          )}
          {data && total > 0 && (
            <div className="scroll" style={{ overflow: 'auto', opacity: rows.isPlaceholderData ? 0.6 : 1 }}>
              <div style={{ minWidth: Math.max(600, data.names.length * 104), height: '100%', display: 'flex' }}>
                <Ledger<View<'RowView'>>
                  label={`Rows of ${register.data?.name ?? 'the table'}`}
                  rows={data.rows}
                  rowKey={(r) => r.number}
                  selected={selected}
                  onSelect={(r) => set({ row: String(r.number) })}
                  sort={sort ? { key: sort, descending } : undefined}
                  onSort={(key) => set({ sort: key, down: sort === key && !descending ? '1' : null, from: null })}
                  lineNumber={(r) => r.number}
                  columns={order(data.names, asked).map(([name, i]) => ({
                    key: name,
                    title: name,
                    sortable: true,
                    number: isNumber(name),
                    className: asked.has(name) ? 'asked' : '',
                    cell: (r) =>
                      isSealed(r, name) ? (
                        <i className="soft" title="Hidden until the seal is opened">
                          sealed
                        </i>
                      ) : (
                        <span title={r.cells[i] ?? ''} className={r.cells[i] == null ? 'brass' : ''}>
                          {show(name, r.cells[i] ?? null)}
                        </span>
                      ),
                  }))}
                />
              </div>
            </div>
          )}
          <footer
            style={{ display: 'flex', alignItems: 'center', gap: 10, borderTop: '1px solid var(--ink)', padding: '8px 14px', fontSize: 13 }}
          >
            <b>
              {whole(total === 0 ? 0 : offset + 1)} to {whole(last)} of {whole(total)}
            </b>
            <span className="soft">
              {share(total > 0 ? last / total : null, 0)} down
              {data &&
                columns.length > 0 &&
                data.names.length < columns.length &&
                `; ${data.names.length} of ${count(columns.length, 'column')}`}
            </span>
            <form
              style={{ marginLeft: 'auto' }}
              onSubmit={(e) => {
                e.preventDefault()
                const n = Number(jump.replace(/\D/g, ''))
                if (n > 0) set({ from: String(Math.min(Math.max(1, total), n)), row: null })
              }}
            >
              <label>
                Go to line{' '}
                <input
                  value={jump}
                  onChange={(e) => setJump(e.target.value)}
                  inputMode="numeric"
                  style={{ width: 84, border: 0, borderBottom: '1px solid var(--ink)', background: 'none' }}
                />
              </label>
            </form>
            <Button size="small" disabled={offset === 0} onClick={() => set({ from: String(Math.max(1, offset + 1 - page)) })}>
              Earlier
            </Button>
            <Button size="small" disabled={last >= total} onClick={() => set({ from: String(offset + 1 + page) })}>
              Later
            </Button>
          </footer>
        </section>
        {open && data && (
          <section className="col" style={{ width: 292, overflow: 'auto' }} aria-label={`Record ${open.number}`}>
            <header style={{ display: 'flex', alignItems: 'center', height: 38, borderBottom: '1px solid var(--rule)', padding: '0 14px' }}>
              <h2 style={{ font: '600 17px/20px var(--serif)' }}>Record {whole(open.number)}</h2>
              <Button size="small" sx={{ marginLeft: 'auto' }} onClick={() => set({ row: null })}>
                Close
              </Button>
            </header>
            <dl className="facts" style={{ gridTemplateColumns: '1fr', padding: '8px 14px' }}>
              {data.names.map((name, i) => (
                <div key={name}>
                  <dt>{name}</dt>
                  <dd
                    style={{ fontWeight: 560, textAlign: 'right', overflowWrap: 'anywhere', paddingLeft: 10 }}
                    className={isSealed(open, name) ? 'soft' : open.cells[i] == null ? 'brass' : ''}
                  >
                    {isSealed(open, name) ? 'sealed' : open.cells[i] == null ? '– missing' : show(name, open.cells[i] ?? null)}
                  </dd>
                </div>
              ))}
            </dl>
          </section>
        )}
      </div>
    </>
  )
}

/** Behind the first column, which mostly names the record, stand those the question is about. */
function order(names: string[], asked: Set<string>): [name: string, at: number][] {
  const all = names.map((name, i): [string, number] => [name, i])
  const rest = all.slice(1)
  return [...all.slice(0, 1), ...rest.filter(([n]) => asked.has(n)), ...rest.filter(([n]) => !asked.has(n))]
}

/** How many there are, and how often the event happened among them. */
function Say({
  data,
  narrowed,
  total,
  sort,
  descending,
}: {
  data: View<'RowsView'> | undefined
  narrowed: boolean
  total: number
  sort: string | null
  descending: boolean
}) {
  const order = sort ? `, sorted by ${sort}, ${descending ? 'largest' : 'smallest'} first` : ', in the order of the file'
  const s = narrowed ? data?.share : null
  return (
    <>
      <b>
        {count(total, 'record')}
        {narrowed ? '' : order}.
      </b>{' '}
      {s && s.judged > 0
        ? `“${s.event}” in ${whole(s.hits)} of the ${whole(s.judged)} that are not sealed: ${share(s.value)}, ${share(s.low)} to ${share(s.high)}, against ${share(s.overall)} of all.`
        : 'Missing cells come last.'}
      {(data?.sealed ?? 0) > 0 && ` ${count(data!.sealed, 'sealed record')} not asked: what this is about is hidden in them.`}
    </>
  )
}
