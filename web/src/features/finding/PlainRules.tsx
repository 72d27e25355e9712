import type { View } from '../../api/client'
import { count, fixed, share, whole } from '../../ui/format'
import { type Rule } from '../../data/finding'
import { Scale } from '../../sections/Scale'
import { type Told, toldOf } from '../../data/findings'

type Found = View<'FindingsView'>

/** Groups in plain words: where they were found, and whether they held on records they had not seen. */
export function Rules({ found }: { found: Found }) {
  const { rules, event, judged, task } = found
  const told = toldOf(task)
  const held = rules.filter((r) => r.held).length
  const scale = told.scale(rules.flatMap((r) => [r.foundLow, r.checkLow, r.foundHigh, r.checkHigh]))
  const overall = rules[0]?.overall ?? 0
  return (
    <div style={{ borderTop: '1px solid var(--ink)', flex: '0 0 auto', maxHeight: '54%', overflow: 'auto' }}>
      <h2 className="fig-title" style={{ padding: '8px 16px 2px' }}>
        {held} of {count(rules.length, 'plain rule')} held on records they had not seen
      </h2>
      <p className="fig-sub" style={{ padding: '0 16px 4px' }}>
        Found in one half of {whole(judged)} records (open dot), checked in the other (full dot)
        {event ? `; “${event}” in ${share(overall)} of all` : task === 'number' && `; the mean of all is ${told.write(overall)}`}.
      </p>
      <table className="ledger" aria-label="Plain rules">
        <thead>
          <tr>
            <th className="indented">Records where</th>
            <th className="n" style={{ width: 62 }}>
              Records
            </th>
            <th className="n" style={{ width: 66 }}>
              Found
            </th>
            <th style={{ width: 128 }}>
              <Scale scale={scale} ticks={told.ticks(scale)} write={told.tick} width={120} />
            </th>
            <th className="n" style={{ width: 58 }}>
              Check
            </th>
            <th className="n" style={{ width: task === 'number' ? 66 : 42 }}>
              {task === 'number' ? 'Differs' : 'Lift'}
            </th>
            <th style={{ width: 92 }}>Verdict</th>
          </tr>
        </thead>
        <tbody>
          {rules.map((r, i) => (
            <tr key={i}>
              <td style={{ paddingLeft: 16, whiteSpace: 'normal' }}>
                {r.of && <>“{r.of}”, where </>}
                {r.conditions.map((c, j) => (
                  <span key={c.column}>
                    {j > 0 && ' and '}
                    {c.column} is <b>{c.is}</b>
                  </span>
                ))}
              </td>
              <td className="n">{whole(r.checkRows)}</td>
              <td className="n soft">{told.write(r.found)}</td>
              <td className="mark">
                <Twice rule={r} scale={scale} write={told.write} />
              </td>
              <td className="n">
                <b>{told.write(r.check)}</b>
              </td>
              <td className="n">
                {task === 'number' ? `${(r.check ?? 0) > r.overall ? '+' : ''}${told.write((r.check ?? 0) - r.overall)}` : fixed(r.lift, 1)}
              </td>
              <td className={r.held ? 'verd' : 'cinn'}>{r.held ? 'Held' : 'Did not hold'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

function Twice({ rule, scale, write }: { rule: Rule; scale: [number, number]; write: Told['write'] }) {
  const x = (v: number) => 4 + ((Math.min(Math.max(v, scale[0]), scale[1]) - scale[0]) / (scale[1] - scale[0])) * 112
  const line = (low: number | null | undefined, high: number | null | undefined, y: number, color: string) =>
    low != null && high != null && <path d={`M${x(low)} ${y}H${x(high)}`} stroke={color} strokeWidth="1.25" />
  return (
    <svg
      width={120}
      height={24}
      role="img"
      aria-label={`Found ${write(rule.found)}, checked ${write(rule.check)}, ${write(rule.checkLow)} to ${write(rule.checkHigh)}`}
    >
      <path d={`M${x(rule.overall)} 0V24`} stroke="var(--ink-soft)" strokeDasharray="1.5 2" />
      {line(rule.foundLow, rule.foundHigh, 8, 'var(--rule-firm)')}
      {rule.found != null && <circle cx={x(rule.found)} cy={8} r={3} fill="var(--paper)" stroke="var(--ink-soft)" />}
      {line(rule.checkLow, rule.checkHigh, 17, rule.held ? 'var(--verdigris)' : 'var(--ink)')}
      {rule.check != null && <circle cx={x(rule.check)} cy={17} r={2.8} fill={rule.held ? 'var(--verdigris)' : 'var(--ink)'} />}
    </svg>
  )
}
