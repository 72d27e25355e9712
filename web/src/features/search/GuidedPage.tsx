import { Button } from '@mui/material'
import { Link, useParams } from 'react-router'
import type { View } from '../../api/client'
import { useCancel } from '../../data/job'
import { useGuided, useKeepBest } from '../../data/search'
import { useStudyId } from '../../data/study'
import { count, duration, whole } from '../../ui/format'
import { figure, figured } from '../../ui/measure'
import { Head } from '../../ui/Head'
import { IntervalMark } from '../../ui/IntervalMark'
import { Loading, Trouble } from '../../ui/Trouble'
import { Climb } from './Climb'

type Guided = View<'GuidedView'>
const STAGES = ['making', 'rung 1', 'rung 2', 'rung 3', 'judging', 'done']

/** What a guided search made of the columns, how its tries climbed, and what it hands over. */
export function GuidedPage() {
  const studyId = useStudyId()
  const id = Number(useParams().searchId)
  const guided = useGuided(id)
  const cancel = useCancel()
  const keep = useKeepBest(id)
  const g = guided.data
  const runs = g?.state === 'running'
  return (
    <>
      <Head
        title={g ? `Guided search ${g.number}` : 'Guided search'}
        small={g && g.learners.join(', ').toLowerCase()}
        say={g && <Sentence guided={g} />}
      >
        {runs && (
          <Button disabled={cancel.isPending || g.jobId == null} onClick={() => g.jobId != null && cancel.mutate(g.jobId)}>
            Cancel
          </Button>
        )}
        {g && g.state !== 'done' && g.tries.length > 0 && (
          <Button variant="contained" color="primary" disabled={keep.isPending} onClick={() => keep.mutate(undefined as never)}>
            {runs ? 'Stop and keep the best' : 'Keep the best'}
          </Button>
        )}
        {g?.state === 'done' && (
          <>
            {g.variant != null && (
              <Button component={Link} to={`/study/${studyId}/preparation?variant=${g.variant}`}>
                Its steps, variant {g.variant}
              </Button>
            )}
            <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/judgment`}>
              See its finalists
            </Button>
          </>
        )}
      </Head>
      <div className="sheet fit stack" style={{ overflow: 'auto' }}>
        {guided.isPending && <Loading what="the guided search" />}
        <Trouble error={guided.error ?? cancel.error ?? keep.error} />
        {g?.failure != null && <p className="problem pad">{g.failure}</p>}
        {g && (
          <>
            <Stages guided={g} />
            {g.finals.length > 0 && <Finals guided={g} studyId={studyId} />}
            <div style={{ display: 'flex', flexWrap: 'wrap', borderTop: '1px solid var(--ink)' }}>
              <section className="pad" style={{ flex: '1 1 480px', minWidth: 0 }} aria-label="Tries">
                <Climb guided={g} />
              </section>
              <section className="pad" style={{ flex: '1 1 420px', minWidth: 0, borderLeft: '1px solid var(--rule)' }}>
                <IdeasLedger guided={g} />
              </section>
            </div>
            {g.state === 'done' && (
              <p className="pad small soft" style={{ borderTop: '1px solid var(--rule)' }}>
                Again from a file, to the last bit: <code>{g.command}</code>
              </p>
            )}
          </>
        )}
      </div>
    </>
  )
}

/** Where it stands, and why, in a sentence or two. */
function Sentence({ guided: g }: { guided: Guided }) {
  const kept = g.ideas.filter((i) => i.kept)
  const best = g.finals[0]
  if (best?.value != null)
    return (
      <>
        <b>
          {best.title} scores {figured(g.measure, best)} on {whole(g.judging)} rows that no choice had read;
        </b>{' '}
        while searching it looked like {figure(g.measure, best.searching)}.{' '}
        {kept.length > 0
          ? `Kept of ${count(g.ideas.length, 'idea')}: ${kept.map((i) => i.from).join('; ')}.`
          : 'No idea for a column earned its place.'}{' '}
        It took {duration(g.seconds)}.
      </>
    )
  const so = g.tries[0]
  return (
    <>
      <b>
        {so?.value != null
          ? `Best while searching ${figure(g.measure, so.value)}, ${so.title.toLowerCase()};`
          : 'What can be made of the columns is weighed first;'}
      </b>{' '}
      {g.minutes != null && g.state === 'running'
        ? `${duration(g.seconds)} of ${duration(60 * g.minutes)} gone.`
        : `${count(g.tries.length, 'try', 'tries')} so far.`}{' '}
      {g.state === 'running' && 'You can leave this page.'}
    </>
  )
}

/** The stages with what each held. */
function Stages({ guided: g }: { guided: Guided }) {
  const at = STAGES.indexOf(g.stage)
  const says = (i: number) => {
    if (i === 0)
      return g.ideas.length > 0 ? `${count(g.ideas.length, 'idea')}, ${g.ideas.filter((x) => x.kept).length} kept` : 'ideas for columns'
    if (i === 4) return g.finals.length > 0 ? `${g.finals.length} on ${whole(g.judging)} rows` : 'rows not read before'
    const r = g.rungs[i - 1]
    return r ? `${r.done} of ${count(r.tries, 'try', 'tries')} on ${whole(r.rows)} rows` : 'more rows, fewer tries'
  }
  return (
    <ol className="bare" style={{ display: 'flex', listStyle: 'none', borderBottom: '1px solid var(--rule)' }} aria-label="Stages">
      {STAGES.slice(0, 5).map((s, i) => (
        <li
          key={s}
          className="pad size-13"
          aria-current={i === at ? 'step' : undefined}
          style={{
            flex: 1,
            paddingBlock: 8,
            borderTop: `4px solid ${i < at ? 'var(--verdigris)' : i === at ? 'var(--brass)' : 'var(--rule)'}`,
          }}
        >
          <b>{s === 'making' ? 'Make' : s === 'judging' ? 'Judge' : s[0]!.toUpperCase() + s.slice(1)}</b>
          <br />
          <span className="soft">{says(i)}</span>
        </li>
      ))}
    </ol>
  )
}

/** The best of each learner: while searching, and on the judging part. */
function Finals({ guided: g, studyId }: { guided: Guided; studyId: number }) {
  const all = g.finals.flatMap((f) => [f.low, f.high, f.searching]).filter((v): v is number => v != null)
  const scale: [number, number] = [Math.min(...all), Math.max(...all)]
  return (
    <section className="pad" aria-label="Handed over">
      <h2 className="fig-title">
        The best of each learner, handed over as {g.finals.length === 1 ? 'a trial' : `${g.finals.length} trials`}
      </h2>
      <p className="fig-sub">
        {g.measure.name} on {whole(g.judging)} rows set aside at the start; the clear finalist may have{' '}
        {g.reading == null ? 'any length' : `at most ${g.reading} to read`}.
      </p>
      <table className="ledger" aria-label="Best of each learner">
        <thead>
          <tr>
            <th>Learner</th>
            <th className="n" style={{ width: 90 }}>
              To read
            </th>
            <th className="n" style={{ width: 110 }}>
              While searching
            </th>
            <th className="n" style={{ width: 130 }}>
              On the judging part
            </th>
            <th className="mark" style={{ width: 190 }}>
              <span className="sr">Interval, drawn</span>
            </th>
            <th style={{ width: 80 }}>Trial</th>
          </tr>
        </thead>
        <tbody>
          {g.finals.map((f, i) => (
            <tr key={f.learner} className={i === 0 ? 'sel' : ''}>
              <td className="nm">{f.title}</td>
              <td className="n">
                {f.reading == null ? 'cannot' : whole(f.reading)}
                {f.reading != null && g.reading != null && f.reading > g.reading && <span className="soft"> too long</span>}
              </td>
              <td className="n soft">{figure(g.measure, f.searching)}</td>
              <td className="n">
                <b>{figured(g.measure, f)}</b>
              </td>
              <td className="mark">
                <IntervalMark value={f.value} low={f.low} high={f.high} scale={scale} width={180} />
              </td>
              <td>
                {f.trialId != null && (
                  <Link to={`/study/${studyId}/judgment/${f.trialId}`}>{f.trialNumber != null ? `trial ${f.trialNumber}` : 'trial'}</Link>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

/** What might have been made of the columns, with what each gained. */
function IdeasLedger({ guided: g }: { guided: Guided }) {
  const kept = g.ideas.filter((i) => i.kept).length
  const all = g.ideas.flatMap((i) => [i.low, i.high, 0]).filter((v): v is number => v != null)
  const scale: [number, number] = all.length > 1 ? [Math.min(...all), Math.max(...all)] : [-0.01, 0.01]
  return (
    <>
      <h2 className="fig-title">
        {g.ideas.length === 0
          ? 'Ideas for columns are being weighed'
          : kept === 0
            ? `None of ${count(g.ideas.length, 'idea')} earned its place`
            : `${kept} of ${count(g.ideas.length, 'idea')} ${kept === 1 ? 'earns its' : 'earn their'} place`}
      </h2>
      <p className="fig-sub">
        Gain of {g.measure.name} on the same folds, in company of those kept before. Kept when the whole interval, for all ideas at once,
        lies above nothing.
      </p>
      {g.ideas.length > 0 && (
        <table className="ledger" aria-label="Made features">
          <thead>
            <tr>
              <th>From</th>
              <th className="n" style={{ width: 74 }}>
                Gain
              </th>
              <th className="mark" style={{ width: 132 }}>
                <span className="sr">Interval, drawn</span>
              </th>
              <th style={{ width: 92 }}>Verdict</th>
            </tr>
          </thead>
          <tbody>
            {g.ideas.map((i) => (
              <tr key={i.name} className={i.kept ? 'sel' : ''}>
                <td className="many-lines" title={i.name}>
                  {i.from}
                  {i.for !== 'all learners' && <span className="soft small"> for {i.for}</span>}
                </td>
                <td className="n">{i.gain == null ? '–' : `${i.gain > 0 ? '+' : ''}${figure(g.measure, i.gain)}`}</td>
                <td className="mark">
                  <IntervalMark value={i.gain} low={i.low} high={i.high} scale={scale} width={124} tone={i.kept ? 'verdigris' : 'brass'} />
                </td>
                <td className={i.kept ? 'verd' : 'soft'}>{i.kept ? 'kept' : (i.why ?? 'thrown away')}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  )
}
