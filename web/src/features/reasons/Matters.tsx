import { Button } from '@mui/material'
import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import type { Judgment } from '../../data/judgment'
import { useJudgment } from '../../data/judgment'
import { type MatterLine, useEffectOf, useLook, useMatters } from '../../data/reasons'
import { useStudy, useStudyId } from '../../data/study'
import { Reduce } from '../../sections/Reduce'
import { weakWhenShuffled } from '../../sections/weak'
import { useAddress } from '../../ui/address'
import { count, number, share, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { IntervalMark } from '../../ui/IntervalMark'
import { bestOf, figure, ofTask } from '../../ui/measure'
import { Note } from '../../ui/Note'
import { useNotes } from '../../ui/notes'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'
import { ByTrial } from './ByTrial'
import { EffectOf } from './EffectOf'
import { PairsOf } from './PairsOf'
import { Spread } from './Spread'
import { StandIns } from './StandIns'

/** What matters over all records: which columns carry the answers, how each bends them, what acts together. */
export function Matters() {
  const studyId = useStudyId()
  const study = useStudy(studyId)
  const [params, set] = useAddress()
  const done = ofTask(study.data?.trials ?? [], study.data?.task ?? 'two classes').filter((t) => t.state === 'done')
  const best = bestOf(done)
  const trialId = params.has('trial') ? Number(params.get('trial')) : (best?.id ?? null)
  const name = params.get('class')
  const matters = useMatters(trialId, name)
  const judgment = useJudgment(trialId)
  const data = matters.data
  const look = useLook(trialId, name)
  const { mutate } = look
  const waits = data?.pending === true && data.jobId == null
  useEffect(() => {
    if (waits) mutate()
  }, [waits, mutate, trialId, name])
  const first = data?.columns[0]?.column ?? null
  const column = params.get('column') ?? data?.columns.find((c) => c.goes !== 'by its words')?.column ?? first
  const records = params.get('records') ?? ''
  const effect = useEffectOf(trialId, column, name, records)
  const [naming, setNaming] = useState('')
  useNotes(
    1 + (effect.data?.warns ? 1 : 0),
    <>
      {effect.data?.warns && <Note title="The two curves disagree">{effect.data.warns}</Note>}
      <Note title="An effect in a model is no cause">
        What raises an answer need not raise what happens: the column may go along with what does. Try changes in the world before you rely
        on them. Columns that go together share what they carry: shuffling one leaves the other.
      </Note>
    </>,
    `matters ${trialId} ${column} ${effect.data?.warns != null}`,
  )
  if (study.data && trialId === null)
    return (
      <>
        <Head title="Reasons" say="There is no fitted trial yet." />
        <div className="sheet fit">
          <div className="empty">
            <h2>Here a model says why</h2>
            <p>What matters over all records, why one record has its answer, and what would change it. Fit a trial first.</p>
            <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/trials`}>
              Plan a trial
            </Button>
          </div>
        </div>
      </>
    )
  const isNumber = data?.trial.task === 'number'
  const what = data?.class != null ? `Chance of “${data.class}”` : `Chance of “${data?.event ?? ''}”`
  return (
    <>
      <Head
        title="What matters"
        small={data && `${data.trial.title.toLowerCase()}, ${count(data.trial.columns, 'column')}, over ${whole(data.rows)} records`}
        say={
          data &&
          !data.pending && (
            <>
              <b>
                {data.carry === 0
                  ? 'No single column can be told from noise.'
                  : `${count(data.carry, 'column carries', 'columns carry')} ${share(data.carried, 0)} of it, ${data.columns
                      .slice(0, Math.min(2, data.carry))
                      .map((c) => c.column)
                      .join(' and ')} first.`}
              </b>{' '}
              {data.classes.length > 0 && (
                <>
                  Of{' '}
                  <Slot
                    label="Class"
                    value={data.class ?? ''}
                    choices={data.classes.map((c) => ({ value: c, label: c }))}
                    onChange={(c) => set({ class: c })}
                  />
                  .
                </>
              )}
            </>
          )
        }
      >
        {done.length > 1 && trialId !== null && <ByTrial trialId={trialId} trials={done} onChange={(trial) => set({ trial })} />}
        <Button component={Link} to={`/study/${studyId}/reasons?trial=${trialId}&record=1`}>
          One record
        </Button>
        <Button component={Link} to={`/study/${studyId}/reasons?trial=${trialId}&record=0`}>
          Imagine one
        </Button>
      </Head>
      <div className="sheet stack">
        {matters.isPending && <Loading what="what matters" />}
        <Trouble error={matters.error} onRetry={() => void matters.refetch()} />
        <Trouble known error={look.error} />
        {data?.pending && <Loading what="many answers, to see what matters" />}
        {data && !data.pending && (
          <>
            <div className="parts-row">
              <section className="pad" style={{ flex: '1 1 400px', minWidth: 0 }} aria-label="Columns">
                <Columns lines={data.columns} data={data} selected={column} onSelect={(c) => set({ column: c })} />
                {judgment.data && <ReduceHere judgment={judgment.data} studyId={studyId} />}
              </section>
              <section className="pad" style={{ flex: '0 1 532px', borderLeft: '1px solid var(--rule)' }} aria-label="Effect of a column">
                <Trouble known error={effect.error} />
                {effect.data && (
                  <EffectOf effect={effect.data} isNumber={isNumber} target={data.target} what={what} trialNumber={data.trial.number} />
                )}
                <form
                  className="above-4 size-13"
                  onSubmit={(e) => {
                    e.preventDefault()
                    const n = Number(naming.replace(/\D/g, ''))
                    if (n > 0) set({ records: [...new Set([...records.split(',').filter(Boolean), String(n)])].slice(-5).join(',') })
                    setNaming('')
                  }}
                >
                  <label>
                    Name a record <input value={naming} onChange={(e) => setNaming(e.target.value)} inputMode="numeric" className="lined" />
                  </label>{' '}
                  {records !== '' && (
                    <button type="button" className="link" onClick={() => set({ records: null })}>
                      Name none
                    </button>
                  )}
                </form>
              </section>
            </div>
            <div className="parts-row">
              <section className="pad" style={{ flex: '1 1 420px' }} aria-label="Spread of effects">
                <Spread data={data} />
              </section>
              <section className="pad" style={{ flex: '1 1 420px', borderLeft: '1px solid var(--rule)' }} aria-label="Pairs">
                <PairsOf trialId={trialId} name={name} isNumber={isNumber} />
              </section>
            </div>
            <StandIns trialId={trialId} name={name} />
          </>
        )}
      </div>
    </>
  )
}

function ReduceHere({ judgment, studyId }: { judgment: Judgment; studyId: number }) {
  return (
    <Reduce
      judgment={judgment}
      studyId={studyId}
      weak={weakWhenShuffled(judgment)}
      says="Shuffling these columns cost nothing that can be told from noise."
      head={`${judgment.trial.measure.name} lost when shuffled`}
    />
  )
}

function Columns({
  lines,
  data,
  selected,
  onSelect,
}: {
  lines: MatterLine[]
  data: NonNullable<ReturnType<typeof useMatters>['data']>
  selected: string | null
  onSelect: (column: string) => void
}) {
  const { measure } = data.trial
  const isNumber = data.trial.task === 'number'
  const reach = Math.max(1e-9, ...lines.map((l) => l.high ?? l.lost ?? 0))
  const clear = (l: MatterLine) => (l.low ?? 0) > 0
  const inModel = lines.some((l) => l.inModel != null)
  return (
    <>
      <h2 className="fig-title">
        {data.carry} of {count(lines.length, 'column')} {data.carry === 1 ? 'carries' : 'carry'} it
        {lines.length > data.carry ? `; ${lines.length - data.carry} could go` : ''}
      </h2>
      <p className="fig-sub">
        Lost: {measure.name} when the column is shuffled, on rows the judged models had not seen, 95%. Moves: mean size of its effect on
        single answers, {isNumber ? `in units of ${data.target}` : 'in points'}.
        {inModel && ' Own: share of the importance the model gives it.'}
      </p>
      <table className="ledger" aria-label="What each column matters">
        <thead>
          <tr>
            <th>Column</th>
            <th className="n" style={{ width: 54 }}>
              Lost
            </th>
            <th className="mark" style={{ width: 62 }}>
              <span className="sr">Interval, drawn</span>
            </th>
            <th className="n" style={{ width: 50 }}>
              Moves
            </th>
            {inModel && (
              <th className="n" style={{ width: 44 }} title="Share of the model’s own importance">
                Own
              </th>
            )}
            <th style={{ width: 96 }}>{isNumber ? 'It goes' : 'Chance goes'}</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((l) => (
            <tr key={l.column} className={selected === l.column ? 'sel' : clear(l) ? '' : 'aside'}>
              <td className="nm clipped">
                <button
                  type="button"
                  className="link"
                  aria-pressed={selected === l.column}
                  title={l.column}
                  onClick={() => onSelect(l.column)}
                >
                  {l.column}
                </button>
              </td>
              <td className="n">{l.lost == null ? '–' : figure(measure, l.lost)}</td>
              <td className="mark">
                <IntervalMark
                  value={l.lost}
                  low={l.low}
                  high={l.high}
                  scale={[-reach / 4, reach]}
                  width={58}
                  reference={0}
                  tone={clear(l) ? 'verdigris' : 'soft'}
                />
              </td>
              <td className="n">{isNumber ? number(l.moves, 3) : (100 * l.moves).toFixed(1)}</td>
              {inModel && <td className="n">{share(l.inModel, 0)}</td>}
              <td className="small clipped" title={l.goes}>
                {l.goes}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}
