import { Button, TableCell, TableRow } from '@mui/material'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { count, whole } from '../../ui/format'
import { figure, figured, scaleOf } from '../../ui/measure'
import { Head } from '../../ui/Head'
import { IntervalMark } from '../../ui/IntervalMark'
import { Ledger } from '../../ui/Ledger'
import { Loading, Trouble } from '../../ui/Trouble'
import { useAddress } from '../../ui/address'
import { useRoomy } from '../../ui/useWidth'
import { useStudyId } from '../../data/study'
import { type Trial, useRankBy, useRemark, useStandings } from '../../data/trial'
import { useJobs } from '../../data/job'
import { useSearches } from '../../data/search'
import { Slot } from '../../ui/Slot'
import { BlendDialog } from './BlendDialog'
import { FinalistsBand } from './FinalistsBand'
import { against, Axis, Marks } from './marks'
import { NameOfTrial } from './NameOfTrial'
import { NoteOfTrial } from './NoteOfTrial'

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
  const [blending, setBlending] = useState(false)
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
        {ticked.length > 1 && ticked.length < 11 && <Button onClick={() => setBlending(true)}>Blend {ticked.length}…</Button>}
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
                  <NameOfTrial
                    trial={t}
                    among={trials}
                    letters={variants > 1}
                    finalists={standings.data?.finalists}
                    fitting={jobs.data?.find((j) => j.kind === 'trial' && j.subject === t.id)?.share}
                    studyId={studyId}
                    onNote={() => setNoting(t)}
                  />
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
                title: <Axis scale={scale} width={width} measure={measure} />,
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
      {noting && <NoteOfTrial trial={noting} studyId={studyId} onClose={() => setNoting(null)} />}
      {blending && (
        <BlendDialog
          studyId={studyId}
          trials={all.filter((t) => ticked.includes(t.id))}
          isEvent={standings.data?.task === 'two classes'}
          onClose={() => setBlending(false)}
        />
      )}
    </>
  )
}
