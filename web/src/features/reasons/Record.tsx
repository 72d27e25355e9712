import { Button } from '@mui/material'
import { useState } from 'react'
import { Link } from 'react-router'
import { useAddress } from '../../ui/address'
import { fixed, number, share, whole } from '../../ui/format'
import { bestOf, ofTask } from '../../ui/measure'
import { Head } from '../../ui/Head'
import { IntervalMark } from '../../ui/IntervalMark'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'
import { useStudy, useStudyId } from '../../data/study'
import { type Reasons, useReasons } from '../../data/reasons'

/** Why this record gets its chance: what lowers and what raises it, as an account that adds up. */
export function Record() {
  const studyId = useStudyId()
  const study = useStudy(studyId)
  const [params, set] = useAddress()
  const done = ofTask(study.data?.trials ?? [], study.data?.task ?? 'two classes').filter((t) => t.state === 'done')
  const best = bestOf(done)
  const scoringId = params.has('batch') ? Number(params.get('batch')) : null
  const trialId = params.has('trial') ? Number(params.get('trial')) : (best?.id ?? null)
  const place = Math.max(1, Number(params.get('record') ?? 1))
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
        title={`Record ${whole(place)}`}
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
              {data.low != null && `(coefficients’ uncertainty alone: ${whole(100 * data.low)} to ${whole(100 * (data.high ?? 0))})`}
              {ratio !== null &&
                `, ${ratio >= 1.15 || ratio <= 0.87 ? `${ratio.toFixed(1)} times` : 'about'} the average of ${share(data.baseRate)}`}
              .{data.sealed && ' This row is sealed: its outcome is not shown.'}
            </>
          ))
        }
      >
        {done.length > 1 && scoringId === null && trialId !== null && (
          <span className="small">
            By{' '}
            <Slot
              label="Trial"
              value={String(trialId)}
              choices={done.map((t) => ({ value: String(t.id), label: `trial ${t.number}`, effect: t.title }))}
              onChange={(v) => set({ trial: v })}
            />
          </span>
        )}
        <Button disabled={place <= 1} onClick={() => set({ record: String(place - 1) })}>
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
            <input
              value={jump}
              onChange={(e) => setJump(e.target.value)}
              inputMode="numeric"
              aria-label="Go to record"
              style={{ width: 70, border: 0, borderBottom: '1px solid var(--ink)', background: 'none' }}
            />
          </label>
        </form>
      </Head>
      <div className="sheet fit split">
        {reasons.isPending && <Loading what="the reasons" />}
        <div style={{ padding: reasons.error ? 16 : 0 }}>
          <Trouble error={reasons.error} />
        </div>
        {data && !reasons.error && (
          <>
            <section
              className="col"
              style={{ flex: 1, overflow: 'auto', padding: '12px 16px' }}
              tabIndex={0}
              role="region"
              aria-label="The account"
            >
              <Sentence reasons={data} />
              <Account reasons={data} />
            </section>
            <section
              className="col"
              style={{ width: 330, overflow: 'auto', padding: '10px 14px' }}
              tabIndex={0}
              role="region"
              aria-label="The record"
            >
              {data.shares.length > 0 && <Shares reasons={data} />}
              {data.chance != null && data.task === 'two classes' && (
                <>
                  <h2 className="fig-title">Where it stands</h2>
                  <p className="fig-sub">The chance, and the average of {share(data.baseRate)} as the dashed line.</p>
                  <div style={{ flex: 'none' }}>
                    <IntervalMark
                      value={data.chance}
                      low={data.low}
                      high={data.high}
                      scale={[0, 1]}
                      width={296}
                      height={34}
                      tone="verdigris"
                      reference={data.baseRate}
                    />
                  </div>
                  <p className="small soft" style={{ display: 'flex', justifyContent: 'space-between', width: 296 }}>
                    <span>0%</span>
                    <span>50%</span>
                    <span>100%</span>
                  </p>
                </>
              )}
              <h2 className="fig-title above-8">As it came</h2>
              <dl className="facts" style={{ gridTemplateColumns: '1fr' }}>
                {Object.entries(data.record as { [k: string]: string | null })
                  .filter(([name]) => !(data.sealed && name === study.data?.target))
                  .map(([name, cell]) => (
                    <div key={name}>
                      <dt>{name}</dt>
                      <dd style={{ textAlign: 'right', overflowWrap: 'anywhere', paddingLeft: 10 }} className={cell == null ? 'brass' : ''}>
                        {cell ?? '– missing'}
                      </dd>
                    </div>
                  ))}
              </dl>
            </section>
          </>
        )}
      </div>
    </>
  )
}

const plain = (c: { column: string; value?: string | null }) => `${c.column.replaceAll('_', ' ')} ${c.value ?? 'missing'}`

function Sentence({ reasons }: { reasons: Reasons }) {
  const least = reasons.task === 'number' ? 0.02 * Math.max(...reasons.contributions.map((c) => Math.abs(c.effect)), 0) : 0.05
  const raising = reasons.contributions.filter((c) => c.effect > least).slice(0, 4)
  const lowering = reasons.contributions.filter((c) => c.effect < -least).slice(0, 3)
  if (reasons.path != null && reasons.why == null)
    return (
      <p className="sentence below-8">
        It comes to this answer by <b>{reasons.path}</b>.
      </p>
    )
  if (reasons.why != null || raising.length + lowering.length === 0) return null
  const list = (cs: typeof raising, color: string) =>
    cs.map((c, i) => (
      <span key={c.column}>
        {i > 0 && (i === cs.length - 1 ? ' and ' : ', ')}
        <b style={{ color }}>{plain(c)}</b>
      </span>
    ))
  return (
    <p className="sentence below-8">
      {raising.length > 0 && (
        <>
          {reasons.task === 'number' ? `${reasons.target} is raised by` : `For “${reasons.event}” speak`} {list(raising, '#8A5716')}.{' '}
        </>
      )}
      {lowering.length > 0 && (
        <>
          {reasons.task === 'number' ? 'It is lowered by' : 'Against it'} {list(lowering, '#3A547A')}.
        </>
      )}
    </p>
  )
}

/** Lowers and raises as two columns of an account; the sums close it. */
function Account({ reasons }: { reasons: Reasons }) {
  if (reasons.why != null)
    return (
      <p className="soft">A record with a missing value that no step fills gets no answer. Fill the column in Preparation and fit again.</p>
    )
  const isNumber = reasons.task === 'number'
  const largest = Math.max(0, ...reasons.contributions.map((c) => Math.abs(c.effect)))
  const shown = reasons.contributions.filter((c) => Math.abs(c.effect) >= (isNumber ? 0.005 * largest : 0.005))
  const said = (v: number | null | undefined) => (isNumber ? number(v, 3) : fixed(v, 2))
  const most = Math.max(isNumber ? 1e-300 : 0.2, ...shown.map((c) => Math.abs(c.effect)))
  const lower = shown.filter((c) => c.effect < 0).reduce((s, c) => s + c.effect, 0)
  const raise = shown.filter((c) => c.effect > 0).reduce((s, c) => s + c.effect, 0)
  const base = reasons.base ?? 0
  const total = (isNumber ? reasons.answer : reasons.logOdds) ?? 0
  const rest = total - base - lower - raise
  const half = 130
  if (reasons.contributions.length === 0) return <NoAccount reasons={reasons} />
  return (
    <table className="ledger two" aria-label={isNumber ? `Contributions to ${reasons.target}` : 'Contributions in log-odds'}>
      <thead>
        <tr>
          <th>{isNumber ? `${reasons.target}, against the average record` : 'Log-odds, against the average record'}</th>
          <th className="n" style={{ width: 70, color: '#3A547A' }}>
            Lowers
          </th>
          <th className="mark" style={{ width: 2 * half + 10 }}>
            <span className="sr">Bar</span>
          </th>
          <th className="n" style={{ width: 70, color: '#8A5716' }}>
            Raises
          </th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <td className="soft">Average record</td>
          <td className="n soft">{(reasons.base ?? 0) < 0 ? said(-(reasons.base ?? 0)) : ''}</td>
          <td />
          <td className="n soft">{(reasons.base ?? 0) >= 0 ? said(reasons.base) : ''}</td>
        </tr>
        {shown.map((c) => {
          const w = (Math.abs(c.effect) / most) * half
          return (
            <tr key={c.column}>
              <td className="nm" title={plain(c)}>
                {c.column} <span className="soft">{c.value ?? 'missing'}</span>
              </td>
              <td className="n" style={{ color: '#3A547A' }}>
                {c.effect < 0 ? said(-c.effect) : ''}
              </td>
              <td className="mark">
                <svg width={2 * half + 10} height="24" aria-hidden="true">
                  <path d={`M${half + 5} 0V24`} stroke="var(--ink)" />
                  <rect
                    x={c.effect < 0 ? half + 5 - w : half + 5}
                    y={7}
                    width={w}
                    height={10}
                    fill={c.effect < 0 ? 'var(--c3)' : 'var(--c2)'}
                  />
                </svg>
              </td>
              <td className="n" style={{ color: '#8A5716' }}>
                {c.effect > 0 ? said(c.effect) : ''}
              </td>
            </tr>
          )
        })}
        {Math.abs(rest) >= (isNumber ? 0.005 * largest : 0.005) && (
          <tr>
            <td className="soft">All others</td>
            <td className="n">{rest < 0 ? said(-rest) : ''}</td>
            <td />
            <td className="n">{rest > 0 ? said(rest) : ''}</td>
          </tr>
        )}
      </tbody>
      <tfoot>
        <tr>
          <td>{isNumber ? `Sums, and ${reasons.target}` : `Sums, and the chance of “${reasons.event}”`}</td>
          <td className="n">{said(-(lower + Math.min(0, base) + Math.min(0, rest)))}</td>
          <td style={{ textAlign: 'center' }}>
            {isNumber ? number(reasons.answer) : `log-odds ${fixed(reasons.logOdds, 2)}, chance ${share(reasons.chance)}`}
          </td>
          <td className="n">{said(raise + Math.max(0, base) + Math.max(0, rest))}</td>
        </tr>
      </tfoot>
    </table>
  )
}

/** What a model without an account of its own can say of a record. */
function NoAccount({ reasons }: { reasons: Reasons }) {
  if (reasons.path != null) return <p className="soft">Every record that answers these questions alike gets the same answer.</p>
  if (reasons.learner === 'Baseline')
    return <p className="soft">The baseline gives every record the same answer: there is nothing to explain.</p>
  return (
    <p className="soft">
      {reasons.learner} gives no account of single records of its own. Reasons for any model are yet to come; what matters over all records
      stands on the trial’s page.
    </p>
  )
}

/** The chances of all classes, the likeliest first. */
function Shares({ reasons }: { reasons: Reasons }) {
  return (
    <>
      <h2 className="fig-title">Chances of all classes</h2>
      <dl className="facts" style={{ gridTemplateColumns: '1fr' }}>
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
