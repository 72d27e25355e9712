import { Button, TableCell, TableRow } from '@mui/material'
import { Link, useNavigate } from 'react-router'
import { count, fixed, whole, withInterval } from '../../ui/format'
import { Head } from '../../ui/Head'
import { IntervalMark } from '../../ui/IntervalMark'
import { Ledger } from '../../ui/Ledger'
import { Loading, Trouble } from '../../ui/Trouble'
import { useStudyId } from '../study/api'
import { type Trial, useStandings } from '../trial/api'

/** All trials ranked, with intervals, beside the baseline. */
export function Standings() {
  const studyId = useStudyId()
  const go = useNavigate()
  const standings = useStandings(studyId)
  const trials = standings.data?.trials ?? []
  const done = trials.filter((t) => t.auc != null)
  const leader = done[0]
  const within = done.filter((t) => t !== leader && leader?.aucLow != null && (t.aucHigh ?? 0) >= leader.aucLow).length
  const open = (t: Trial) => void go(`/study/${studyId}/judgment/${t.id}`)
  return (
    <>
      <Head
        title="Standings"
        small="area under the ROC curve"
        say={
          leader ? (
            <>
              <b>
                Trial {leader.number}, {leader.title.toLowerCase()}, leads with {withInterval(leader.auc, leader.aucLow, leader.aucHigh)};
              </b>{' '}
              {within > 0 ? `${count(within, 'other is', 'others are')} within noise. ` : ''}Doing nothing scores 0.500. Sealed rows:{' '}
              {standings.data && standings.data.sealOpenings > 0 ? `opened ${standings.data.sealOpenings} times` : 'not opened'}.
            </>
          ) : (
            'No trial has figures yet.'
          )
        }
      >
        <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/trials`}>
          Plan trials
        </Button>
      </Head>
      <div className="sheet fit stack">
        {standings.isPending && <Loading what="the standings" />}
        <Trouble error={standings.error} onRetry={() => void standings.refetch()} />
        {standings.data && trials.length === 0 && (
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
            lineNumber={(_, i) => i + 1}
            rowClass={(t) => (t.stale.length > 0 ? 'stale' : '')}
            columns={[
              {
                key: 'trial',
                title: 'Trial',
                cell: (t) => (
                  <>
                    <Link
                      to={`/study/${studyId}/judgment/${t.id}`}
                      style={{ color: 'var(--ink)', fontWeight: 560, textDecoration: 'none' }}
                      onClick={(e) => e.stopPropagation()}
                    >
                      {t.title}
                    </Link>{' '}
                    <span className="soft">
                      trial {t.number}, variant {t.variantLetter ?? '–'}
                    </span>
                    {t.stale.length > 0 && (
                      <span className="brass" title={t.stale.join('; ')}>
                        {' '}
                        stale
                      </span>
                    )}
                    {t.state !== 'done' && (
                      <span className={t.state === 'failed' ? 'cinn' : 'verd'}> {t.state === 'waiting' ? 'being fitted' : t.state}</span>
                    )}
                  </>
                ),
              },
              { key: 'columns', title: 'Columns', number: true, width: 74, cell: (t) => (t.state === 'done' ? whole(t.columns) : '–') },
              { key: 'read', title: 'To read', width: 84, cell: (t) => t.size || '–' },
              { key: 'auc', title: 'AUC', number: true, width: 118, cell: (t) => <b>{withInterval(t.auc, t.aucLow, t.aucHigh)}</b> },
              {
                key: 'mark',
                title: (
                  <svg width="236" height="14" aria-hidden="true">
                    {[0.5, 0.6, 0.7, 0.8, 0.9, 1].map((v) => (
                      <text
                        key={v}
                        x={4 + ((v - 0.5) / 0.5) * 228}
                        y={11}
                        className="ax"
                        textAnchor={v === 0.5 ? 'start' : v === 1 ? 'end' : 'middle'}
                      >
                        {v === 1 ? '1' : v.toFixed(1).slice(1)}
                      </text>
                    ))}
                  </svg>
                ),
                width: 240,
                className: 'mark',
                cell: (t) => <Marks trial={t} leads={t === leader} />,
              },
              {
                key: 'against',
                title: 'Against the leader',
                number: true,
                width: 124,
                cell: (t) =>
                  t === leader ? (
                    'leader'
                  ) : t.auc == null || leader?.auc == null ? (
                    '–'
                  ) : (t.aucHigh ?? 0) >= (leader.aucLow ?? 1) ? (
                    <span className="soft">within noise</span>
                  ) : (
                    fixed(t.auc - leader.auc)
                  ),
              },
              { key: 'no', title: 'Cannot answer', number: true, width: 96, cell: (t) => (t.state === 'done' ? whole(t.unanswered) : '–') },
            ]}
            footer={
              <TableRow>
                <TableCell />
                <TableCell className="brass">Do nothing: the same chance for everybody</TableCell>
                <TableCell className="n">0</TableCell>
                <TableCell />
                <TableCell className="n">0.500</TableCell>
                <TableCell className="mark">
                  <IntervalMark value={0.5} scale={[0.5, 1]} width={236} tone="brass" />
                </TableCell>
                <TableCell className="n">{leader?.auc != null ? fixed(0.5 - leader.auc) : '–'}</TableCell>
                <TableCell />
              </TableRow>
            }
          />
        )}
      </div>
    </>
  )
}

function Marks({ trial, leads }: { trial: Trial; leads: boolean }) {
  const x = (v: number) => 4 + ((Math.max(0.5, Math.min(1, v)) - 0.5) / 0.5) * 228
  return (
    <svg
      width="236"
      height="26"
      role="img"
      aria-label={`AUC ${withInterval(trial.auc, trial.aucLow, trial.aucHigh)}; on its own training rows ${fixed(trial.trainingAuc)}`}
    >
      {[0.6, 0.7, 0.8, 0.9].map((v) => (
        <path key={v} d={`M${x(v)} 0V26`} stroke="var(--rule)" />
      ))}
      <path d={`M${x(0.5)} 0V26`} stroke="var(--brass)" strokeDasharray="3 2" />
      {trial.auc != null && (
        <>
          {trial.trainingAuc != null && (
            <>
              <path d={`M${x(trial.auc)} 13H${x(trial.trainingAuc)}`} stroke="var(--ink-soft)" strokeDasharray="1.5 2.5" />
              <circle cx={x(trial.trainingAuc)} cy={13} r={2.6} fill="var(--paper)" stroke="var(--ink-soft)" />
            </>
          )}
          <g className={`iv ${leads ? 'v' : ''}`}>
            {trial.aucLow != null && trial.aucHigh != null && <line x1={x(trial.aucLow)} x2={x(trial.aucHigh)} y1={13} y2={13} />}
            <circle cx={x(trial.auc)} cy={13} r={2.8} />
          </g>
        </>
      )}
    </svg>
  )
}
