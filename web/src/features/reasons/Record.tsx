import { Button } from '@mui/material'
import { useState } from 'react'
import { Link } from 'react-router'
import { useAddress } from '../../ui/address'
import { fixed, number, share, whole } from '../../ui/format'
import { bestOf, ofTask } from '../../ui/measure'
import { Head } from '../../ui/Head'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'
import { useStudy, useStudyId } from '../../data/study'
import { type Reasons, useReasons } from '../../data/reasons'
import { Alike, HowSure, Near } from './Around'
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
                <dl className="facts" style={{ gridTemplateColumns: '1fr' }}>
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

const plain = (c: { column: string; value?: string | null }) => `${c.column.replaceAll('_', ' ')} ${c.value ?? 'missing'}`

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
      <dl className="facts" style={{ gridTemplateColumns: '1fr' }}>
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

/** By what means the answer was shared out, and how surely. */
function howShared(account: NonNullable<Reasons['account']>, isNumber: boolean): string {
  if (account.orders > 0) {
    const within = isNumber ? number(3 * account.error, 2) : `${Math.max(0.1, 300 * account.error).toFixed(1)} points`
    return `Shared out by ${whole(account.orders)} drawn orders, within ${within}.`
  }
  if (account.scale == null) return 'Shared out exactly.'
  const difference = isNumber ? 'the difference' : 'the difference of chances'
  return `Shared out exactly as ${account.scale}, and from there in proportion to ${difference}.`
}

/** Lowers and raises as two columns of an account; the sums close it. In points, or the unit of the number. */
function Account({ reasons }: { reasons: Reasons }) {
  const [own, setOwn] = useState(false)
  const [all, setAll] = useState(false)
  if (reasons.why != null)
    return (
      <p className="soft">A record with a missing value that no step fills gets no answer. Fill the column in Preparation and fit again.</p>
    )
  const account = reasons.account
  if (!account) return <p className="soft">There is nothing to share out.</p>
  const isNumber = reasons.task === 'number'
  // Trees that add up are exact on their own scale; a regression tells its own account by itself.
  const trees = account.scale != null
  const hasOwn = trees || (!isNumber && reasons.contributions.length > 0 && reasons.task === 'two classes')
  const scale = account.scale ?? 'log-odds'
  const lines = own
    ? trees
      ? account.columns.map((c) => ({ ...c, effect: c.own ?? 0 }))
      : reasons.contributions.map((c) => ({ column: c.column, value: c.value, effect: c.effect, lost: null, unusual: null }))
    : account.columns
  const base = own ? (trees ? (account.ownBase ?? 0) : (reasons.base ?? 0)) : account.base
  const total = own ? (trees ? base + lines.reduce((s, c) => s + c.effect, 0) : (reasons.logOdds ?? 0)) : account.answer
  const answered = isNumber ? `${reasons.target} ${number(account.answer)}` : `chance ${share(account.answer)}`
  const said = (v: number | null | undefined) => (v == null ? '' : own ? fixed(v, 2) : isNumber ? number(v, 3) : (100 * v).toFixed(1))
  const largest = Math.max(1e-300, ...lines.map((c) => Math.abs(c.effect)))
  const least = own ? 0.005 : isNumber ? 0.005 * largest : 0.0005
  const FEW = 11
  const worth = lines.filter((c) => Math.abs(c.effect) >= least)
  const shown = all ? worth : worth.slice(0, FEW)
  const lower = shown.filter((c) => c.effect < 0).reduce((s, c) => s + c.effect, 0)
  const raise = shown.filter((c) => c.effect > 0).reduce((s, c) => s + c.effect, 0)
  const rest = total - base - lower - raise
  const half = 130
  const unit = own
    ? scale[0]!.toUpperCase() + scale.slice(1)
    : isNumber
      ? reasons.target
      : account.class != null
        ? `Points of the chance of “${account.class}”`
        : 'Points of chance'
  return (
    <>
      <table className="ledger two" aria-label={`What each column does to the answer, in ${unit.toLowerCase()}`}>
        <thead>
          <tr>
            <th>{unit}, against the average record</th>
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
            <td className="soft">{own && !trees ? 'Average record' : 'The average, to begin with'}</td>
            <td className="n soft">{base < 0 ? said(-base) : ''}</td>
            <td />
            <td className="n soft">{base >= 0 ? said(base) : ''}</td>
          </tr>
          {shown.map((c) => {
            const w = (Math.abs(c.effect) / largest) * half
            return (
              <tr key={c.column}>
                <td className="nm clipped" title={plain(c) + (c.unusual != null ? `, ${c.unusual}` : '')}>
                  {c.column} <span className="soft">{c.value ?? 'missing'}</span>
                  {c.unusual != null && <span className="brass small"> {c.unusual}</span>}
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
          {Math.abs(rest) >= least && (
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
            <td>{isNumber ? `Sums, and ${reasons.target}` : 'Sums, and the chance'}</td>
            <td className="n">{said(-(lower + Math.min(0, base) + Math.min(0, rest)))}</td>
            <td style={{ textAlign: 'center' }}>
              {own ? `${scale} ${fixed(total, 2)}, ${answered}` : isNumber ? number(total) : share(total)}
            </td>
            <td className="n">{said(raise + Math.max(0, base) + Math.max(0, rest))}</td>
          </tr>
        </tfoot>
      </table>
      <p className="soft small above-6">
        {!own && howShared(account, isNumber)}{' '}
        {!own &&
          account.average != null &&
          `The average of all rows is ${isNumber ? number(account.average, 3) : share(account.average)}. `}
        An effect in a model is no cause.{' '}
        {worth.length > FEW && (
          <button type="button" className="link" onClick={() => setAll(!all)}>
            {all ? 'The strongest' : `All ${worth.length} columns`}
          </button>
        )}{' '}
        {hasOwn && (
          <button type="button" className="link" onClick={() => setOwn(!own)}>
            {own ? (isNumber ? `In ${reasons.target}` : 'In points of chance') : 'On the model’s own scale'}
          </button>
        )}
      </p>
    </>
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
