import { Button, Dialog, DialogActions, DialogContent, DialogTitle, TableCell, TableRow, TextField } from '@mui/material'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { count, whole } from '../../ui/format'
import { type Figure, figure, figured, scaleOf } from '../../ui/measure'
import { roundTicks } from '../../ui/scale'
import { Head } from '../../ui/Head'
import { IntervalMark } from '../../ui/IntervalMark'
import { Ledger } from '../../ui/Ledger'
import { Loading, Trouble } from '../../ui/Trouble'
import { useAddress } from '../../ui/address'
import { useRoomy } from '../../ui/useWidth'
import { useStudyId } from '../../data/study'
import { type Distance, type Trial, useRankBy, useRemark, useStandings } from '../../data/trial'
import { told } from '../../data/told'
import { useJobs } from '../../data/job'
import { useSearches } from '../../data/search'
import { Slot } from '../../ui/Slot'
import { FinalistsBand, Octagon } from './FinalistsBand'

/** All trials ranked, with intervals, beside the baseline. */
export function Standings() {
  const studyId = useStudyId()
  const go = useNavigate()
  const standings = useStandings(studyId)
  const rank = useRankBy(studyId)
  const jobs = useJobs()
  const searches = (useSearches(studyId).data ?? []).filter((s) => s.state === 'running')
  const width = useRoomy() ? 520 : 200
  const all = standings.data?.trials ?? []
  const [params, set] = useAddress()
  const [ticked, setTicked] = useState<number[]>([])
  const [noting, setNoting] = useState<Trial | null>(null)
  const remark = useRemark(studyId)
  const only = params.get('learner') ?? ''
  const hidden = all.filter((t) => t.hidden).length
  const showHidden = params.get('hidden') === 'shown'
  const trials = all.filter((t) => (showHidden || !t.hidden) && (only === '' || t.learner === only))
  const learners = [...new Map(all.map((t) => [t.learner, t.title])).entries()]
  const tick = (t: Trial) => setTicked(ticked.includes(t.id) ? ticked.filter((id) => id !== t.id) : [...ticked, t.id])
  const ranked = all.filter((t) => t.value != null && t.task === standings.data?.task)
  const leader = ranked[0]
  const distances = standings.data?.distances ?? []
  const within = distances.filter((d) => d.noise).length
  const measure = standings.data?.measure
  const baseline = standings.data?.baseline
  const scale = scaleOf(measure, baseline)
  const variants = new Set(all.map((t) => t.variantLetter)).size
  const open = (t: Trial) => void go(`/study/${studyId}/judgment/${t.id}`)
  return (
    <>
      <Head
        title="Standings"
        small={
          standings.data && (
            <Slot
              label="Figure that ranks"
              value={standings.data.measure.key}
              choices={standings.data.rankings.map((r) => ({ value: r.key, label: r.title, effect: r.name }))}
              onChange={(key) => rank.mutate(key)}
            />
          )
        }
        say={
          leader ? (
            <>
              <b>
                Trial {leader.number}, {leader.title.toLowerCase()}, leads with {figured(leader.measure, leader)};
              </b>{' '}
              {within > 0 ? `${count(within, 'other is', 'others are')} within noise. ` : ''}
              {standings.data?.luck != null &&
                `Being the best of ${ranked.length} holds about ${figure(measure, standings.data.luck)} of luck. `}
              Doing nothing scores {figure(measure, baseline)}. Sealed rows:{' '}
              {standings.data && standings.data.sealOpenings > 0 ? `opened ${count(standings.data.sealOpenings, 'time')}` : 'not opened'}.
            </>
          ) : (
            'No trial has figures yet.'
          )
        }
      >
        {ticked.length > 0 && (
          <Button
            disabled={remark.isPending}
            onClick={() => {
              for (const t of all.filter((o) => ticked.includes(o.id))) remark.mutate({ id: t.id, note: t.note, hidden: !t.hidden })
              setTicked([])
            }}
          >
            {all.some((t) => ticked.includes(t.id) && !t.hidden) ? 'Hide' : 'Show again'} {ticked.length}
          </Button>
        )}
        {ticked.length > 1 && ticked.length < 5 && (
          <Button onClick={() => void go(`/study/${studyId}/judgment/beside?trials=${ticked.join(',')}`)}>
            {ticked.length} side by side
          </Button>
        )}
        <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/trials`}>
          Plan trials
        </Button>
      </Head>
      <div className="sheet fit stack">
        {standings.isPending && <Loading what="the standings" />}
        <Trouble error={standings.error ?? rank.error ?? remark.error} onRetry={() => void standings.refetch()} />
        {standings.data && ranked.length > 1 && <FinalistsBand standings={standings.data} studyId={studyId} />}
        {searches.map((s) => (
          <p key={s.id} className="pad size-13" role="status" style={{ paddingBlock: 4, borderBottom: '1px solid var(--rule)' }}>
            <Link to={`/study/${studyId}/trials/${s.guided ? 'guided' : 'search'}/${s.id}`}>
              {s.guided ? 'Guided search' : 'Search'} {s.number}, running
            </Link>{' '}
            <span className="soft">
              {whole(s.done)} of {whole(s.tries)} settings weighed{s.best != null && `, best while searching ${figure(measure, s.best)}`}
            </span>
          </p>
        ))}
        {all.length > 1 && (
          <p className="pad size-13 sentence" style={{ paddingBlock: 4, borderBottom: '1px solid var(--rule)' }}>
            Of{' '}
            <Slot
              label="Which learners"
              value={only}
              choices={[{ value: '', label: 'all learners' }, ...learners.map(([value, label]) => ({ value, label }))]}
              onChange={(learner) => set({ learner: learner === '' ? null : learner })}
            />
            {hidden > 0 && (
              <>
                ,{' '}
                <button type="button" className="link" onClick={() => set({ hidden: showHidden ? null : 'shown' })}>
                  {showHidden ? `with ${count(hidden, 'hidden one')}` : `${hidden} hidden`}
                </button>{' '}
                <span className="soft">(they count in the corrections for many trials)</span>
              </>
            )}
            {'. '}
            <a href={`/api/studies/${studyId}/standings/file`} download>
              Save as CSV
            </a>
          </p>
        )}
        {standings.data && all.length > 0 && trials.length === 0 && <p className="pad soft">No trial in sight is of this learner.</p>}
        {standings.data && all.length === 0 && (
          <div className="empty">
            <h2>Here trials are ranked by how well they do on rows they have not seen</h2>
            <p>Each figure has its interval and stands beside what doing nothing clever would score. Run a first trial.</p>
            <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/trials`}>
              Plan a trial
            </Button>
          </div>
        )}
        {trials.length > 0 && (
          <Ledger<Trial>
            label="Standings"
            rows={trials}
            rowKey={(t) => t.id}
            onSelect={open}
            selected={null}
            rowHeight={26}
            lineNumber={(t) => (
              <label
                style={{ display: 'flex', gap: 4, alignItems: 'center', justifyContent: 'flex-end' }}
                onClick={(e) => e.stopPropagation()}
              >
                <input
                  type="checkbox"
                  className="accented"
                  aria-label={`Take trial ${t.number}`}
                  checked={ticked.includes(t.id)}
                  onChange={() => tick(t)}
                />
                {all.indexOf(t) + 1}
              </label>
            )}
            rowClass={(t) => (t.stale.length > 0 ? 'stale' : t.hidden ? 'aside' : '')}
            columns={[
              {
                key: 'trial',
                title: 'Trial',
                least: 205,
                cell: (t) => (
                  <>
                    {t.id === standings.data?.finalists.strongest && (
                      <>
                        <Octagon mark="full" />{' '}
                      </>
                    )}
                    {t.id === standings.data?.finalists.clearest && t.id !== standings.data.finalists.strongest && (
                      <>
                        <Octagon mark="ring" />{' '}
                      </>
                    )}
                    <Link
                      to={`/study/${studyId}/judgment/${t.id}`}
                      style={{ color: 'var(--ink)', fontWeight: 560, textDecoration: 'none' }}
                      onClick={(e) => e.stopPropagation()}
                    >
                      {t.title}
                    </Link>{' '}
                    <span className="soft" title={t.settings.join('; ')}>
                      trial {t.number}
                      {variants > 1 && `, variant ${t.variantLetter ?? '–'}`}
                      {told(t, trials)}
                    </span>
                    {t.part != null && <span className="brass"> on {whole(t.part)} rows</span>}
                    {t.stale.length > 0 && (
                      <span className="brass" title={t.stale.join('; ')}>
                        {' '}
                        stale
                      </span>
                    )}
                    {t.chosen && (
                      <span className="brass" title={`While searching it looked like ${figure(t.measure, t.chosen.searching)}`}>
                        {' '}
                        best of {whole(t.chosen.tries)}
                      </span>
                    )}
                    {t.calibration !== 'as they come' && <span className="soft"> calibrated</span>}
                    {t.handedRows != null && <span className="verd"> in use</span>}{' '}
                    <button
                      type="button"
                      className="link small"
                      title={t.note || 'Write a note beside it'}
                      aria-label={`Note of trial ${t.number}`}
                      onClick={(e) => {
                        e.stopPropagation()
                        setNoting(t)
                      }}
                    >
                      {t.note ? t.note.slice(0, 40) + (t.note.length > 40 ? '…' : '') : 'note'}
                    </button>
                    {t.state !== 'done' && (
                      <span className={t.state === 'failed' ? 'cinn' : 'verd'}>
                        {' '}
                        {t.state === 'waiting' ? (
                          <Filling share={jobs.data?.find((j) => j.kind === 'trial' && j.subject === t.id)?.share} />
                        ) : (
                          t.state
                        )}
                      </span>
                    )}
                  </>
                ),
              },
              {
                key: 'columns',
                title: 'Columns',
                number: true,
                width: 66,
                gives: 2,
                said: (t) => t.state === 'done' && count(t.columns, 'column'),
                cell: (t) =>
                  t.state === 'done' ? (
                    <span
                      title={
                        t.choice
                          ? `${t.choice.without ? 'All but' : 'Only'} ${t.choice.names.join(', ')}`
                          : 'All that the preparation offers'
                      }
                    >
                      {t.choice && <span className="soft">of a choice </span>}
                      {whole(t.columns)}
                    </span>
                  ) : (
                    '–'
                  ),
              },
              { key: 'read', title: 'To read', width: 84, gives: 3, said: (t) => t.size, cell: (t) => t.size || '–' },
              {
                key: 'value',
                title: measure?.name ?? '',
                number: true,
                width: 118,
                cell: (t) =>
                  t.task === standings.data?.task ? <b>{figured(t.measure, t)}</b> : <span className="soft">another target</span>,
              },
              {
                key: 'mark',
                title: (
                  <svg width={width} height="14" aria-hidden="true">
                    {roundTicks(scale).map((v, i, all) => (
                      <text
                        key={v}
                        x={place(v, scale, width)}
                        y={11}
                        className="ax"
                        textAnchor={i === 0 ? 'start' : i === all.length - 1 && measure?.more ? 'end' : 'middle'}
                      >
                        {measure?.most === 1 && v < 1 ? v.toFixed(1).slice(1) : v}
                      </text>
                    ))}
                  </svg>
                ),
                width: width + 4,
                className: 'mark',
                cell: (t) =>
                  t.task === standings.data?.task ? (
                    <Marks trial={t} leads={t === leader} scale={scale} baseline={baseline} width={width} />
                  ) : null,
              },
              {
                key: 'against',
                title: 'Against the leader',
                number: true,
                width: 116,
                cell: (t) => {
                  const d = distances.find((x) => x.trialId === t.id)
                  if (t === leader) return 'leader'
                  if (!d) return '–'
                  if (d.pending) return <span className="soft">being compared</span>
                  if (d.noise == null)
                    return (
                      <span
                        className="soft"
                        title="Only trials of the same rows and of today’s form are compared: fit what is stale again."
                      >
                        not compared
                      </span>
                    )
                  return d.noise ? (
                    <span className="soft" title={against(d, measure)}>
                      within noise
                    </span>
                  ) : (
                    <span title={against(d, measure)}>{figure(measure, d.difference)}</span>
                  )
                },
              },
              {
                key: 'no',
                title: 'Cannot answer',
                number: true,
                width: 96,
                gives: 1,
                said: (t) => t.state === 'done' && t.unanswered > 0 && `${whole(t.unanswered)} unanswered`,
                cell: (t) => (t.state === 'done' ? whole(t.unanswered) : '–'),
              },
            ]}
            footer={(isShown) => (
              <TableRow>
                <TableCell />
                <TableCell className="brass">
                  Do nothing: {standings.data?.task === 'number' ? 'the mean' : 'the same chance'} for all
                </TableCell>
                {isShown('columns') && <TableCell className="n">0</TableCell>}
                {isShown('read') && <TableCell />}
                <TableCell className="n">{figure(measure, baseline)}</TableCell>
                <TableCell className="mark">
                  <IntervalMark value={baseline} scale={scale} width={width} tone="brass" />
                </TableCell>
                <TableCell className="n">
                  {leader?.value != null && baseline != null ? figure(measure, baseline - leader.value) : '–'}
                </TableCell>
                {isShown('no') && <TableCell />}
              </TableRow>
            )}
          />
        )}
      </div>
      {noting && <NoteDialog trial={noting} studyId={studyId} onClose={() => setNoting(null)} />}
    </>
  )
}

function NoteDialog({ trial, studyId, onClose }: { trial: Trial; studyId: number; onClose: () => void }) {
  const [note, setNote] = useState(trial.note)
  const remark = useRemark(studyId)
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="note-of-trial">
      <DialogTitle id="note-of-trial">
        Note of trial {trial.number}, {trial.title.toLowerCase()}
      </DialogTitle>
      <DialogContent>
        <TextField
          autoFocus
          fullWidth
          multiline
          minRows={2}
          label="Note"
          value={note}
          onChange={(e) => setNote(e.target.value.slice(0, 400))}
          helperText={`${note.length} of 400 letters`}
          sx={{ mt: 1 }}
        />
        <Trouble error={remark.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button
          variant="contained"
          color="primary"
          disabled={remark.isPending}
          onClick={() => remark.mutate({ id: trial.id, note, hidden: trial.hidden }, { onSuccess: onClose })}
        >
          Keep the note
        </Button>
      </DialogActions>
    </Dialog>
  )
}

/** How many of its folds are through. */
function Filling({ share }: { share: number | undefined }) {
  if (share === undefined) return <>being fitted</>
  return (
    <>
      being fitted{' '}
      <svg width="62" height="9" role="img" aria-label={`${Math.round(100 * share)}% done`}>
        {Array.from({ length: 10 }, (_, i) => (
          <rect
            key={i}
            x={i * 6}
            y="1"
            width="4.5"
            height="7"
            fill={share * 10 > i + 0.5 ? 'var(--verdigris)' : 'none'}
            stroke="var(--verdigris)"
          />
        ))}
      </svg>
    </>
  )
}

function place(v: number, scale: [number, number], width: number): number {
  return 4 + ((Math.max(scale[0], Math.min(scale[1], v)) - scale[0]) / (scale[1] - scale[0])) * (width - 8)
}

function against(d: Distance, measure: Figure | undefined): string {
  return d.low != null && d.high != null
    ? `${figure(measure, d.difference)} against the leader on the ${count(d.both, 'row')} that both answer for; ${figure(measure, d.low)} to ${figure(measure, d.high)}, 95% for all pairs of trials at once`
    : `${figure(measure, d.difference)} against the leader; not on the same rows, so nothing is told apart`
}

function Marks({
  trial,
  leads,
  scale,
  baseline,
  width,
}: {
  trial: Trial
  leads: boolean
  scale: [number, number]
  baseline?: number | null
  width: number
}) {
  const x = (v: number) => place(v, scale, width)
  return (
    <svg
      width={width}
      height="26"
      role="img"
      aria-label={`${trial.measure.name} ${figured(trial.measure, trial)}; on its own training rows ${figure(trial.measure, trial.training)}`}
    >
      {roundTicks(scale)
        .slice(1, -1)
        .map((v) => (
          <path key={v} d={`M${x(v)} 0V26`} stroke="var(--rule)" />
        ))}
      {baseline != null && <path d={`M${x(baseline)} 0V26`} stroke="var(--brass)" strokeDasharray="3 2" />}
      {trial.value != null && (
        <>
          {trial.training != null && (
            <>
              <path d={`M${x(trial.value)} 13H${x(trial.training)}`} stroke="var(--ink-soft)" strokeDasharray="1.5 2.5" />
              <circle cx={x(trial.training)} cy={13} r={2.6} fill="var(--paper)" stroke="var(--ink-soft)" />
            </>
          )}
          <g className={`iv ${leads ? 'v' : ''}`}>
            {trial.low != null && trial.high != null && <line x1={x(trial.low)} x2={x(trial.high)} y1={13} y2={13} />}
            <circle cx={x(trial.value)} cy={13} r={2.8} />
          </g>
        </>
      )}
    </svg>
  )
}
