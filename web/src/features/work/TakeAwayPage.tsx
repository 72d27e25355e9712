import { Button } from '@mui/material'
import { Link, useParams, useSearchParams } from 'react-router'
import { useStudy } from '../../data/study'
import { useConnections } from '../../data/connection'
import { useTake, useTakeAway } from '../../data/work'
import { count, date, time, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'
import { Inside } from './Inside'

const SAYS: Record<string, string> = {
  'sql-postgresql': 'One statement; scores a table where it lies.',
  'sql-sqlite': 'The same for SQLite files.',
  onnx: 'For runtimes of other languages; thresholds as doubles.',
  json: 'A list of layers anybody can read; its schema is published.',
  card: 'Plain text, followed by hand: one question a line.',
}

/** A model leaves as a file that was run by somebody else first, or scores where the data lie. */
export function TakeAwayPage() {
  const studyId = Number(useParams().studyId)
  const [params, setParams] = useSearchParams()
  const study = useStudy(studyId)
  const done = (study.data?.trials ?? []).filter((t) => t.state === 'done')
  const trial = done.find((t) => String(t.id) === params.get('trial')) ?? done[0]
  const away = useTakeAway(trial?.id ?? null)
  const { take } = useTake(trial?.id ?? null)
  const servers = useConnections().data?.connections ?? []
  const data = away.data
  const cannot = data?.cannot ?? []
  return (
    <>
      <Head
        title="Take away"
        small={trial && `trial ${trial.number}, ${trial.title}${data?.draft ? '; a draft' : ''}`}
        say={
          data && (
            <b>
              {cannot.length > 0
                ? 'This model cannot be written out.'
                : `It leaves with its preparation in ${data.forms.length} forms; each is run by somebody else before it is handed out.`}
            </b>
          )
        }
      >
        <Button component={Link} to={`/study/${studyId}/decisions/service`}>
          Service
        </Button>
      </Head>
      <div className="sheet fit stack" style={{ overflow: 'auto' }}>
        <Trouble error={away.error ?? take.error} />
        {!trial && study.data && (
          <div className="empty">
            <h2>Nothing to take away yet</h2>
            <p>A fitted trial leaves as SQL, ONNX, JSON or a rule card, with its preparation. Fit one first.</p>
            <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/trials`}>
              Plan a trial
            </Button>
          </div>
        )}
        {trial && away.isPending && <Loading what="what it can be taken away as" />}
        {trial && data && (
          <>
            <div className="parts-row">
              <section className="pad" style={{ flex: '1 1 460px' }}>
                <h2 className="fig-title">
                  Forms of{' '}
                  <Slot
                    label="Trial"
                    value={String(trial.id)}
                    choices={done.map((t) => ({ value: String(t.id), label: `trial ${t.number}, ${t.title}` }))}
                    onChange={(id) => setParams({ trial: id })}
                  />
                </h2>
                {cannot.map((c) => (
                  <p key={c} className="brass">
                    {c}
                  </p>
                ))}
                {cannot.length === 0 && (
                  <table className="ledger" aria-label="Forms">
                    <tbody>
                      {data.forms.map((f) => (
                        <tr key={f.form}>
                          <td className="nm" style={{ width: 160 }}>
                            {f.title}
                          </td>
                          <td className="soft" style={{ whiteSpace: 'normal' }}>
                            {SAYS[f.form]} Equal to {f.within.toExponential(0)}.
                          </td>
                          <td style={{ width: 130 }}>
                            <Button
                              size="small"
                              disabled={take.isPending}
                              onClick={() =>
                                take.mutate({
                                  form: f.form,
                                  connectionId: f.form === 'sql-postgresql' ? (servers[0]?.id ?? null) : null,
                                } as never)
                              }
                            >
                              {take.isPending && take.variables?.form === f.form ? 'Proving…' : 'Prove and take'}
                            </Button>
                          </td>
                        </tr>
                      ))}
                    </tbody>
                  </table>
                )}
                <p className="soft small above-8">
                  It asks for {count(data.inputs.length, 'column')}: {data.inputs.join(', ')}.
                </p>
              </section>
              <Inside trialId={trial.id} data={data} studyId={studyId} />
            </div>
            {data.taken.length > 0 && (
              <section className="pad">
                <h2 className="fig-title">Taken, each with its proof</h2>
                <table className="ledger" aria-label="Files taken away">
                  <thead>
                    <tr>
                      <th style={{ width: 190 }}>File</th>
                      <th>Proof</th>
                      <th style={{ width: 330 }}>On which records</th>
                      <th style={{ width: 160 }}>By</th>
                    </tr>
                  </thead>
                  <tbody>
                    {data.taken.map((t) => (
                      <tr key={t.id}>
                        <td>
                          <a href={`/api/taken/${t.id}/file`} download={t.fileName}>
                            {t.fileName}
                          </a>{' '}
                          <span className="soft small">
                            {t.size < 1e6 ? `${Math.ceil(t.size / 1000)} kB` : `${(t.size / 1e6).toFixed(1)} MB`}
                          </span>
                        </td>
                        <td style={{ whiteSpace: 'normal' }}>{t.says}</td>
                        <td className="soft small" style={{ whiteSpace: 'normal' }}>
                          {Object.entries(t.made)
                            .map(([sort, n]) => `${whole(n)} ${sort}`)
                            .join(', ')}
                        </td>
                        <td className="soft" style={{ whiteSpace: 'normal' }}>
                          {t.by}, {date(t.at)} {time(t.at)}
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </section>
            )}
          </>
        )}
      </div>
    </>
  )
}
