import { Button } from '@mui/material'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { useAddress } from '../../ui/address'
import { date, share, whole } from '../../ui/format'
import type { View } from '../../api/client'
import { Head } from '../../ui/Head'
import { Ledger } from '../../ui/Ledger'
import { Loading, Trouble } from '../../ui/Trouble'
import { useStudyId } from '../study/api'
import { useRegister, useRows } from './api'

const page = 100

/** The records themselves, a page at a time from the server. */
export function Rows() {
  const studyId = useStudyId()
  const tableId = Number(useParams().tableId)
  const register = useRegister(tableId)
  const [params, set] = useAddress()
  const offset = Math.max(0, Number(params.get('from') ?? 1) - 1)
  const sort = params.get('sort')
  const descending = params.get('down') === '1'
  const [jump, setJump] = useState('')
  const rows = useRows(tableId, offset, page, sort, descending)
  const total = rows.data?.total ?? register.data?.rows ?? 0
  const selected = params.has('row') ? Number(params.get('row')) : null
  const open = rows.data?.rows.find((r) => r.number === selected)
  const columns = register.data?.columns ?? []
  const isNumber = (name: string) => columns.find((c) => c.name === name)?.kind === 'number'
  const isDate = (name: string) => columns.find((c) => c.name === name)?.kind === 'date'
  const show = (name: string, cell: string | null) => (cell === null ? '–' : isDate(name) ? date(cell) : cell)
  const last = Math.min(total, offset + page)

  return (
    <>
      <Head
        title="Rows"
        small={register.data && `${register.data.name}, edition of ${date(register.data.importedAt)}`}
        say={
          <>
            <b>
              {whole(total)} records
              {sort ? `, sorted by ${sort}, ${descending ? 'largest' : 'smallest'} first` : ', in the order of the file'}.
            </b>{' '}
            Missing cells come last.
          </>
        }
      >
        {sort && <Button onClick={() => set({ sort: null, down: null, from: null })}>In the order of the file</Button>}
        <Button component="a" href={`/api/tables/${tableId}/file?format=csv`} download>
          Download CSV
        </Button>
        <Button component="a" href={`/api/tables/${tableId}/file?format=jsonl`} download>
          JSON Lines
        </Button>
        <Button component={Link} to={`/study/${studyId}/table/${tableId}`}>
          Register
        </Button>
      </Head>
      <div className="sheet fit split">
        <section className="col" style={{ flex: 1 }}>
          {rows.isPending && <Loading what="the rows" />}
          <Trouble error={rows.error} onRetry={() => void rows.refetch()} />
          {rows.data && (
            <div className="scroll" style={{ overflow: 'auto', opacity: rows.isPlaceholderData ? 0.6 : 1 }}>
              <div style={{ minWidth: Math.max(600, rows.data.names.length * 104), height: '100%', display: 'flex' }}>
                <Ledger<View<'RowView'>>
                  label={`Rows of ${register.data?.name ?? 'the table'}`}
                  rows={rows.data.rows}
                  rowKey={(r) => r.number}
                  selected={selected}
                  onSelect={(r) => set({ row: String(r.number) })}
                  sort={sort ? { key: sort, descending } : undefined}
                  onSort={(key) => set({ sort: key, down: sort === key && !descending ? '1' : null, from: null })}
                  lineNumber={(r) => r.number}
                  columns={rows.data.names.map((name, i) => ({
                    key: name,
                    title: name,
                    sortable: true,
                    number: isNumber(name),
                    cell: (r) => (
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
            <span className="soft">{share(total > 0 ? last / total : null, 0)} down</span>
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
        {open && (
          <section className="col" style={{ width: 292, overflow: 'auto' }} aria-label={`Record ${open.number}`}>
            <header style={{ display: 'flex', alignItems: 'center', height: 38, borderBottom: '1px solid var(--rule)', padding: '0 14px' }}>
              <h2 style={{ font: '600 17px/20px var(--serif)' }}>Record {whole(open.number)}</h2>
              <Button size="small" sx={{ marginLeft: 'auto' }} onClick={() => set({ row: null })}>
                Close
              </Button>
            </header>
            <dl className="facts" style={{ gridTemplateColumns: '1fr', padding: '8px 14px' }}>
              {rows.data?.names.map((name, i) => (
                <div key={name}>
                  <dt>{name}</dt>
                  <dd
                    style={{ fontWeight: 560, textAlign: 'right', overflowWrap: 'anywhere', paddingLeft: 10 }}
                    className={open.cells[i] == null ? 'brass' : ''}
                  >
                    {open.cells[i] == null ? '– missing' : show(name, open.cells[i] ?? null)}
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
