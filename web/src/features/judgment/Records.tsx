import { Button } from '@mui/material'
import { useNavigate } from 'react-router'
import { share, whole } from '../../ui/format'
import { Ledger } from '../../ui/Ledger'
import { Loading, Trouble } from '../../ui/Trouble'
import { type Cell, useRecords } from './api'

const words: Record<Cell, string> = { tp: 'caught', fn: 'missed', fp: 'called in vain', tn: 'left alone' }

/** The records behind a cell of the matrix, the most mistaken first. */
export function Records({
  trialId,
  studyId,
  cell,
  cutoff,
  onClose,
}: {
  trialId: number
  studyId: number
  cell: Cell
  cutoff: number
  onClose: () => void
}) {
  const records = useRecords(trialId, cell, cutoff)
  const go = useNavigate()
  const names = records.data?.names ?? []
  return (
    <section style={{ borderBottom: '1px solid var(--ink)' }} aria-label={`Records ${words[cell]}`}>
      <header style={{ display: 'flex', alignItems: 'center', padding: '8px 16px', gap: 10 }}>
        <h2 className="fig-title">
          {whole(records.data?.total)} {words[cell]}
        </h2>
        <span className="soft small">
          {cell === 'fn' || cell === 'tn' ? 'lowest chance first' : 'highest chance first'}
          {(records.data?.total ?? 0) > 100 && ', the first 100'}; Enter opens the reasons
        </span>
        <Button size="small" sx={{ marginLeft: 'auto' }} onClick={onClose}>
          Close
        </Button>
      </header>
      {records.isPending && <Loading what="the records" />}
      <Trouble known error={records.error} />
      {records.data && (
        <div style={{ height: 260, overflow: 'auto', display: 'flex' }}>
          <div style={{ minWidth: 200 + names.length * 100, display: 'flex' }}>
            <Ledger
              label={`Records ${words[cell]}`}
              rows={records.data.records}
              rowKey={(r) => r.number}
              onSelect={(r) => void go(`/study/${studyId}/reasons?trial=${trialId}&record=${r.number}`)}
              selected={null}
              lineNumber={(r) => r.number}
              columns={[
                { key: 'chance', title: 'Chance', number: true, width: 70, cell: (r) => <b>{share(r.chance)}</b> },
                ...names.map((n, i) => ({
                  key: n,
                  title: n,
                  cell: (r: { cells: (string | null)[] }) => <span title={r.cells[i] ?? ''}>{r.cells[i] ?? '–'}</span>,
                })),
              ]}
            />
          </div>
        </div>
      )}
    </section>
  )
}
