import { count, share, whole } from '../ui/format'
import { IntervalMark } from '../ui/IntervalMark'
import type { SectionOf } from '../data/judgment'
import { TakeElsewhere } from './TakeElsewhere'

const tone = { Sound: 'verdigris', Split: 'brass', Thin: 'soft' } as const

/** Rules in the order they answer: the first that a record meets counts. */
export function Rules({ section, trialId }: { section: SectionOf<'rules'>; trialId: number }) {
  const rules = section.rules
  const sound = rules.filter((r) => r.verdict === 'Sound').length
  return (
    <section className="pad">
      <h2 className="fig-title">
        {rules.length === 1 ? 'No rule holds' : `${sound} of ${count(rules.length, 'rule')} can be relied on, the last included`}
      </h2>
      <p className="fig-sub">
        Read from the top: the first rule that a record meets answers. Rows, share and interval are those of rows that grew neither tree nor
        rules; training figures stand beside them.
      </p>
      <table className="ledger" aria-label="Rules">
        <thead>
          <tr>
            <th className="n" style={{ width: 34 }}>
              No.
            </th>
            <th>If</th>
            <th style={{ width: 110 }}>then</th>
            <th className="n" style={{ width: 64 }}>
              Rows
            </th>
            <th className="n" style={{ width: 128 }}>
              Right, 95%
            </th>
            <th className="mark" style={{ width: 112 }}>
              <span className="sr">From 0 to 100%</span>
            </th>
            <th className="n" style={{ width: 120 }}>
              In training
            </th>
            <th style={{ width: 62 }}>Verdict</th>
          </tr>
        </thead>
        <tbody>
          {rules.map((r) => (
            <tr key={r.number}>
              <td className="n soft">{r.number}</td>
              <td style={{ whiteSpace: 'normal', padding: '4px 6px' }}>{r.says}</td>
              <td className="nm" title={r.class}>
                {r.class}
              </td>
              <td className="n">{whole(r.rows)}</td>
              <td className="n">
                <b>{share(r.share, 0)}</b> <span className="soft">{r.low != null && `${share(r.low, 0)} to ${share(r.high, 0)}`}</span>
              </td>
              <td className="mark">
                <IntervalMark
                  value={r.share}
                  low={r.low}
                  high={r.high}
                  scale={[0, 1]}
                  width={104}
                  tone={tone[r.verdict as keyof typeof tone] ?? 'soft'}
                />
              </td>
              <td className="n soft">
                {share(r.trainingShare, 0)} of {whole(r.trainingRows)}
              </td>
              <td className={r.verdict === 'Sound' ? 'verd' : r.verdict === 'Split' ? 'brass' : 'soft'}>{r.verdict}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="soft small above-6">
        Sound: the interval is clear of the share that the class has among all rows. Split: it holds that share. Thin: too few rows, or an
        interval wider than 20 points.
      </p>
      <p className="above-6">
        <TakeElsewhere file={`/api/trials/${trialId}/rules/file`} many="rules" />
      </p>
    </section>
  )
}
