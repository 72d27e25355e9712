import { useState } from 'react'
import { Link } from 'react-router'
import { useStandIns } from '../../data/reasons'
import { number, share, whole } from '../../ui/format'
import { Loading, Trouble } from '../../ui/Trouble'

type Props = { trialId: number | null; name: string | null; isNumber: boolean; studyId: number }

/** Simple models that imitate the chosen one, with how far they do on records they did not learn from. */
export function StandIns({ trialId, name, isNumber, studyId }: Props) {
  const standIns = useStandIns(trialId, name)
  const [open, setOpen] = useState<number | null>(null)
  const lines = standIns.data ?? []
  const best = lines.reduce((b, l, i) => ((l.follows ?? -1) > (lines[b]?.follows ?? -1) ? i : b), 0)
  const judged = lines.some((l) => l.agrees != null)
  return (
    <section className="pad" aria-label="Stand-ins">
      <h2 className="fig-title">
        {lines[best]?.follows == null
          ? 'Stand-ins'
          : `${lines[best].title.split(':')[0] ?? ''} tells ${share(Math.max(0, lines[best].follows), 0)} of it`}
      </h2>
      <p className="fig-sub">
        Simple models that imitate this one’s answers. Follows: share of the variance of its answers, on records the stand-in did not learn
        from. A stand-in explains the model, not the world.
      </p>
      {standIns.isPending && <Loading what="the stand-ins" />}
      <Trouble known error={standIns.error} />
      {lines.length > 0 && (
        <table className="ledger" aria-label="Stand-ins" style={{ maxWidth: 640 }}>
          <thead>
            <tr>
              <th>Stand-in</th>
              <th className="n" style={{ width: 90 }}>
                Follows
              </th>
              {judged && (
                <th className="n" style={{ width: 120 }}>
                  Calls the same
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {lines.map((l, i) => (
              <tr key={l.title} className={open === i ? 'sel' : ''}>
                <td>
                  <button type="button" className="link" aria-expanded={open === i} onClick={() => setOpen(open === i ? null : i)}>
                    {l.title}
                  </button>
                </td>
                <td className="n">{share(l.follows, 0)}</td>
                {judged && <td className="n">{share(l.agrees, 0)}</td>}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {open !== null && lines[open] && (
        <Opened
          standIn={lines[open]}
          said={(v) => (isNumber ? number(v, 3) : share(v))}
          at={`/study/${studyId}/reasons`}
          trialId={trialId}
          name={name}
        />
      )}
      {open !== null && (
        <ul className="size-13 above-6" aria-label="How the stand-in answers">
          {lines[open]?.sentences.map((s, i) => (
            <li key={i}>{s}</li>
          ))}
        </ul>
      )}
    </section>
  )
}

type StandIn = NonNullable<ReturnType<typeof useStandIns>['data']>[number]

/** Where the chosen stand-in is read as a tree, and the records on which it differs most. */
function Opened({
  standIn,
  said,
  at,
  trialId,
  name,
}: {
  standIn: StandIn
  said: (v: number) => string
  at: string
  trialId: number | null
  name: string | null
}) {
  return (
    <p className="size-13 above-6">
      {standIn.tree != null && (
        <>
          <Link to={`${at}/tree?trial=${trialId}&standin=${standIn.tree}${name === null ? '' : `&class=${encodeURIComponent(name)}`}`}>
            Read it as a tree
          </Link>
          .{' '}
        </>
      )}
      {standIn.differs.length > 0 && (
        <>
          They differ most on{' '}
          {standIn.differs.map((d, i) => (
            <span key={d.number}>
              {i > 0 && ', '}
              <Link to={`${at}?trial=${trialId}&record=${d.number}`}>record {whole(d.number)}</Link>{' '}
              <span className="soft">
                ({said(d.model)}, stand-in {said(d.standIn)})
              </span>
            </span>
          ))}
          .
        </>
      )}
    </p>
  )
}
