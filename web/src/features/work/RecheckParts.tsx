import type { Bounds, FigureLine, Group, Moved, Told } from '../../data/recheck'
import { IntervalMark } from '../../ui/IntervalMark'
import { date, fixed, number, pValue, share, signed, whole } from '../../ui/format'

const PLACES = ['holds', 'wearing off', 'no longer']

/** Three places, and the fourth that says that nothing can be told. */
export function Scale({ told, at }: { told: Told; at: string }) {
  const few = told.verdict === 'too few to tell'
  return (
    <section className="pad" style={{ flex: '1 1 280px' }}>
      <p className="soft small">Verdict of {date(at)}</p>
      <h2 style={{ font: '600 25px/1.3 var(--serif)', margin: '2px 0 8px' }}>
        {told.verdict[0]?.toUpperCase()}
        {told.verdict.slice(1)}
      </h2>
      <ol className="verdict-scale" aria-label="Verdict">
        {PLACES.map((place) => (
          <li key={place} aria-current={place === told.verdict || undefined} className={place === told.verdict ? 'here' : ''}>
            <svg width="20" height="20" viewBox="0 0 20 20" aria-hidden="true">
              <path
                d="M6 1h8l5 5v8l-5 5H6l-5-5V6z"
                fill={place === told.verdict ? (place === 'holds' ? 'var(--verdigris)' : 'var(--brass)') : 'var(--paper)'}
                stroke="var(--rule-firm)"
              />
            </svg>
            {place}
          </li>
        ))}
      </ol>
      <p className="serif">{told.reasons.join(' ')}</p>
      <p className="soft small">
        {few ? 'More newer records, or a larger loss that matters, would tell. ' : ''}
        Two tests decide, adjusted for each other: whether {told.figure} is worse, and whether what is promised has parted from what comes.
        Drift alone decides nothing.
      </p>
      <details className="small">
        <summary>How to read this</summary>
        <p>
          <b>Holds</b>: a loss that matters would have been seen, and none was. <b>Wearing off</b>: worse beyond noise, or its chances are
          off. <b>No longer</b>: its whole interval lies at or below doing nothing, or a column that it needs is gone.{' '}
          <b>Too few to tell</b>: a loss that matters could have stayed unseen. On records like those of its examination, <i>wearing off</i>{' '}
          comes in about 3 of 100 rechecks by chance.
        </p>
      </details>
    </section>
  )
}

const told = (f: FigureLine, v: number | null) => (f.share ? share(v) : f.units ? number(v) : fixed(v))

export function Figures({ told: t, tableName }: { told: Told; tableName: string }) {
  const scaleOf = (f: FigureLine): [number, number] => {
    const all = [f.then.low, f.then.high, f.now.low, f.now.high, f.then.value, f.now.value].filter((v): v is number => v != null)
    const [least, most] = [Math.min(...all), Math.max(...all)]
    return all.length === 0 ? [0, 1] : [least - 0.1 * (most - least || 1), most + 0.1 * (most - least || 1)]
  }
  const half = (b: Bounds) => (b.low == null || b.high == null ? null : (b.high - b.low) / 2)
  const worse = t.figures.filter((f) => f.says === 'worse').length
  const decides = t.figures.some((f) => f.decides && f.says === 'worse')
  return (
    <section className="pad" style={{ flex: '1 1 640px', minWidth: 0, borderLeft: '1px solid var(--rule)' }}>
      <h2 className="fig-title">
        {worse === 0
          ? 'No figure is worse beyond noise'
          : `${whole(worse)} of ${t.figures.length} figures worse, each at p under 0.05${decides ? '' : ', none of them one that decides'}`}
      </h2>
      <table className="ledger" aria-label="Figures then and now">
        <thead>
          <tr>
            <th style={{ width: 128 }}>Figure</th>
            <th className="n" style={{ width: 106 }}>
              {t.examined === 'sealed rows' ? `Sealed, ${whole(t.rows_then)}` : `Then, ${whole(t.rows_then)}`}
            </th>
            <th className="n" style={{ width: 106 }}>
              Now, {whole(t.rows_now)}
            </th>
            <th style={{ width: 88 }}>
              <span className="soft">then</span> and <span className="brass">now</span>
            </th>
            <th className="n" style={{ width: 64 }}>
              Change
            </th>
            <th className="n" style={{ width: 58 }}>
              p
            </th>
            <th style={{ width: 100 }}>Verdict</th>
          </tr>
        </thead>
        <tbody>
          {t.figures.map((f) => (
            <tr key={f.key}>
              <td className={f.decides ? 'nm' : ''} title={f.title}>
                {f.name}
              </td>
              <td className="n soft">
                {told(f, f.then.value)}
                {half(f.then) != null && ` ± ${told(f, half(f.then))}`}
              </td>
              <td className="n">
                <b>
                  {told(f, f.now.value)}
                  {half(f.now) != null && ` ± ${told(f, half(f.now))}`}
                </b>
              </td>
              <td style={{ lineHeight: 0, padding: 0 }}>
                <span style={{ display: 'block' }}>
                  <IntervalMark {...f.then} scale={scaleOf(f)} height={11} tone="soft" />
                </span>
                <span style={{ display: 'block' }}>
                  <IntervalMark {...f.now} scale={scaleOf(f)} height={11} tone={f.says === 'worse' ? 'brass' : 'ink'} />
                </span>
              </td>
              <td className="n">{f.difference?.value == null ? '–' : change(f, f.difference.value)}</td>
              <td className="n soft">{f.p == null ? '–' : pValue(f.p)}</td>
              <td className={f.says === 'worse' ? 'brass' : 'soft'}>{f.says}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="soft small">
        {tableName}: {whole(t.answered)} records answered, {whole(t.outcomes)} with a known outcome. Then: {t.examined}.
        {t.event != null && ' Log loss and Brier rise by themselves where events come more often.'}
      </p>
    </section>
  )
}

const change = (f: FigureLine, v: number) =>
  f.share ? `${v > 0 ? '+' : '−'}${share(Math.abs(v))}` : f.units ? signed(v) : `${v < 0 ? '−' : '+'}${fixed(Math.abs(v))}`

/** What was promised beside what came, then and now. */
export function Promises({ told: t }: { told: Told }) {
  const off = t.promise?.now.value ?? null
  const isEvent = t.calibration.now.length > 0
  const most = Math.max(0.1, ...[...t.calibration.then, ...t.calibration.now].flatMap((g) => [g.chance, g.came.high ?? 0]))
  const top = Math.min(1, Math.ceil(5 * most) / 5)
  const x = (v: number) => 34 + (v / top) * 230
  const y = (v: number) => 158 - (v / top) * 142
  const line = (groups: Group[]) => groups.map((g, i) => `${i ? 'L' : 'M'}${x(g.chance)} ${y(g.came.value ?? 0)}`).join('')
  return (
    <section className="pad" style={{ flex: '1 1 290px' }}>
      <h2 className="fig-title">
        {off == null
          ? t.outcomes === 0
            ? 'No outcome is known yet'
            : 'What is promised cannot be held against what came'
          : isEvent
            ? Math.abs(off) < 0.005
              ? 'As many came as were promised'
              : `It says too ${off > 0 ? 'little' : 'much'}: ${(100 * Math.abs(off)).toFixed(1)} points`
            : `On average ${off > 0 ? 'more' : 'less'} came than was said, by ${number(Math.abs(off))}`}
      </h2>
      {t.promise && (
        <p className="fig-sub">
          What came less what was promised: {isEvent ? points(t.promise.then) : plain(t.promise.then)} then,{' '}
          {isEvent ? points(t.promise.now) : plain(t.promise.now)} now (p of the change {t.promise.p == null ? '–' : pValue(t.promise.p)}).
        </p>
      )}
      {isEvent && (
        <svg viewBox="0 0 280 190" width="100%" style={{ maxWidth: 330 }} role="img" aria-label={pictured(t)}>
          {[0, 0.5, 1].map((part) => (
            <g key={part} className="tick">
              <path d={`M34 ${y(part * top)}H264`} stroke="var(--rule)" />
              <text x="30" y={y(part * top) + 4} textAnchor="end" fontSize="11" fill="var(--ink-soft)">
                {Math.round(100 * part * top)}
              </text>
              <text x={x(part * top)} y="172" textAnchor="middle" fontSize="11" fill="var(--ink-soft)">
                {Math.round(100 * part * top)}
              </text>
            </g>
          ))}
          <path d={`M${x(0)} ${y(0)}L${x(top)} ${y(top)}`} stroke="var(--rule-firm)" strokeDasharray="2 3" />
          <path d={line(t.calibration.then)} fill="none" stroke="var(--ink-soft)" strokeDasharray="3 3" />
          <path d={line(t.calibration.now)} fill="none" stroke="var(--brass)" strokeWidth="2" />
          {t.calibration.now.map((g) => (
            <g key={g.chance} stroke="var(--brass)" fill="var(--brass)">
              <path d={`M${x(g.chance)} ${y(g.came.low ?? 0)}V${y(g.came.high ?? 0)}`} />
              <circle cx={x(g.chance)} cy={y(g.came.value ?? 0)} r="3" />
            </g>
          ))}
          {t.calibration.then.map((g) => (
            <circle key={g.chance} cx={x(g.chance)} cy={y(g.came.value ?? 0)} r="2.6" fill="var(--paper)" stroke="var(--ink-soft)" />
          ))}
          <text x="149" y="187" textAnchor="middle" fontSize="11" fill="var(--ink-soft)">
            chance given, of 100; then dashed
          </text>
        </svg>
      )}
      {t.outcomes === 0 && t.answers.now.length > 5 && (
        <p>
          Half of the answers lie under {fixed(t.answers.now[5])} now, under {fixed(t.answers.then[5])} then.
        </p>
      )}
    </section>
  )
}

const points = (b: Bounds) =>
  b.value == null
    ? '–'
    : `${b.value < 0 ? '−' : '+'}${(100 * Math.abs(b.value)).toFixed(1)} ± ${(100 * ((b.high ?? 0) - b.value)).toFixed(1)} points`
const plain = (b: Bounds) => (b.value == null ? '–' : `${signed(b.value)} ± ${number((b.high ?? 0) - b.value)}`)
const pictured = (t: Told) =>
  `Calibration now: ${t.calibration.now.map((g) => `given ${share(g.chance)}, came ${share(g.came.value)} of ${g.rows}`).join('; ')}`

const day = (n: number | undefined) => new Date((n ?? 0) * 86_400_000).toISOString()

function moved(m: Moved): string {
  const d = m.drift
  const unseen = d.unseen_levels ?? []
  if (unseen.length > 0) {
    const bin = d.psi_bins.find((b) => b.bin === '(unseen)')
    const all = d.psi_bins.reduce((s, b) => s + b.newer, 0)
    return `${unseen.slice(0, 3).join(', ')}${unseen.length > 3 ? ' and others' : ''}, new: ${share((bin?.newer ?? 0) / Math.max(1, all))}`
  }
  if (d.kind === 'date') return `middle ${date(day(d.mean_training))} to ${date(day(d.mean_newer))}`
  if (d.mean_training !== undefined && d.mean_newer !== undefined) return `mean ${number(d.mean_training)} to ${number(d.mean_newer)}`
  const then = d.psi_bins.reduce((s, b) => s + b.training, 0)
  const now = d.psi_bins.reduce((s, b) => s + b.newer, 0)
  const [first] = [...d.psi_bins].sort((a, b) => b.part - a.part)
  return first ? `${first.bin} ${share(first.training / Math.max(1, then))} to ${share(first.newer / Math.max(1, now))}` : ''
}

export function Columns({ columns, event }: { columns: Moved[]; event: string | null }) {
  const own = columns.filter((c) => c.holm != null && c.holm < 0.05)
  const shown = [...own, ...columns.filter((c) => !own.includes(c))].slice(0, 9)
  const top = own[0]
  return (
    <section className="pad" style={{ flex: '1 1 640px', minWidth: 0, borderLeft: '1px solid var(--rule)' }}>
      <h2 className="fig-title">
        {columns.length === 0
          ? 'Columns are not to be compared'
          : top
            ? `${top.column} moved, and moves the answers most`
            : 'No column moved beyond noise'}
      </h2>
      <p className="fig-sub">
        {own.length} of {columns.length} columns moved at p under 0.05, adjusted for all; ordered by what it does to the answers
        {event != null && ' (points of chance, of 100)'}.
      </p>
      <table className="ledger" aria-label="Columns then and now">
        <thead>
          <tr>
            <th style={{ width: 150 }}>Column</th>
            <th>What moved</th>
            <th className="n" style={{ width: 76 }}>
              Stability
            </th>
            <th className="n" style={{ width: 76 }}>
              p, adjusted
            </th>
            <th className="n" style={{ width: 76 }}>
              {event == null ? 'Answer' : 'Points'}
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.map((c) => (
            <tr key={c.column} className={own.includes(c) ? '' : 'soft'}>
              <td className="clipped" title={c.column}>
                {c.column}
              </td>
              <td className="clipped" title={moved(c)}>
                {moved(c)}
              </td>
              <td className={`n ${c.drift.psi >= 0.1 ? 'brass' : ''}`}>{c.drift.psi.toFixed(2)}</td>
              <td className="n">{c.holm == null ? '–' : pValue(c.holm)}</td>
              <td className="n">
                {event == null ? signed(c.points) : `${c.points < 0 ? '−' : '+'}${(100 * Math.abs(c.points)).toFixed(1)}`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {columns.length > shown.length && <p className="soft small">{columns.length - shown.length} more moved less.</p>}
    </section>
  )
}
