import type { SideBySide } from '../../data/beside'
import { count, fixed } from '../../ui/format'
import { type Figure, figure } from '../../ui/measure'
import { Key, Shape, markOf, short } from './marks'

type Line = SideBySide['figures'][number]

/** Of 100: one decimal; else as the figure is told. */
function say(of: Figure, value: number | null | undefined): string {
  return of.most === 100 ? fixed(value, 1) : figure(of, value)
}

/** Every figure of each trial, and how far it is from that of the first. */
export function Figures({ data }: { data: SideBySide }) {
  const { trials } = data
  const ranking = data.figures.find((f) => f.figure.key === trials[0]!.measure.key)
  return (
    <section className="pad" style={{ flex: '1 1 500px', minWidth: 0 }} aria-label="Figures side by side">
      <h2 className="fig-title">{ranking ? finding(ranking, data) : 'Figures side by side'}</h2>
      <p className="fig-sub">
        The same folds{data.at != null && data.task === 'two classes' && `; caught and right at ${count(data.at, 'call')} each`}. Bold:
        beyond noise, 95% for all pairs of trials at once.
      </p>
      <div className="scrolls-x">
        <table className="ledger" aria-label="Figures side by side" style={{ minWidth: 104 + 58 * (2 * trials.length - 1) + 102 }}>
          <thead>
            <tr>
              <th>Figure</th>
              {trials.flatMap((t, k) => [
                <th key={t.id} className="n" style={{ width: 58 }} title={short(trials, k)}>
                  <Key k={k} narrow /> {t.number}
                </th>,
                ...(k === 0
                  ? []
                  : [
                      <th key={`${t.id} d`} className="n" style={{ width: 58 }}>
                        paired
                      </th>,
                    ]),
              ])}
              <th className="mark" style={{ width: 102 }}>
                <span className="soft small">worse to better</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {data.figures.map((line) => (
              <tr key={line.figure.key}>
                <td title={line.figure.name}>
                  {line.figure.name}
                  {!line.figure.more && <span className="soft"> (low)</span>}
                </td>
                {line.trials.flatMap((v, k) => [
                  <td key={k} className="n">
                    {k === 0 || v.noise === false ? <b>{say(line.figure, v.value)}</b> : say(line.figure, v.value)}
                  </td>,
                  ...(k === 0
                    ? []
                    : [
                        <td key={`${k} d`} className="n" title={reach(line, k)}>
                          {v.noise === false ? (
                            <b>{signed(line, v.difference)}</b>
                          ) : (
                            <span className="soft">{signed(line, v.difference)}</span>
                          )}
                        </td>,
                      ]),
                ])}
                <td className="mark">
                  <Apart line={line} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

/** What the figure that ranks says of the others, in words. */
function finding(line: Line, data: SideBySide): string {
  const parts = line.trials.slice(1).map((v, i) => {
    const name = short(data.trials, i + 1)
    if (v.noise == null || v.difference == null) return `${name} cannot be compared`
    if (v.noise) return `${name} is within noise`
    const worse = line.figure.more ? v.difference < 0 : v.difference > 0
    return `${name} ${worse ? 'trails' : 'leads'} by ${say(line.figure, Math.abs(v.difference))} of ${line.figure.name}`
  })
  return parts.map((p, i) => (i === 0 ? p : p.charAt(0).toLowerCase() + p.slice(1))).join('; ')
}

function signed(line: Line, difference: number | null | undefined): string {
  if (difference == null) return '–'
  return (difference > 0 ? '+' : '') + say(line.figure, difference)
}

function reach(line: Line, k: number): string {
  const v = line.trials[k]!
  return v.low == null || v.high == null
    ? 'Not compared: only trials of the same rows and of today’s form are.'
    : `${signed(line, v.difference)}, ${say(line.figure, v.low)} to ${say(line.figure, v.high)}`
}

/** Differences from the first with their intervals; better is to the right. */
function Apart({ line }: { line: Line }) {
  const sign = line.figure.more ? 1 : -1
  const all = line.trials
    .slice(1)
    .flatMap((v) => [v.low, v.high, v.difference])
    .map((v) => sign * (v ?? 0))
  const [low, high] = [Math.min(0, ...all), Math.max(0, ...all)]
  const room = Math.max(high - low, 1e-12)
  const x = (v: number) => 6 + ((sign * v - low) / room) * 86
  const step = 22 / line.trials.length
  return (
    <svg width="98" height="26" aria-hidden="true">
      <path d={`M${x(0)} 0V26`} stroke="var(--ink-soft)" />
      {line.trials.slice(1).map((v, i) => {
        if (v.difference == null) return null
        const y = 2 + step * (i + 1)
        return (
          <g key={i} opacity={v.noise === false ? 1 : 0.75}>
            {v.low != null && v.high != null && (
              <path d={`M${x(v.low)} ${y}H${x(v.high)}`} stroke={markOf(i + 1).color} strokeWidth="1.4" />
            )}
            <Shape k={i + 1} x={x(v.difference)} y={y} size={2.8} />
          </g>
        )
      })}
    </svg>
  )
}
