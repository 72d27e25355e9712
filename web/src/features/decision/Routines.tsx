import { Link } from 'react-router'
import { useRoutine, useRoutines } from '../../data/decision'
import { date, time } from '../../ui/format'
import { Trouble } from '../../ui/Trouble'

/** The routines of a study with what their last runs came to; one press does one again. */
export function Routines({ studyId }: { studyId: number }) {
  const routines = useRoutines(studyId)
  const { run, remove } = useRoutine(studyId)
  const all = routines.data ?? []
  if (all.length === 0) return null
  return (
    <section className="below-8">
      <h2 className="fig-title">{all.length === 1 ? 'A routine' : `${all.length} routines`}</h2>
      {all.map((r) => (
        <div key={r.id} className="note" style={{ margin: '6px 0' }}>
          <p>
            <b>{r.name}</b>: {r.table} with trial {r.trialNumber}, {r.when}
            {r.nextAt != null && `, next ${date(r.nextAt)} ${time(r.nextAt)}`}.
          </p>
          {r.says !== '' && (
            <p className={r.failed ? 'brass' : 'soft'}>
              {r.lastAt != null && `${date(r.lastAt)} ${time(r.lastAt)}: `}
              {r.says}{' '}
              {!r.failed && r.decisionId != null && (
                <Link to={`/study/${studyId}/decisions/${r.scoringId}/list/${r.decisionId}`}>The list</Link>
              )}{' '}
              {!r.failed && r.tableId != null && <Link to={`/study/${studyId}/table/${r.tableId}`}>The table</Link>}
            </p>
          )}
          {r.warnings.map((w) => (
            <p key={w} className="brass small">
              {w}
            </p>
          ))}
          <p className="small apart">
            <button type="button" className="link" disabled={r.jobId != null || run.isPending} onClick={() => run.mutate(r.id)}>
              {r.jobId != null ? 'Running…' : 'Run now'}
            </button>{' '}
            <button type="button" className="link" disabled={r.jobId != null} onClick={() => remove.mutate(r.id)}>
              Remove
            </button>
          </p>
        </div>
      ))}
      <Trouble error={run.error ?? remove.error} />
    </section>
  )
}
