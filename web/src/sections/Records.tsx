import { Button } from '@mui/material'
import { useNavigate } from 'react-router'
import type { UseQueryResult } from '@tanstack/react-query'
import { number, share, whole } from '../ui/format'
import { Ledger } from '../ui/Ledger'
import { Loading, Trouble } from '../ui/Trouble'
import { useAddress } from '../ui/address'
import { PickPicture } from './PickPicture'
import { type Cell, type Picked, useBand, useRecords, useTaken } from '../data/judgment'

const words: Record<Cell, string> = { tp: 'caught', fn: 'missed', fp: 'called in vain', tn: 'left alone' }

interface Place {
  trialId: number
  studyId: number
  onClose: () => void
}

/** The records behind a cell of the matrix at a cut-off, the most mistaken first. */
export function Records({ cell, cutoff, ...place }: Place & { cell: Cell; cutoff: number }) {
  const order = cell === 'fn' || cell === 'tn' ? 'lowest chance first' : 'highest chance first'
  return (
    <Opened
      {...place}
      records={useRecords(place.trialId, cell, cutoff)}
      picked={{ cell, cutoff }}
      what={words[cell]}
      order={order}
      chanceOf={(r) => share(r.chance)}
    />
  )
}

/** The records of one class that were taken for another, or for what they are; the chance is that of the class that came. */
export function TakenFor({ came, named, ...place }: Place & { came: string; named: string }) {
  const what = came === named ? `“${came}” named right` : `“${came}” taken for “${named}”`
  return (
    <Opened
      {...place}
      records={useTaken(place.trialId, came, named)}
      what={what}
      order={`lowest chance of “${came}” first`}
      picked={{ came, named }}
      chanceOf={(r) => share(r.off)}
    />
  )
}

/** The records of a number whose error lies in a band: what came less what was predicted. */
export function InBand({ low, high, what, ...place }: Place & { low: number | null; high: number | null; what: string }) {
  return (
    <Opened
      {...place}
      records={useBand(place.trialId, low, high)}
      picked={{ ...(low === null ? {} : { low }), ...(high === null ? {} : { high }) }}
      what={what}
      order="farthest off first"
      head="Off"
      chanceOf={(r) => `${r.off > 0 ? '+' : ''}${number(r.off, 3)}`}
    />
  )
}

function Opened<R extends { number: number; cells: (string | null)[] }>({
  studyId,
  trialId,
  onClose,
  records,
  what,
  order,
  chanceOf,
  picked,
  head = 'Chance',
}: Place & {
  records: UseQueryResult<{ total: number; names: string[]; records: R[] }>
  what: string
  order: string
  chanceOf: (record: R) => string
  picked: Picked
  head?: string
}) {
  const go = useNavigate()
  const names = records.data?.names ?? []
  const [params, set] = useAddress()
  const drawn = params.get('as') === 'picture'
  return (
    <section style={{ borderBottom: '1px solid var(--ink)' }} aria-label={`Records ${what}`}>
      <header style={{ display: 'flex', alignItems: 'center', padding: '8px 16px', gap: 10 }}>
        <h2 className="fig-title">
          {records.data && `${whole(records.data.total)} `}
          {what}
        </h2>
        <span className="soft small">
          {order}
          {(records.data?.total ?? 0) > 100 && ', the first 100'}; Enter opens the reasons
        </span>
        <Button size="small" sx={{ marginLeft: 'auto' }} onClick={() => set({ as: drawn ? null : 'picture' })}>
          {drawn ? 'As rows' : 'As a picture'}
        </Button>
        <Button size="small" onClick={onClose}>
          Close
        </Button>
      </header>
      {records.isPending && <Loading what="the records" />}
      <Trouble known error={records.error} />
      {drawn && <PickPicture trialId={trialId} picked={picked} what={what} />}
      {records.data && !drawn && (
        <div style={{ height: 260, overflow: 'auto', display: 'flex' }}>
          <div style={{ minWidth: 200 + names.length * 100, display: 'flex' }}>
            <Ledger
              label={`Records ${what}`}
              rows={records.data.records}
              rowKey={(r) => r.number}
              onSelect={(r) => void go(`/study/${studyId}/reasons?trial=${trialId}&record=${r.number}`)}
              selected={null}
              lineNumber={(r) => r.number}
              columns={[
                { key: 'chance', title: head, number: true, width: 70, cell: (r) => <b>{chanceOf(r)}</b> },
                ...names.map((n, i) => ({
                  key: n,
                  title: n,
                  cell: (r: R) => <span title={r.cells[i] ?? ''}>{r.cells[i] ?? '–'}</span>,
                })),
              ]}
            />
          </div>
        </div>
      )}
    </section>
  )
}
