import { Button } from '@mui/material'
import { useState } from 'react'
import { Link } from 'react-router'
import { useAddress } from '../../ui/address'
import { number, share, whole } from '../../ui/format'
import { bestOf, ofTask } from '../../ui/measure'
import { Head } from '../../ui/Head'
import { Loading, Trouble } from '../../ui/Trouble'
import { useStudy, useStudyId } from '../../data/study'
import { type Reasons, useReasons } from '../../data/reasons'
import { Account, plain } from './Account'
import { Alike, HowSure, Near } from './Around'
import { ByTrial } from './ByTrial'
import { Imagine } from './Imagine'
import { RecordsBeside } from './RecordsBeside'

/** Why this record gets its chance: what lowers and what raises it, as an account that adds up. */
export function Record() {
  const studyId = useStudyId()
  const study = useStudy(studyId)
  const [params, set] = useAddress()
  const done = ofTask(study.data?.trials ?? [], study.data?.task ?? 'two classes').filter((t) => t.state === 'done')
  const best = bestOf(done)
  const scoringId = params.has('batch') ? Number(params.get('batch')) : null
  const trialId = params.has('trial') ? Number(params.get('trial')) : (best?.id ?? null)
  const place = Math.max(scoringId === null ? 0 : 1, Number(params.get('record') ?? 1))
  const source = scoringId !== null ? { scoringId } : trialId !== null ? { trialId } : null
  const reasons = useReasons(source, place)
  const [jump, setJump] = useState('')
  const data = reasons.data

  if (study.data && source === null)
    return (
      <>
        <Head title="Reasons" say="There is no fitted trial yet." />
        <div className="sheet fit">
          <div className="empty">
            <h2>Here a model says why</h2>
            <p>For each record, what raises its answer and what lowers it, against the average record. Fit a trial first.</p>
            <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/trials`}>
              Plan a trial
            </Button>
          </div>
        </div>
      </>
    )

  const ratio = data?.chance != null && data.baseRate > 0 ? data.chance / data.baseRate : null
  return (
    <>
      <Head
        title={place === 0 ? 'An imagined record' : `Record ${whole(place)}`}
        small={data && `${scoringId !== null ? 'of the scored batch' : 'of the study’s table'}, by trial ${data.trialNumber}`}
        say={
          data &&
          (data.why != null ? (
            <b>{data.why}</b>
          ) : data.task === 'number' ? (
            <>
              <b>
                {data.target} {number(data.answer)}
              </b>
              {`, against ${number(data.baseRate)} on average.`}
              {data.sealed && ' This row is sealed: its outcome is not shown.'}
            </>
          ) : data.task === 'several classes' ? (
            <>
              <b>
                {data.class}, {whole(100 * (data.chance ?? 0))} in 100
              </b>
              {`, the likeliest of ${data.shares.length} classes.`}
              {data.sealed && ' This row is sealed: its outcome is not shown.'}
            </>
          ) : (
            <>
              <b>
                {whole(100 * (data.chance ?? 0))} in 100 chance of “{data.event}”
              </b>{' '}
              {data.sure?.share?.low != null &&
                `(${whole(100 * data.sure.share.low)} to ${whole(100 * (data.sure.share.high ?? 0))} came among similar)`}
              {ratio !== null &&
                `, ${ratio >= 1.15 || ratio <= 0.87 ? `${ratio.toFixed(1)} times` : 'about'} the average of ${share(data.baseRate)}`}
              .{data.sealed && ' This row is sealed: its outcome is not shown.'}
            </>
          ))
        }
      >
        {done.length > 1 && scoringId === null && trialId !== null && (
          <ByTrial trialId={trialId} trials={done} onChange={(trial) => set({ trial })} />
        )}
        <Button disabled={place <= (scoringId === null ? 0 : 1)} onClick={() => set({ record: String(place - 1) })}>
          Previous
        </Button>
        <Button disabled={data !== undefined && place >= data.rows} onClick={() => set({ record: String(place + 1) })}>
          Next
        </Button>
        <form
          onSubmit={(e) => {
            e.preventDefault()
            const n = Number(jump.replace(/\D/g, ''))
            if (n > 0) set({ record: String(n) })
          }}
        >
          <label className="small">
            Go to{' '}
            <input value={jump} onChange={(e) => setJump(e.target.value)} inputMode="numeric" aria-label="Go to record" className="lined" />
          </label>
        </form>
      </Head>
      <div className="sheet stack">
        <div className="split" style={{ display: 'flex' }}>
          {reasons.isPending && <Loading what="the reasons" />}
          <div style={{ padding: reasons.error ? 16 : 0 }}>
            <Trouble error={reasons.error} />
          </div>
          {data && !reasons.error && (
            <>
              <section
                className="col"
                style={{ flex: '1 1 560px', minWidth: 0, padding: '12px 16px' }}
                tabIndex={0}
                role="region"
                aria-label="The account"
              >
                <Sentence reasons={data} />
                <Account reasons={data} />
              </section>
              <section
                className="col"
                style={{ width: 330, flex: 'none', padding: '10px 14px', maxHeight: 620, overflowY: 'auto', overflowX: 'hidden' }}
                tabIndex={0}
                role="region"
                aria-label="The record"
              >
                {data.shares.length > 0 && <Shares reasons={data} />}
                <HowSure reasons={data} />
                <Alike reasons={data} studyId={studyId} />
                {scoringId === null && place > 0 && <Near trialId={trialId} record={place} isNumber={data.task === 'number'} />}
                {data.made.length > 0 && <Made made={data.made} />}
                <h2 className="fig-title above-8">As it came</h2>
                <dl className="facts single">
                  {Object.entries(data.record as { [k: string]: string | null })
                    .filter(([name]) => !(data.sealed && name === study.data?.target))
                    .map(([name, cell]) => (
                      <div key={name}>
                        <dt>{name}</dt>
                        <dd
                          style={{ textAlign: 'right', overflowWrap: 'anywhere', paddingLeft: 10 }}
                          className={cell == null ? 'brass' : ''}
                        >
                          {cell ?? '– missing'}
                        </dd>
                      </div>
                    ))}
                </dl>
              </section>
            </>
          )}
        </div>
        {data && !reasons.error && source && place > 0 && data.number === place && (
          <RecordsBeside source={source} record={place} reasons={data} />
        )}
        {data && !reasons.error && source && data.why == null && (
          <Imagine key={`${JSON.stringify(source)} ${place}`} source={source} record={place} reasons={data} />
        )}
      </div>
    </>
  )
}

/** The same, a long text cut. */
const brief = (c: { column: string; value?: string | null }) => (plain(c).length > 60 ? `${plain(c).slice(0, 58)}…` : plain(c))

function Sentence({ reasons }: { reasons: Reasons }) {
  const columns = reasons.account?.columns ?? []
  const least = 0.04 * Math.max(0, ...columns.map((c) => Math.abs(c.effect)))
  const raising = columns.filter((c) => c.effect > least).slice(0, 4)
  const lowering = columns.filter((c) => c.effect < -least).slice(0, 3)
  if (reasons.why != null || raising.length + lowering.length === 0) return null
  const list = (cs: typeof raising, color: string) =>
    cs.map((c, i) => (
      <span key={c.column}>
        {i > 0 && (i === cs.length - 1 ? ' and ' : ', ')}
        <b style={{ color }}>{brief(c)}</b>
      </span>
    ))
  return (
    <p className="sentence below-8">
      {raising.length > 0 && (
        <>
          {reasons.task === 'number' ? `${reasons.target} is raised by` : `For “${reasons.account?.class ?? reasons.event}” speak`}{' '}
          {list(raising, '#8A5716')}.{' '}
        </>
      )}
      {lowering.length > 0 && (
        <>
          {reasons.task === 'number' ? 'It is lowered by' : 'Against it'} {list(lowering, '#3A547A')}.
        </>
      )}
      {reasons.path != null && <span className="soft"> It comes to this answer by {reasons.path}.</span>}
    </p>
  )
}

/** What preparation made of the record before the model read it. */
function Made({ made }: { made: Reasons['made'] }) {
  return (
    <details className="above-8">
      <summary className="pressable size-13">
        As the model read it: <b>{whole(made.length)}</b> {made.length === 1 ? 'column' : 'columns'} made or changed
      </summary>
      <dl className="facts single">
        {made.map((m) => (
          <div key={m.column} title={`made of ${m.from.join(', ')}`}>
            <dt>
              {m.column} {m.from.length > 0 && m.from.join() !== m.column && <span className="soft">of {m.from.join(', ')}</span>}
            </dt>
            <dd style={{ textAlign: 'right', overflowWrap: 'anywhere', paddingLeft: 10 }}>{m.value ?? '– missing'}</dd>
          </div>
        ))}
      </dl>
    </details>
  )
}

/** The chances of all classes, the likeliest first. */
function Shares({ reasons }: { reasons: Reasons }) {
  return (
    <>
      <h2 className="fig-title">Chances of all classes</h2>
      <dl className="facts single">
        {[...reasons.shares]
          .sort((a, b) => b.chance - a.chance)
          .map((c) => (
            <div key={c.name}>
              <dt>{c.name}</dt>
              <dd>{share(c.chance)}</dd>
            </div>
          ))}
      </dl>
    </>
  )
}
