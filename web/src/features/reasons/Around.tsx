import { Link } from 'react-router'
import { recordsPath } from '../../data/conditions'
import { type Reasons, useLocal } from '../../data/reasons'
import { useStudy } from '../../data/study'
import { fixed, number, share, whole } from '../../ui/format'
import { IntervalMark } from '../../ui/IntervalMark'

/** How sure the answer is, from records that the models had not seen. */
export function HowSure({ reasons }: { reasons: Reasons }) {
  const sure = reasons.sure
  if (!sure) return null
  if (reasons.task === 'number') {
    const most = sure.most
    const nearly = sure.nearly
    if (!most && !nearly) return <p className="soft small">Too few records to say how sure.</p>
    return (
      <>
        <h2 className="fig-title above-8">How sure</h2>
        <p className="size-13">
          {most?.low != null && (
            <>
              In 80 of 100 records like it what comes lies between <b>{number(most.low, 3)}</b> and <b>{number(most.high, 3)}</b>
              {nearly?.low != null && `, in 95 between ${number(nearly.low, 3)} and ${number(nearly.high, 3)}`}.
            </>
          )}
        </p>
      </>
    )
  }
  if (sure.classes)
    return (
      <>
        <h2 className="fig-title above-8">How sure</h2>
        <p className="size-13">
          In 90 of 100 records what comes is in such a set: <b>{sure.classes.join(', ')}</b>.
        </p>
      </>
    )
  return sure.share ? (
    <>
      <h2 className="fig-title">How sure</h2>
      <p className="size-13">
        Of the {whole(sure.records)} records of most similar chance <b>{share(sure.share.value)}</b> had “{reasons.event}” (
        {share(sure.share.low)} to {share(sure.share.high)}).
      </p>
      <div style={{ flex: 'none' }}>
        <IntervalMark
          value={sure.share.value}
          low={sure.share.low}
          high={sure.share.high}
          scale={[0, 1]}
          width={296}
          height={30}
          tone="verdigris"
          reference={reasons.baseRate}
        />
      </div>
      <p className="small soft" style={{ display: 'flex', justifyContent: 'space-between', width: 296 }}>
        <span>0%</span>
        <span>dashed: the average, {share(reasons.baseRate)}</span>
        <span>100%</span>
      </p>
    </>
  ) : null
}

/** How much it is like records seen, and what came of those most alike. */
export function Alike({ reasons, studyId }: { reasons: Reasons; studyId: number }) {
  const tableId = useStudy(studyId).data?.tableId ?? undefined
  const n = reasons.neighbors
  const like = Math.round(100 * reasons.likeness)
  return (
    <>
      <h2 className="fig-title above-8">Records alike</h2>
      <p className="size-13">
        Likeness <b>{like}</b> of 100:{' '}
        {like < 3 ? 'hardly any record is like it, so take the answer with care' : `${like} of 100 records lie in a thinner place`}.{' '}
        {n.hits != null && (
          <>
            Of the {n.records} most alike{n.own && ', which answer for it'}, <b>{n.hits}</b> had “
            {reasons.account?.class ?? reasons.class ?? reasons.event}”.
          </>
        )}
        {n.mean != null && (
          <>
            Of the {n.records} most alike{n.own && ', which answer for it'}, {reasons.target} came to <b>{number(n.mean, 3)}</b> on average.
          </>
        )}
      </p>
      <p className="small">
        Nearest:{' '}
        {n.nearest.slice(0, 6).map((r, i) => (
          <span key={r}>
            {i > 0 && ', '}
            <Link to={`/study/${studyId}/reasons?trial=${reasons.trialId}&record=${r}`}>{r}</Link>
          </span>
        ))}
        {n.own && n.nearest.length > 1 && tableId !== undefined && (
          <>
            . <Link to={recordsPath(studyId, tableId, n.nearest)}>All of them as rows</Link>
          </>
        )}
      </p>
    </>
  )
}

/** A sum of few terms that answers as the model does near the record, with how well it does. */
export function Near({ trialId, record, isNumber }: { trialId: number | null; record: number; isNumber: boolean }) {
  const local = useLocal(trialId, record)
  if (!local.data || local.data.terms.length === 0) return null
  return (
    <details className="size-13 above-8">
      <summary>Near this record, in few terms</summary>
      <p className="soft small">
        A sum of {local.data.terms.length} terms that follows {share(local.data.fit, 0)} of the model’s answers for records changed a
        little.
      </p>
      <dl className="facts single">
        {local.data.terms.map((t) => (
          <div key={t.column}>
            <dt>
              {t.column} <span className="soft">{t.value ?? 'missing'}</span>
            </dt>
            <dd>
              {t.contribution > 0 ? '+' : ''}
              {isNumber ? number(t.contribution, 3) : `${fixed(100 * t.contribution, 1)} points`}
            </dd>
          </div>
        ))}
      </dl>
    </details>
  )
}
