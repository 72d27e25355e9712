import { Button } from '@mui/material'
import { useEffect, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { useAddress } from '../../ui/address'
import { cutoffSaid, count, share, whole } from '../../ui/format'
import { bestOf, figure, ofTask } from '../../ui/measure'
import { Head } from '../../ui/Head'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'
import { useNotes } from '../../ui/notes'
import { isOver, useJob } from '../../data/job'
import { atCutoff, sectionOf, useJudgment } from '../../data/judgment'
import { useStudy, useStudyId } from '../../data/study'
import { isDraft, useApprovals } from '../../data/work'
import { titled } from '../../data/table'
import { FollowFirst } from './FollowFirst'
import { PasteRecords } from './PasteRecords'
import { Routines } from './Routines'
import { useMatch, useStartScoring } from '../../data/decision'
import { useCutoff } from '../../ui/useCutoff'

/** Which model scores which table: columns matched, problems said, before anything runs. */
export function Batch() {
  const studyId = useStudyId()
  const go = useNavigate()
  const study = useStudy(studyId)
  const [params, set] = useAddress()
  const s = study.data
  const approvals = useApprovals(studyId)
  const done = ofTask(s?.trials ?? [], s?.task ?? 'two classes').filter((t) => t.state === 'done' && t.title !== 'Baseline')
  const best = bestOf(done)
  const trialId = params.has('trial') ? Number(params.get('trial')) : (best?.id ?? null)
  const tables = s?.tables.filter((t) => t.state === 'ready') ?? []
  const other =
    tables.find((t) => t.id !== s?.tableId && t.name.includes('booking')) ?? tables.find((t) => t.id !== s?.tableId) ?? tables[0]
  const tableId = params.has('table') ? Number(params.get('table')) : (other?.id ?? null)
  const [hand, setHand] = useState<{ [k: string]: string }>({})
  const match = useMatch(studyId, trialId, tableId, hand)
  const judgment = useJudgment(trialId)
  const start = useStartScoring(studyId)
  const more = useStartScoring(studyId)
  const [jobId, setJobId] = useState<number | null>(null)
  const [pasting, setPasting] = useState(false)
  const [answers, setAnswers] = useState<{ [k: string]: string }>({})
  const [also, setAlso] = useState<number[]>([])
  const job = useJob(jobId)
  const isEvent = (s?.task ?? 'two classes') === 'two classes'
  const cutoff = useCutoff(judgment.data?.cutoff)
  const event = sectionOf(judgment.data, 'event')
  const at = atCutoff(event?.cutoffs ?? [], cutoff)
  const problems = match.data?.problems ?? []
  useNotes(0, null, 'batch')

  useEffect(() => {
    if (job.data?.state === 'done') void go(`/study/${studyId}/decisions/${job.data.subject}`)
  }, [job.data, go, studyId])

  if (s && (trialId === null || tables.length === 0))
    return (
      <>
        <Head title="Decisions" say="There is no fitted trial yet." />
        <div className="sheet fit">
          <div className="empty">
            <h2>Here answers become a list</h2>
            <p>New records get the same preparation as the training rows, an answer, and its reasons. Fit a trial first.</p>
            <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/trials`}>
              Plan a trial
            </Button>
          </div>
        </div>
      </>
    )

  const table = tables.find((t) => t.id === tableId)
  const number = s?.trials.find((t) => t.id === trialId)?.number
  const found = match.data?.lines.filter((l) => l.found != null).length ?? 0
  const failed = job.data && isOver(job.data) && job.data.state !== 'done'
  return (
    <>
      <Head
        title={`Score ${table?.name ?? 'new records'}`}
        small={s && `with trial ${number ?? ''}${isDraft(approvals.data, number) ? ', a draft: it is not approved for use' : ''}`}
        say={
          match.data && (
            <>
              <b>
                {match.data.unscorable === 0
                  ? `All ${whole(match.data.rows)} records can be scored.`
                  : match.data.unscorable >= match.data.rows
                    ? `None of ${whole(match.data.rows)} records can be scored.`
                    : `${whole(match.data.rows - match.data.unscorable)} of ${whole(match.data.rows)} records can be scored.`}
              </b>{' '}
              {problems.length === 0 ? 'Nothing is amiss.' : `${count(problems.length, 'remark')}; none stops the run.`} Nothing is dropped.
            </>
          )
        }
      >
        {s && s.scorings.length > 0 && (
          <Button component={Link} to={`/study/${studyId}/decisions/${s.scorings[0]!.id}`}>
            Last batch
          </Button>
        )}
        <Button
          variant="contained"
          color="primary"
          disabled={!match.data || start.isPending || (jobId !== null && !failed) || match.data.unscorable >= match.data.rows}
          onClick={() => {
            if (trialId === null || tableId === null) return
            start.mutate({ trialId, tableId, matching: hand, cutoff, answers }, { onSuccess: (j) => setJobId(j.id) })
            // Others score the same records beside it; they are compared from its page.
            for (const other of tableId === null ? [] : also) more.mutate({ trialId: other, tableId, matching: hand, cutoff, answers })
          }}
        >
          Score {whole(match.data?.rows ?? table?.rows)} records
        </Button>
      </Head>
      <div className="sheet fit stack">
        <section style={{ padding: '10px 16px', borderBottom: '1px solid var(--ink)' }}>
          <p className="sentence">
            Score{' '}
            <Slot
              label="Table"
              value={String(tableId ?? '')}
              choices={tables.map((t) => ({ value: String(t.id), label: titled(t), effect: `${whole(t.rows)} records` }))}
              onChange={(v) => {
                setHand({})
                set({ table: v })
              }}
            />{' '}
            with{' '}
            <Slot
              label="Trial"
              value={String(trialId ?? '')}
              choices={done.map((t) => ({
                value: String(t.id),
                label: `trial ${t.number}, ${t.title.toLowerCase()}`,
                effect: `${t.measure.name} ${figure(t.measure, t.value)}${t.stale ? ', stale' : ''}`,
              }))}
              onChange={(v) => set({ trial: v })}
            />
            {isEvent && (
              <>
                ; call from{' '}
                <Slot
                  label="Cut-off"
                  value={String(cutoff)}
                  choices={[...new Set([cutoff, 0.1, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5, 0.6])]
                    .sort((a, b) => a - b)
                    .map((c) => ({
                      value: String(c),
                      label: cutoffSaid(c),
                      effect: `catches ${share(atCutoff(event?.cutoffs ?? [], c)?.recall.value, 0)} of “${s?.event}”`,
                    }))}
                  onChange={(v) => set({ cutoff: v })}
                />{' '}
                on
              </>
            )}
            .
          </p>
          {done.length > 1 && (
            <p className="size-13">
              {also.map((id) => {
                const t = done.find((d) => d.id === id)
                return (
                  <span key={id}>
                    and with trial {t?.number}{' '}
                    <button
                      type="button"
                      className="link"
                      aria-label={`Without trial ${t?.number}`}
                      onClick={() => setAlso(also.filter((o) => o !== id))}
                    >
                      leave out
                    </button>
                    ;{' '}
                  </span>
                )
              })}
              <Slot
                label="Another trial at once"
                value=""
                choices={[
                  { value: '', label: 'and with another trial…' },
                  ...done
                    .filter((t) => t.id !== trialId && !also.includes(t.id))
                    .map((t) => ({ value: String(t.id), label: `trial ${t.number}, ${t.title.toLowerCase()}` })),
                ]}
                onChange={(v) => v !== '' && setAlso([...also, Number(v)])}
              />
            </p>
          )}
          {!isEvent && s && (
            <p className="soft size-13">
              Each record gets{' '}
              {s.task === 'number' ? `a number for ${s.target}` : `the likeliest ${s.target} with the chances of all classes`}. How far that
              is off stands on the trial’s page.
            </p>
          )}
          {isEvent && at && (
            <p className="soft size-13">
              On rows it had not seen, this cut-off catches {share(at.recall.value)} of “{s?.event}” and is right in{' '}
              {share(at.precision.value)} of its calls; calling at random is right in {share(event?.baseRate)}.
            </p>
          )}
          {table?.id === s?.tableId && (
            <p className="brass small">These are the records the model was fitted on: their answers look better than they are.</p>
          )}
          {match.data?.combination && (
            <FollowFirst key={tableId} combination={match.data.combination} records={table} onMade={(id) => set({ table: String(id) })} />
          )}
          <Trouble
            error={
              match.error ??
              start.error ??
              more.error ??
              judgment.error ??
              (failed ? new Error(job.data?.message ?? 'The scoring was cancelled. Nothing was changed.') : null)
            }
          />
          {jobId !== null && !failed && <p role="status">Scoring: {share(job.data?.share ?? 0, 0)}. You can leave this page.</p>}
        </section>
        <div style={{ display: 'flex', flex: 1, minHeight: 0 }}>
          <section className="col grows">
            {match.isPending && <Loading what="the columns" />}
            {match.data && (
              <div className="scroll" tabIndex={0} role="region" aria-label="Columns asked for and found">
                <h2 className="fig-title" style={{ padding: '10px 16px 4px' }}>
                  {found === match.data.lines.length
                    ? `All ${found} columns found`
                    : `${found} of ${match.data.lines.length} columns found`}
                </h2>
                <table className="ledger" aria-label="Columns">
                  <thead>
                    <tr>
                      <th className="indented">Asked for</th>
                      <th className="gives" style={{ width: 84 }}>
                        Kind
                      </th>
                      <th style={{ width: 70 }}>
                        <span className="sr">Match</span>
                      </th>
                      <th>Found in {table?.name}</th>
                      <th className="gives">First values</th>
                      <th className="n" style={{ width: 74 }}>
                        Missing
                      </th>
                    </tr>
                  </thead>
                  <tbody>
                    {match.data.lines.map((l) => (
                      <tr key={l.asked} style={l.problem ? { background: 'var(--brass-wash)' } : undefined}>
                        <td className="indented">
                          <span className="nm">{l.asked}</span>
                          <div className="under slim">
                            {l.kind}: {l.firstValues.map((v) => v ?? '–').join(', ')}
                          </div>
                        </td>
                        <td className="gives">{l.kind}</td>
                        <td className="mark">
                          <svg width="64" height="22" aria-hidden="true">
                            <path
                              d={l.how === 'by hand' ? 'M4 11C20 4 44 4 60 11' : 'M4 11H60'}
                              fill="none"
                              stroke={l.found ? (l.how === 'by hand' ? 'var(--verdigris)' : 'var(--rule-firm)') : 'var(--brass)'}
                              strokeWidth="1.5"
                              strokeDasharray={l.found ? undefined : '3 3'}
                            />
                            <circle cx={4} cy={11} r={2.6} fill={l.found ? 'var(--ink-soft)' : 'var(--brass)'} />
                            <circle
                              cx={60}
                              cy={11}
                              r={2.6}
                              fill={l.found ? 'var(--ink-soft)' : 'var(--paper)'}
                              stroke={l.found ? 'var(--ink-soft)' : 'var(--brass)'}
                            />
                          </svg>
                        </td>
                        <td>
                          <Slot
                            label={`${l.asked} is found in`}
                            wait={l.found == null}
                            value={l.found ?? ''}
                            choices={[
                              ...(l.found == null ? [{ value: '', label: 'choose…' }] : []),
                              ...match.data.columns.map((c) => ({ value: c, label: c })),
                            ]}
                            onChange={(v) => setHand({ ...hand, [l.asked]: v })}
                          />{' '}
                          {l.how !== 'by name' && <span className={l.found ? 'verd small' : 'brass small'}>{l.how}</span>}
                        </td>
                        <td className="soft gives">{l.firstValues.map((v) => v ?? '–').join(', ')}</td>
                        <td className="n">{l.missing > 0 ? whole(l.missing) : <span className="soft">0</span>}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
            )}
          </section>
          <section className="col pad" style={{ width: 'min(320px, 32%)', overflow: 'auto' }}>
            <h2 className="fig-title">
              {problems.length === 0 ? 'Nothing is amiss' : `${count(problems.length, 'remark')} before it runs`}
            </h2>
            <p className="fig-sub" style={{ marginBottom: 10 }}>
              None stops the run. Records that cannot be scored are listed with the reason.
            </p>
            {problems.map((p) => (
              <div key={p} className="note" style={{ marginBottom: 12 }}>
                <p>{p}</p>
                {match.data?.questions
                  .filter((q) => q.says === p)
                  .map((q) => (
                    <Slot
                      key={q.column}
                      label={`What becomes of ${q.column}`}
                      value={answers[q.column] ?? q.answer}
                      choices={q.answers.map((a) => ({
                        value: a,
                        label: a,
                        ...(a === 'fill with the usual value' && q.usual != null ? { effect: q.usual } : {}),
                      }))}
                      onChange={(a) => setAnswers({ ...answers, [q.column]: a })}
                    />
                  ))}
              </div>
            ))}
            <Routines studyId={studyId} />
            <p className="small to-bottom">
              <Link to={`/study/${studyId}/import?for=decisions`}>Import another table of new records</Link>, or{' '}
              <button type="button" className="link" onClick={() => setPasting(true)}>
                paste records
              </button>
            </p>
          </section>
        </div>
      </div>
      {pasting && (
        <PasteRecords
          studyId={studyId}
          onClose={() => setPasting(false)}
          onMade={(id) => {
            setPasting(false)
            setHand({})
            set({ table: String(id) })
          }}
        />
      )}
    </>
  )
}
