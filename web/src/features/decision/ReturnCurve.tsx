import { type Decision, money } from '../../data/list'
import { Chart } from '../../ui/Chart'
import { tick, whole } from '../../ui/format'

const W = 480
const H = 118
const LEFT = 52

/** A step of an axis that gives a few round marks. */
function stepFor(reach: number): number {
  const rough = reach / 3
  const power = 10 ** Math.floor(Math.log10(Math.max(1e-9, rough)))
  return power * ([1, 2, 5, 10].find((m) => m * power >= rough) ?? 10)
}

/** What the best so many records return together, with how many are acted on, how many would be best, and a list drawn by chance. */
export function ReturnCurve({ decision }: { decision: Decision }) {
  const { curve, acted, best, all, terms } = decision
  const unit = terms.unit
  const n = Math.max(1, all.actions)
  const values = curve.map((p) => p.return)
  const [low, high] = [Math.min(0, ...values), Math.max(1e-9, ...values)]
  const x = (k: number) => LEFT + (k / n) * (W - LEFT - 12)
  const y = (v: number) => H - ((v - low) / (high - low)) * (H - 16)
  const path = (points: typeof curve) =>
    points.map((p, i) => `${i ? 'L' : 'M'}${x(p.actions).toFixed(1)} ${y(p.return).toFixed(1)}`).join('')
  const within = curve.filter((p) => p.actions <= acted.actions)
  const step = stepFor(high - low)
  const marks = []
  for (let v = Math.ceil(low / step) * step; v <= high + 1e-9; v += step) marks.push(v)
  const every = Math.max(1, stepFor(n))
  const counts = Array.from({ length: Math.floor(n / every) + 1 }, (_, i) => i * every)
  const isBest = acted.actions === best.actions && decision.left === 0
  const more = best.actions - acted.actions
  const beside =
    more > 0
      ? `${whole(more)} more would add ${money(best.return - acted.return, unit)}`
      : `the best would bring ${money(best.return, unit)}`
  const title = isBest
    ? `${whole(acted.actions)} actions bring ${money(acted.return, unit)}; no other number brings more`
    : `${whole(acted.actions)} actions bring ${money(acted.return, unit)}; ${beside}`
  // Where each group has its own limit the list is no beginning of the order.
  const isFirst = terms.each == null && decision.left === 0
  return (
    <Chart
      name="return-curve"
      title={title}
      sub="Expected return in all, after all cost, best records first."
      height={H + 22}
      how={
        <p>
          Records are taken in the order of what acting on them is expected to return; the curve adds that up. It rises while another action
          pays and falls from there on: its top is the best number of actions. The brown line is how many are acted on. The dashed line is
          what as many records drawn by chance would bring, and nothing is what no list at all brings.
        </p>
      }
      data={{
        heads: ['Actions', 'Expected return', 'Drawn by chance'],
        rows: curve.map((p) => [p.actions, Number(p.return.toFixed(2)), Number(((all.return * p.actions) / n).toFixed(2))]),
      }}
      drawn={
        <svg viewBox={`0 0 ${W} ${H + 22}`} width="100%" height={H + 22} style={{ display: 'block' }} aria-hidden="true">
          <g fontSize="11" fill="#5C6664" fontFamily="Public Sans, sans-serif">
            {marks.map((v) => (
              <g key={v}>
                <path d={`M${LEFT} ${y(v)}H${W - 12}`} stroke={Math.abs(v) < step / 2 ? '#1D2A2A' : '#E4DCCB'} />
                <text x={LEFT - 5} y={y(v) + 4} textAnchor="end">
                  {v < 0 ? '−' : ''}
                  {tick(Math.abs(Number(v.toPrecision(6))))}
                </text>
              </g>
            ))}
            {isFirst && within.length > 1 && (
              <path d={`${path(within)}L${x(within[within.length - 1]!.actions)} ${y(0)}L${x(0)} ${y(0)}Z`} fill="#1F6F5F" opacity="0.12" />
            )}
            <path d={`M${x(0)} ${y(0)}L${x(n)} ${y(all.return)}`} stroke="#5C6664" strokeDasharray="4 3" fill="none" />
            <path d={path(curve)} stroke="#1F6F5F" strokeWidth="2" fill="none" />
            <text x={x(0.45 * n)} y={y(all.return * 0.45) + (all.return < 0 ? 14 : -5)} textAnchor="end">
              drawn by chance
            </text>
            <circle cx={x(best.actions)} cy={y(best.return)} r="3" fill="#1F6F5F" />
            <path d={`M${x(acted.actions)} 8V${H}`} stroke="#8A5716" strokeWidth="1.5" />
            <circle cx={x(acted.actions)} cy={y(acted.return)} r="4.5" fill="#FFFDF8" stroke="#1F6F5F" strokeWidth="2" />
            <text x={x(n)} y={all.return < 0.5 * best.return ? Math.max(12, y(all.return) - 26) : y(all.return) + 16} textAnchor="end">
              all: {money(all.return, unit)}
            </text>
            {counts.map((k) => (
              <text key={k} x={x(k)} y={H + 15} textAnchor={k > 0.97 * n ? 'end' : 'middle'}>
                {whole(k)}
              </text>
            ))}
          </g>
        </svg>
      }
    />
  )
}
