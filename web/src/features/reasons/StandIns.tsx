import { useState } from 'react'
import { useStandIns } from '../../data/reasons'
import { share } from '../../ui/format'
import { Loading, Trouble } from '../../ui/Trouble'

/** Simple models that imitate the chosen one, with how far they do on records they did not learn from. */
export function StandIns({ trialId, name }: { trialId: number | null; name: string | null }) {
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
