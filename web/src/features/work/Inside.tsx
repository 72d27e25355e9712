import { Button } from '@mui/material'
import { useState } from 'react'
import { Link } from 'react-router'
import type { View } from '../../api/client'
import { useConnections } from '../../data/connection'
import { useTake } from '../../data/work'
import { date, time, whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'

const COMPANY = '0'

/** A table is scored where it lies: on a server, or in the company database that ships with the app. */
export function Inside({ trialId, studyId, data }: { trialId: number; studyId: number; data: View<'TakeAwayView'> }) {
  const { inside } = useTake(trialId)
  const servers = useConnections().data?.connections ?? []
  const [place, setPlace] = useState<string>()
  const [from, setFrom] = useState('')
  const [into, setInto] = useState('')
  const [keys, setKeys] = useState('')
  const chosen = place ?? (servers[0] ? String(servers[0].id) : COMPANY)
  const isCompany = chosen === COMPANY
  const table = isCompany && !data.company.includes(from) ? (data.company.find((t) => t === 'bookings') ?? data.company[0] ?? '') : from
  return (
    <section className="pad" style={{ flex: '1 1 420px', borderLeft: '1px solid var(--rule)' }}>
      <h2 className="fig-title">Score inside a database</h2>
      <p className="soft small">
        Rows never leave it: the model goes there as SQL, and a new table comes of it, or none. Connect a PostgreSQL server under{' '}
        <Link to={`/study/${studyId}/import`}>Import</Link>; the operator lists which may be.
      </p>
      <p className="sentence size-15">
        In{' '}
        <Slot
          label="Database"
          value={chosen}
          choices={[
            ...servers.map((c) => ({ value: String(c.id), label: `${c.database} at ${c.host}` })),
            { value: COMPANY, label: 'the company database (simulated)' },
          ]}
          onChange={setPlace}
        />
        , score{' '}
        {isCompany ? (
          <Slot label="Table to score" value={table} choices={data.company.map((t) => ({ value: t, label: t }))} onChange={setFrom} />
        ) : (
          <input
            aria-label="Table or query to score"
            placeholder="visits, or SELECT …"
            value={from}
            onChange={(e) => setFrom(e.target.value)}
            className="underlined"
            style={{ width: 150 }}
          />
        )}{' '}
        into{' '}
        <input
          aria-label="New table"
          placeholder={`${table.includes(' ') || table === '' ? 'visits' : table}_scored`}
          value={into}
          onChange={(e) => setInto(e.target.value)}
          className="underlined"
          style={{ width: 150 }}
        />
        , carrying{' '}
        <input
          aria-label="Columns carried along"
          placeholder="visit_id"
          value={keys}
          onChange={(e) => setKeys(e.target.value)}
          className="underlined"
          style={{ width: 150 }}
        />
        .
      </p>
      <Button
        variant="contained"
        color="primary"
        disabled={table.trim() === '' || into.trim() === '' || inside.isPending || data.cannot.length > 0}
        onClick={() =>
          inside.mutate({
            connectionId: Number(chosen),
            from: table,
            into,
            keys: keys
              .split(',')
              .map((k) => k.trim())
              .filter((k) => k !== ''),
          })
        }
      >
        Score it there
      </Button>
      <Trouble error={inside.error} />
      {data.inside.length > 0 && (
        <ul className="plain above-8" aria-label="Scored inside databases">
          {data.inside.map((done) => (
            <li key={done.id} className="note">
              <h3>
                {done.state === 'done'
                  ? `${whole(done.rows)} records in ${done.into}`
                  : done.state === 'failed'
                    ? `${done.into} was not written`
                    : `${done.into} is being written`}
                {done.draft && ', a draft'}
              </h3>
              <p>
                {done.state === 'running' ? `The database works on ${done.from}.` : done.says}{' '}
                <span className="soft small">
                  {done.place}, {done.by}, {date(done.at)} {time(done.at)}
                  {done.state === 'done' && `, ${done.seconds.toFixed(1)} s`}
                </span>
              </p>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
