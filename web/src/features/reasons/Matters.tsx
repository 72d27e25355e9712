import { Button } from '@mui/material'
import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import type { Judgment } from '../../data/judgment'
import { useJudgment } from '../../data/judgment'
import { useEffectOf, useLook, useMatters } from '../../data/reasons'
import { useStudy, useStudyId } from '../../data/study'
import { Reduce } from '../../sections/Reduce'
import { weakWhenShuffled } from '../../sections/weak'
import { useAddress } from '../../ui/address'
import { count, share, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { bestOf, ofTask } from '../../ui/measure'
import { Note } from '../../ui/Note'
import { useNotes } from '../../ui/notes'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'
import { ByTrial } from './ByTrial'
import { ColumnsOf } from './ColumnsOf'
import { EffectOf } from './EffectOf'
import { PairsOf } from './PairsOf'
import { Spread } from './Spread'
import { StandIns } from './StandIns'
import { WordsOf } from './WordsOf'

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
  const byWords = data?.columns.find((c) => c.column === column)?.goes === 'by its words'
  const effect = useEffectOf(trialId, data === undefined || byWords ? null : column, name, records)
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
                <ColumnsOf key={data.trial.id} data={data} selected={column} onSelect={(c) => set({ column: c })} />
                {judgment.data && <ReduceHere judgment={judgment.data} studyId={studyId} />}
              </section>
              <section className="pad" style={{ flex: '0 1 532px', borderLeft: '1px solid var(--rule)' }} aria-label="Effect of a column">
                {byWords && column !== null && trialId !== null && (
                  <WordsOf trialId={trialId} column={column} name={name} isNumber={isNumber} />
                )}
                <Trouble known error={byWords ? null : effect.error} />
                {!byWords && effect.data && (
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
            <StandIns trialId={trialId} name={name} isNumber={isNumber} studyId={studyId} />
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
