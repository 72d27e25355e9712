import { Button } from '@mui/material'
import { Link } from 'react-router'
import { type SideBySide, useParted } from '../../data/beside'
import { useAddress } from '../../ui/address'
import { number, share, whole } from '../../ui/format'
import { IntervalMark } from '../../ui/IntervalMark'
import { Loading, Trouble } from '../../ui/Trouble'
import { Called } from './Built'
import { short } from './marks'

/** How many records all, some and none of the trials call, or are right about. */
export function PartsBeside({ data }: { data: SideBySide }) {
  const [params, set] = useAddress()
  const two = data.task === 'two classes'
  const open = params.get('part')
  const parted = data.parts.filter((p) => new Set(p.called).size > 1).reduce((n, p) => n + p.rows, 0)
  const average = two ? data.of / Math.max(1, data.rows) : undefined
  const most = Math.min(1, Math.max(...data.parts.map((p) => p.share.high ?? 0)))
  const by = two ? 'Called by' : data.task === 'number' ? `Within ${number(data.at)} by` : 'Right by'
  return (
    <section className="pad half" aria-label="Where they part">
      <h2 className="fig-title">
        They part on {whole(parted)} of {whole(data.rows)} records
      </h2>
      <p className="fig-sub">
        {two && `${whole(data.at)} calls each. `}
        <button type="button" className="link" onClick={() => set({ part: open === 'all' ? null : 'all' })} disabled={parted === 0}>
          Open the {whole(parted)}
        </button>
      </p>
      <table className="ledger" aria-label="Where they part">
        <thead>
          <tr>
            <th style={{ width: 16 + 22 * Math.max(3, data.trials.length) }}>
              {by}
              <span className="sr"> {data.trials.map((_, k) => short(data.trials, k)).join(', ')}</span>
            </th>
            <th className="n" style={{ width: 62 }}>
              Records
            </th>
            {two && (
              <th className="n" style={{ width: 52 }}>
                “{data.event}”
              </th>
            )}
            <th className="n" style={{ width: 56 }}>
              %
            </th>
            <th className="mark" style={{ width: 88 }}>
              <span className="soft small">0 to {share(most, 0)}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {data.parts.map((p) => {
            const key = p.called.map((c) => (c ? '1' : '0')).join('')
            return (
              <tr key={key} className={open === key ? 'selected' : ''}>
                <td>
                  <button
                    type="button"
                    className="link"
                    style={{ display: 'block', height: 24 }}
                    aria-pressed={open === key}
                    aria-label={`Records ${by.toLowerCase()} ${p.called.flatMap((c, k) => (c ? [short(data.trials, k)] : [])).join(' and ') || 'none'}`}
                    onClick={() => set({ part: open === key ? null : key })}
                  >
                    <Called called={p.called} />
                  </button>
                </td>
                <td className="n">{whole(p.rows)}</td>
                {two && <td className="n">{whole(p.hits)}</td>}
                <td className="n">
                  <b>{share(p.share.value)}</b>
                </td>
                <td className="mark">
                  <IntervalMark
                    value={p.share.value}
                    low={p.share.low}
                    high={p.share.high}
                    scale={[0, most]}
                    width={80}
                    tone={average !== undefined && (p.share.low ?? 0) > average ? 'verdigris' : 'brass'}
                    {...(average === undefined ? {} : { reference: average })}
                  />
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </section>
  )
}

/** The records of an opened part, with what each trial said. */
export function RecordsBeside({ data, studyId, trials }: { data: SideBySide; studyId: number; trials: number[] }) {
  const [params, set] = useAddress()
  const open = params.get('part')
  const records = useParted(studyId, trials, data.at ?? null, open === 'all' ? '' : open)
  if (open === null) return null
  const rows = records.data?.records ?? []
  return (
    <section aria-label="Records they part on" className="ruled">
      <header style={{ display: 'flex', alignItems: 'center', padding: '8px 16px', gap: 10 }}>
        <h2 className="fig-title">
          {records.data && `${whole(records.data.total)} records`}
          {open === 'all' ? ' they part on' : ''}
        </h2>
        <span className="soft small">{(records.data?.total ?? 0) > rows.length && `the first ${rows.length}`}</span>
        <Button size="small" sx={{ marginLeft: 'auto' }} onClick={() => set({ part: null })}>
          Close
        </Button>
      </header>
      {records.isPending && <Loading what="the records" />}
      <Trouble known error={records.error} />
      {rows.length > 0 && (
        <div style={{ overflow: 'auto', maxHeight: 300 }} tabIndex={0} role="group" aria-label="Records, by keyboard with the arrows">
          <table className="ledger" aria-label="Records they part on" style={{ minWidth: 360 + 100 * (records.data?.names.length ?? 0) }}>
            <thead>
              <tr>
                <th className="n" style={{ width: 64 }}>
                  Row
                </th>
                <th style={{ width: 84 }}>Came</th>
                {data.trials.map((t, k) => (
                  <th key={t.id} className="n">
                    {short(data.trials, k)}
                  </th>
                ))}
                {records.data?.names.map((n) => (
                  <th key={n} title={n}>
                    {n}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((r) => (
                <tr key={r.number}>
                  <td className="n">
                    <Link to={`/study/${studyId}/reasons?trial=${trials[0]}&record=${r.number}`}>{r.number}</Link>
                  </td>
                  <td>{r.came}</td>
                  {r.said.map((s, k) => (
                    <td key={k} className="n">
                      {s}
                    </td>
                  ))}
                  {r.cells.map((c, i) => (
                    <td key={i} title={c ?? ''}>
                      {c ?? '–'}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}
