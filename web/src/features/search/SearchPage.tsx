import { Button } from '@mui/material'
import { Link, useParams } from 'react-router'
import { useCancel, useJob } from '../../data/job'
import { type Search, useGoOn, useKeepBest, useSearch } from '../../data/search'
import { useStudyId } from '../../data/study'
import { count, duration, whole } from '../../ui/format'
import { figure, figured } from '../../ui/measure'
import { Head } from '../../ui/Head'
import { Note } from '../../ui/Note'
import { useNotes } from '../../ui/notes'
import { Loading, Trouble } from '../../ui/Trouble'
import { SettingMap } from './SettingMap'
import { SettingParts } from './SettingParts'
import { Tries } from './Tries'

/** What a search tried, what each setting did, and the best with its luck taken out. */
export function SearchPage() {
  const studyId = useStudyId()
  const id = Number(useParams().searchId)
  const search = useSearch(id)
  const s = search.data
  const job = useJob(s?.jobId ?? null)
  const cancel = useCancel()
  const goOn = useGoOn(id)
  const keep = useKeepBest(id)
  const runs = s?.jobId != null
  const edges = (s?.effects ?? []).filter((e) => e.edge !== 0)
  useNotes(
    edges.length + (s?.luck != null ? 1 : 0) + (s && s.failed > 0 ? 1 : 0),
    <>
      {edges.map((e) => (
        <Note key={e.name} title={`The best ${e.label.toLowerCase()} lies at the edge`}>
          It is the {e.edge > 0 ? 'highest' : 'lowest'} that was tried. What lies beyond is not known: widen the range.
        </Note>
      ))}
      {s?.luck != null && (
        <Note title={`Luck was worth ${figure(s.measure, s.luck)}`}>
          The best of {whole(s.done - s.failed)} is partly the luckiest. Rows were drawn again, the best chosen on them, and judged on those
          left out: only that figure enters the Standings.
        </Note>
      )}
      {s && s.failed > 0 && <Note title={`${count(s.failed, 'setting')} could not be fitted`}>{s.failures[0]?.why ?? ''}</Note>}
    </>,
    `search ${id} ${edges.length} ${s?.luck} ${s?.failed}`,
  )
  return (
    <>
      <Head
        title={s ? `Search ${s.number}` : 'Search'}
        small={s && `${[...new Set(s.best.map((t) => t.title))].join(', ').toLowerCase() || 'begun'}, ${s.way}${s.stale ? ', stale' : ''}`}
        say={s && <Sentence search={s} />}
      >
        <Button component={Link} to={`/study/${studyId}/trials`}>
          Plan trials
        </Button>
        {runs ? (
          <>
            <Button disabled={cancel.isPending} onClick={() => s.jobId != null && cancel.mutate(s.jobId)}>
              Stop
            </Button>
            <Button
              variant="contained"
              color="primary"
              disabled={keep.isPending || s.best.length === 0}
              onClick={() => keep.mutate(undefined as never)}
            >
              Stop and keep the best
            </Button>
          </>
        ) : (
          s && (
            <>
              {s.done < s.tries && !s.stale && (
                <Button disabled={goOn.isPending} onClick={() => goOn.mutate(0)}>
                  Go on, {whole(s.tries - s.done)} left
                </Button>
              )}
              {s.way !== 'all combinations' && !s.stale && s.done >= s.tries && (
                <Button disabled={goOn.isPending} onClick={() => goOn.mutate(20)}>
                  20 more
                </Button>
              )}
              {s.state === 'stopped' && s.best.length > 0 && (
                <Button variant="contained" color="primary" disabled={keep.isPending} onClick={() => keep.mutate(undefined as never)}>
                  Keep the best
                </Button>
              )}
              {s.trialId != null && (
                <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/judgment`}>
                  See it in the Standings
                </Button>
              )}
            </>
          )
        )}
      </Head>
      <div className="sheet fit stack">
        {search.isPending && <Loading what="the search" />}
        <Trouble
          error={search.error ?? cancel.error ?? goOn.error ?? keep.error}
          {...(search.error ? { onRetry: () => void search.refetch() } : {})}
        />
        {s?.failure != null && <p className="problem pad">{s.failure}</p>}
        {s && runs && (
          <div role="status" className="pad" style={{ borderBottom: '1px solid var(--rule)' }}>
            <b>
              {whole(s.done)} of {whole(s.tries)} settings weighed
            </b>
            {job.data?.secondsLeft != null && `, about ${duration(job.data.secondsLeft)} left`}. You can leave this page.
            <div style={{ height: 4, background: 'var(--rule)', marginTop: 6 }}>
              <div style={{ height: 4, width: `${(100 * s.done) / Math.max(1, s.tries)}%`, background: 'var(--verdigris)' }} />
            </div>
          </div>
        )}
        {s && s.best.length > 0 && (
          <>
            <div style={{ display: 'flex', flex: '1 1 0', minHeight: 260, overflow: 'hidden' }}>
              <section className="col pad" style={{ flex: '2 1 520px', minWidth: 0, overflow: 'auto' }}>
                <Tries search={s} />
              </section>
              {s.map && (
                <section className="col pad half">
                  <SettingMap map={s.map} measure={s.measure} />
                </section>
              )}
            </div>
            {s.effects.length > 0 && <SettingParts search={s} studyId={studyId} />}
          </>
        )}
        {s && s.best.length === 0 && !runs && (
          <div className="empty">
            <h2>No setting has been weighed</h2>
            <p>{s.failures[0]?.why ?? 'The search was stopped before its first setting was through.'}</p>
          </div>
        )}
      </div>
    </>
  )
}

/** Where the search stands, in a sentence. */
function Sentence({ search: s }: { search: Search }) {
  if (s.value != null)
    return (
      <>
        <b>
          The best of {whole(s.done - s.failed)} settings scores {figured(s.measure, s)} with its luck taken out;
        </b>{' '}
        while searching it looked like {figure(s.measure, s.searching)}. {s.trialNumber != null && `It is now trial ${s.trialNumber}. `}
        The fits took {duration(s.seconds)} together.
      </>
    )
  if (s.searching != null)
    return (
      <>
        <b>
          Best while searching {figure(s.measure, s.searching)}, of {whole(s.done)} settings;
        </b>{' '}
        that figure holds luck, and does not rank.
      </>
    )
  return <>{whole(s.tries)} settings are to be weighed.</>
}
