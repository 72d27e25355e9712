import { Button } from '@mui/material'
import { useState } from 'react'
import { useRecheck, type Bounds, type Recheck } from '../../data/recheck'
import { useApprovals } from '../../data/work'
import { IntervalMark } from '../../ui/IntervalMark'
import { date, fixed, number } from '../../ui/format'
import { Trouble } from '../../ui/Trouble'

/** The day to look again at a model that is in use, set later on the ground of this recheck. */
function Later({ recheck, studyId }: { recheck: Recheck; studyId: number }) {
  const approval = (useApprovals(studyId).data ?? []).find((a) => a.withdrawn == null && a.trialId === recheck.trialId)
  const { later } = useRecheck()
  const [day, setDay] = useState('')
  if (!approval || recheck.verdict === 'no longer') return null
  return (
    <form
      className="above-8"
      onSubmit={(e) => {
        e.preventDefault()
        later.mutate({ recheckId: recheck.id, again: day })
      }}
    >
      <label>
        Approval {approval.number} is to be looked at again on {date(approval.again)}; set a later day:{' '}
        <input type="date" className="underlined" required value={day} min={approval.again} onChange={(e) => setDay(e.target.value)} />
      </label>{' '}
      <Button type="submit" size="small" disabled={day === '' || later.isPending}>
        Set it
      </Button>
      <Trouble error={later.error} />
      {later.isSuccess && <p role="status">It is to be looked at again on {date(later.data.again)}.</p>}
    </form>
  )
}

const REMEDY: Record<string, [string, string]> = {
  leave: ['Leave it', 'as it is'],
  calibrate: ['Set its answers right', 'calibrated on the earlier part'],
  anew: ['Fit it anew', 'on old records and the earlier part of the newer ones'],
}

export function Remedies({ recheck, studyId }: { recheck: Recheck; studyId: number }) {
  const t = recheck.told
  const { anew } = useRecheck()
  const ends = t.remedies.flatMap((r) => [r.figure.low, r.figure.high]).filter((v): v is number => v != null)
  const scale: [number, number] = ends.length === 0 ? [0, 1] : [Math.min(...ends), Math.max(...ends)]
  const then = t.figures[0]?.then.value ?? undefined
  const more = t.figures[0]?.more ?? true
  const best = [...t.remedies].sort((a, b) => (more ? 1 : -1) * ((b.figure.value ?? -1e9) - (a.figure.value ?? -1e9)))[0]
  return (
    <section className="pad" style={{ flex: '1 1 480px', minWidth: 0, borderLeft: '1px solid var(--rule)' }}>
      <h2 className="fig-title">
        {t.remedies.length === 0
          ? 'Remedies'
          : best && best.key !== 'leave'
            ? `${REMEDY[best.key]?.[0]}: ${t.figure} ${fixed(best.figure.value)}`
            : 'Nothing does better than leaving it'}
      </h2>
      {t.remedies.length === 0 ? (
        <p className="soft">With so few newer records with known outcomes none can be learned and measured.</p>
      ) : (
        <>
          <p className="fig-sub">Each learned from the earlier six in ten of the newer records, measured on the newest.</p>
          <table className="ledger" aria-label="Remedies">
            <thead>
              <tr>
                <th style={{ width: 140 }}>Remedy</th>
                <th className="n" style={{ width: 56 }}>
                  {t.figure}
                </th>
                <th style={{ width: 96 }} />
                <th style={{ width: 94 }}>Answers run</th>
                <th style={{ width: 108 }}>
                  <span className="sr">Do it</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {t.remedies.map((r) => (
                <tr key={r.key}>
                  <td className="nm" title={REMEDY[r.key]?.[1]}>
                    {REMEDY[r.key]?.[0]}
                  </td>
                  <td className="n">{fixed(r.figure.value)}</td>
                  <td>
                    <IntervalMark
                      {...r.figure}
                      scale={scale}
                      width={84}
                      height={18}
                      reference={then}
                      tone={r === best ? 'verdigris' : 'ink'}
                    />
                  </td>
                  <td className="soft">{runs(r.promise?.now ?? null, t.event != null)}</td>
                  <td style={{ textAlign: 'right' }}>
                    {r.key !== 'leave' && (
                      <Button
                        size="small"
                        aria-label={`${REMEDY[r.key]?.[0]}: make it a trial`}
                        disabled={anew.isPending}
                        onClick={() => anew.mutate({ recheckId: recheck.id, use: r.key === 'anew' ? 'anew' : 'calibrate' })}
                      >
                        Make a trial
                      </Button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <Trouble error={anew.error} />
          {anew.isSuccess && (
            <p className="note" role="status">
              It is being fitted, as a trial like any other. Once it is done, recheck it here: it is told on the newest records alone, which
              it has not read.
            </p>
          )}
        </>
      )}
      <Later recheck={recheck} studyId={studyId} />
    </section>
  )
}

function runs(b: Bounds | null, isEvent: boolean): string {
  if (b?.value == null) return '–'
  if ((b.low ?? 0) <= 0 && (b.high ?? 0) >= 0) return 'as they should'
  const by = isEvent ? `${(100 * Math.abs(b.value)).toFixed(1)} points` : number(Math.abs(b.value))
  return `${by} ${b.value > 0 ? 'low' : 'high'}`
}
