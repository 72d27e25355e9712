import type { Effect } from '../../data/reasons'
import { Chart } from '../../ui/Chart'
import { date, number, share, tick, whole } from '../../ui/format'
import { roundTicks } from '../../ui/scale'

const W = 500
const H = 286
const LEFT = 52
const RIGHT = 76
const FOOT = 46
const NAMED = ['#b9771f', '#46648f', '#96466a', '#6e7f2e', '#75599b']
const DASHES = ['7 3', '2 3', '8 3 2 3', undefined, '4 2']
const DAY = 86_400_000

type Props = { effect: Effect; isNumber: boolean; target: string; what: string; trialNumber: number }

/** What the answers do as one column changes: the mean with its interval, single records pale, named ones in color. */
export function EffectOf({ effect: e, isNumber, target, what, trialNumber }: Props) {
  const at = (i: number) => (e.kind === 'category' ? i : (e.xs[i] ?? 0))
  const n = e.mean.length
  const [x0, x1] = e.kind === 'category' ? [-0.5, n - 0.5] : [e.xs[0] ?? 0, e.xs.at(-1) ?? 1]
  const all = [...e.mean, ...e.low, ...e.high, ...e.singles.flatMap((s) => s.ys), ...e.named.flatMap((s) => s.ys)].filter(
    (v): v is number => v != null,
  )
  const sorted = [...all].sort((a, b) => a - b)
  // A few single curves far off would flatten the rest.
  const low = Math.min(...e.mean.filter((v): v is number => v != null), sorted[Math.floor(0.02 * sorted.length)] ?? 0)
  const high = Math.max(
    ...e.mean.filter((v): v is number => v != null),
    ...e.named.flatMap((s) => s.ys.filter((v): v is number => v != null)),
    sorted[Math.ceil(0.97 * sorted.length) - 1] ?? 1,
  )
  const [y0, y1] = isNumber
    ? [low, high === low ? low + 1 : high]
    : [Math.max(0, Math.min(low, 0.9 * low)), Math.min(1, 1.05 * high + 0.01)]
  const px = (v: number) => LEFT + ((v - x0) / Math.max(1e-12, x1 - x0)) * (W - LEFT - RIGHT)
  const py = (v: number) => 8 + (1 - (Math.min(Math.max(v, y0), y1) - y0) / Math.max(1e-12, y1 - y0)) * (H - FOOT - 8)
  const line = (ys: (number | null | undefined)[]) =>
    ys.map((y, i) => (y == null ? '' : `${i === 0 || ys[i - 1] == null ? 'M' : 'L'}${px(at(i)).toFixed(1)} ${py(y).toFixed(1)}`)).join('')
  const said = (v: number | null | undefined) => (isNumber ? number(v) : share(v))
  const value = (x: number) => (e.kind === 'date' ? date(new Date(x * DAY).toISOString()) : number(x))
  const most = Math.max(1, ...e.counts)
  const text = { fontSize: 11, fill: '#5b6663' }
  const band = [...e.high.map((v, i) => [at(i), v] as const), ...e.low.map((v, i) => [at(i), v] as const).reverse()].filter(
    (p): p is readonly [number, number] => p[1] != null,
  )
  return (
    <Chart
      title={e.says}
      sub={`${isNumber ? target : what} if only ${e.column} changed; pale: single records; bars at the foot: records by ${e.column}${e.edges.length > 0 ? '; dotted: only what really occurs' : ''}.`}
      height={H + 4}
      name={`effect-${e.column}-trial-${trialNumber}`}
      drawn={
        <svg width={W} height={H} role="img" aria-label={e.says}>
          {roundTicks([y0, y1], 5).map((v) => (
            <g key={v}>
              <path d={`M${LEFT} ${py(v)}H${W - RIGHT}`} stroke="#dcd4c4" />
              <text x={LEFT - 6} y={py(v) + 4} textAnchor="end" {...text}>
                {isNumber ? tick(v) : `${Math.round(100 * v)}%`}
              </text>
            </g>
          ))}
          {e.counts.map((c, i) => {
            const w = ((W - LEFT - RIGHT) / Math.max(1, n)) * 0.8
            const h = (c / most) * 34
            return <rect key={i} x={px(at(i)) - w / 2} y={H - FOOT - h} width={w} height={h} fill="#e6dcc8" />
          })}
          {e.from != null && e.to != null && (
            <>
              <path d={`M${px(e.from)} 8V${H - FOOT}M${px(e.to)} 8V${H - FOOT}`} stroke="#1c2b2a" strokeDasharray="2 3" />
            </>
          )}
          {e.singles.map((s, i) => (
            <path key={i} d={line(s.ys)} fill="none" stroke="#b9af9b" strokeWidth="0.8" opacity="0.7" />
          ))}
          {band.length > 2 && (
            <path
              d={`${band.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${px(x).toFixed(1)} ${py(y).toFixed(1)}`).join('')}Z`}
              fill="#1b6e62"
              opacity="0.13"
            />
          )}
          {e.edges.length > 0 && (
            <path
              d={e.edges.map((x, i) => `${i === 0 ? 'M' : 'L'}${px(x).toFixed(1)} ${py(e.accumulated[i] ?? 0).toFixed(1)}`).join('')}
              fill="none"
              stroke="#1b6e62"
              strokeWidth="1.6"
              strokeDasharray="1.5 3"
            />
          )}
          <path d={line(e.mean)} fill="none" stroke="#1b6e62" strokeWidth="2.6" />
          {e.kind === 'category' && e.mean.map((y, i) => y != null && <circle key={i} cx={px(i)} cy={py(y)} r={3.4} fill="#1b6e62" />)}
          <text x={W - RIGHT + 6} y={py(e.mean.at(-1) ?? 0) + 4} fontSize="11.5" fontWeight="700" fill="#1b6e62">
            all
          </text>
          {e.named.map((s, k) => {
            const own = e.kind === 'category' ? e.levels.indexOf(s.value ?? '') : Number(s.value)
            const shown =
              s.value != null && s.answer != null && Number.isFinite(own) && (e.kind !== 'category' || own >= 0) && e.kind !== 'date'
            return (
              <g key={s.number}>
                <path
                  d={line(s.ys)}
                  fill="none"
                  stroke={NAMED[k % NAMED.length]}
                  strokeWidth="1.8"
                  {...(DASHES[k] === undefined ? {} : { strokeDasharray: DASHES[k] })}
                />
                {shown && (
                  <circle cx={px(own)} cy={py(s.answer!)} r={4} fill="#fffdf8" stroke={NAMED[k % NAMED.length]} strokeWidth="1.8" />
                )}
                <text x={W - RIGHT + 6} y={py(s.ys.at(-1) ?? 0) + 4} fontSize="11.5" fontWeight="600" fill={NAMED[k % NAMED.length]}>
                  record {s.number}
                </text>
              </g>
            )
          })}
          {e.kind === 'category'
            ? e.levels.map((l, i) => (
                <text key={l} x={px(i)} y={H - FOOT + 14 + (i % 2) * 12} textAnchor="middle" {...text}>
                  {l.slice(0, Math.max(5, Math.floor(140 / n)))}
                </text>
              ))
            : roundTicks([x0, x1], e.kind === 'date' ? 3 : 6).map((v) => (
                <text key={v} x={px(v)} y={H - FOOT + 14} textAnchor="middle" {...text}>
                  {value(v)}
                </text>
              ))}
          <text x={(LEFT + W - RIGHT) / 2} y={H - 4} textAnchor="middle" {...text}>
            {e.column}
          </text>
        </svg>
      }
      data={{
        heads: [e.column, 'mean', 'low', 'high', 'records', ...e.named.map((s) => `record ${s.number}`)],
        rows: e.mean.map((m, i) => [
          e.kind === 'category' ? (e.levels[i] ?? '') : value(e.xs[i] ?? 0),
          said(m),
          said(e.low[i]),
          said(e.high[i]),
          whole(e.counts[i]),
          ...e.named.map((s) => said(s.ys[i])),
        ]),
      }}
      how={
        <>
          <p>
            The thick line is the mean answer over 200 open records when {e.column} alone is set to each value and everything else stays;
            the shade is its 95% interval for how differently single records bend. Thin lines are single records. A ring marks a named
            record as it is.
          </p>
          {e.edges.length > 0 && (
            <p>
              The dotted line adds up small changes of records that really lie there (accumulated local effects). Where columns go together
              it is the one to trust: the thick line then asks for records that hardly occur.
            </p>
          )}
          <p>An effect in a model is no cause: changing the column in the world may change other things, or nothing.</p>
        </>
      }
    />
  )
}
