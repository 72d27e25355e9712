import { Button } from '@mui/material'
import { useEffect } from 'react'
import { Link, useParams } from 'react-router'
import { isOver, useJobs } from '../../data/job'
import { useGoOn, useReplay, type Replay } from '../../data/replay'
import { count, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Loading, Trouble } from '../../ui/Trouble'

const STATES: Record<string, string> = {
  same: 'the same records',
  missing: 'is to be imported',
  'made here': 'is made here, from the others',
  'other records': 'other records: figures will part',
  'other columns': 'columns are missing',
}

/** A study done again from the file of another: what is here, what waits, and where it parts from what was found before. */
export function Again() {
  const studyId = Number(useParams().studyId)
  const replay = useReplay(studyId)
  const goOn = useGoOn(studyId)
  const running = (useJobs().data ?? []).filter((j) => j.studyId === studyId && !isOver(j)).length
  const data = replay.data
  const waits = data ? data.waiting + data.waitingLists : 0
  const begun = data ? data.same + data.differs.length > 0 : false
  const { refetch } = replay
  const { mutate, isPending } = goOn
  // What waited for the work that is over now is begun.
  useEffect(() => {
    if (running === 0 && begun && waits > 0 && !isPending) mutate('')
    else void refetch()
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each end of work
  }, [running])
  return (
    <>
      <Head title="Done again" small={data ? `from the file of ${data.name}` : ''} say={data && <b>{said(data, running)}</b>}>
        <FileButton label={data ? 'Another file…' : 'Choose a file…'} busy={goOn.isPending} onText={(text) => goOn.mutate(text)} />
        {data && waits > 0 && (
          <Button variant="contained" color="primary" disabled={goOn.isPending || running > 0} onClick={() => goOn.mutate('')}>
            {running > 0 ? 'At work…' : begun ? 'Go on' : 'Do it again'}
          </Button>
        )}
      </Head>
      <div className="sheet fit stack" style={{ overflow: 'auto' }}>
        {replay.isPending && <Loading what="the file" />}
        <Trouble error={replay.error ?? goOn.error} />
        {data === null && (
          <div className="empty">
            <h2>This study follows no file</h2>
            <p>
              The owner of a study takes it along as one file from its dossier: its tables by fingerprint, its question, preparation,
              trials, searches and lists. Followed here, each is done again, and you read whether it came out the same to the last bit.
            </p>
          </div>
        )}
        {data && (
          <>
            <section className="pad">
              <h2 className="fig-title">Tables</h2>
              <table className="ledger" aria-label="Tables of the file">
                <thead>
                  <tr>
                    <th style={{ width: 220 }}>Table</th>
                    <th className="n" style={{ width: 110 }}>
                      Records
                    </th>
                    <th>Here</th>
                    <th style={{ width: 130 }}>
                      <span className="sr">Do</span>
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {data.sources.map((s) => (
                    <tr key={s.name}>
                      <td className="nm clipped" title={s.name}>
                        {s.name}
                      </td>
                      <td className="n">{whole(s.rows)}</td>
                      <td className={s.state === 'same' ? '' : 'brass'} title={s.made}>
                        {STATES[s.state]}
                        {s.lacking.length > 0 && `: ${s.lacking.join(', ')}`}
                        {s.made !== '' && <span className="soft"> ({s.made})</span>}
                      </td>
                      <td>{s.state === 'missing' && <Link to={`/study/${studyId}/import`}>Import it</Link>}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              <p className="soft small">
                A table is known by its name: give it that name when you import it. Fingerprints are over every cell.
              </p>
            </section>
            <section className="pad">
              <h2 className="fig-title">
                {data.differs.length === 0 ? 'Nothing parts so far' : `${count(data.differs.length, 'place')} where it parts`}
              </h2>
              <p>
                {count(data.same, 'trial')} the same to the last bit, {whole(data.waiting)} to come;{' '}
                {count(data.sameLists, 'batch or list', 'batches and lists')} the same, {whole(data.waitingLists)} to come.
              </p>
              <ul>
                {[...data.differs, ...data.not].map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ul>
            </section>
          </>
        )}
      </div>
    </>
  )
}

function said(data: Replay, running: number): string {
  const missing = data.sources.filter((s) => s.state === 'missing')
  if (missing.length > 0)
    return `${missing.map((s) => s.name).join(', ')} ${
      missing.length === 1 ? 'is to be imported under that name' : 'are to be imported under those names'
    }.`
  if (running > 0) return 'It is being done again.'
  if (data.waiting + data.waitingLists > 0) return 'All its tables are here; the rest can be done again.'
  return data.differs.length === 0 ? 'All of it came out the same.' : 'It is done, and parts from what was found before.'
}

/** A file whose text is handed on. */
export function FileButton({ label, busy, onText }: { label: string; busy: boolean; onText: (text: string) => void }) {
  return (
    <Button component="label" disabled={busy}>
      {label}
      <input
        type="file"
        hidden
        accept=".json,application/json"
        aria-label={label}
        onChange={(e) => {
          const file = e.target.files?.[0]
          e.target.value = ''
          if (file) void file.text().then(onText)
        }}
      />
    </Button>
  )
}
