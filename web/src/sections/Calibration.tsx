import { Chart } from '../ui/Chart'
import { share, whole } from '../ui/format'
import { tokens } from '../ui/theme'
import { type Judgment, sectionOf, type SectionOf } from '../data/judgment'

const SIDE = 230
const LEFT = 34
const BASE = 206

/** Groups whose chances did not come true: the interval of what came misses what was given. */
export function missed(bins: SectionOf<'event'>['calibration']) {
  return bins.filter((b) => b.rateLow != null && b.rateHigh != null && (b.mean < b.rateLow || b.mean > b.rateHigh))
}

/** Whether chances come true: ten groups of about equal size, each with the interval of the share that came. */
export function Calibration({ section, judgment }: { section: SectionOf<'event'>; judgment: Judgment }) {
  const bins = section.calibration
  const before = sectionOf(judgment, 'calibrated')?.before ?? []
  if (bins.length === 0) return null
  const off = missed(bins)
  const worst = off.reduce<(typeof bins)[number] | null>(
    (w, b) => (w === null || Math.abs(b.mean - b.rate) > Math.abs(w.mean - w.rate) ? b : w),
    null,
  )
  // With ten intervals of 95 %, one that fails is no news.
  const title = worst === null || off.length < 2 ? 'Its chances hold good' : `Given ${share(worst.mean, 0)}, ${share(worst.rate, 0)} came`
  const most = Math.min(1, Math.max(...[...bins, ...before].map((b) => Math.max(b.mean, b.rateHigh ?? b.rate))) * 1.06)
  const step = [0.02, 0.05, 0.1, 0.2, 0.25].find((s) => most / s <= 5) ?? 0.25
  const x = (v: number) => LEFT + (v / most) * (SIDE - LEFT - 6)
  const y = (v: number) => BASE - (v / most) * (BASE - 10)
  const ticks = Array.from({ length: Math.floor(most / step) + 1 }, (_, i) => i * step)
  return (
    <Chart
      title={title}
      sub={`Share with “${judgment.event}” that came, by chance given, with its 95% interval${before.length > 0 ? '; rings: before calibration' : ''}.`}
      height={240}
      name={`calibration-trial-${judgment.trial.number}`}
      data={{
        heads: ['chances from', 'to', 'mean chance', 'came', 'from', 'to', 'rows'],
        rows: bins.map((b) => [share(b.low), share(b.high), share(b.mean), share(b.rate), share(b.rateLow), share(b.rateHigh), b.rows]),
      }}
      how={
        <>
          <p>
            Rows are sorted by the chance they were given and cut into ten groups of about equal size. A dot stands where the mean chance
            (to the right) meets the share that came (upward), with Wilson’s interval. On the dashed line chances come true as they were
            given.
          </p>
          <p>
            Dots above the line: more came than was said; below: fewer. A group whose interval misses the line is drawn in brass. Of ten
            intervals one may miss it by chance. Costs are only weighed rightly where chances hold good.
          </p>
        </>
      }
      drawn={
        <svg viewBox={`0 0 ${SIDE} 240`} style={{ width: '100%', maxWidth: 280, display: 'block' }}>
          {ticks.map((t) => (
            <g key={t}>
              <path d={`M${LEFT} ${y(t)}H${SIDE - 6}`} stroke={tokens.rule} />
              <text x={LEFT - 6} y={y(t) + 4} textAnchor="end" fontSize="11" fill={tokens.inkSoft}>
                {share(t, 0)}
              </text>
              <text x={x(t)} y={BASE + 15} textAnchor={t === ticks.at(-1) ? 'end' : 'middle'} fontSize="11" fill={tokens.inkSoft}>
                {share(t, 0)}
              </text>
            </g>
          ))}
          <path d={`M${x(0)} ${y(0)}L${x(most)} ${y(most)}`} stroke={tokens.ruleFirm} strokeDasharray="4 3" />
          {before.map((b) => (
            <circle key={`before-${b.low}`} cx={x(b.mean)} cy={y(b.rate)} r={3} fill="none" stroke={tokens.brass} strokeWidth="1.2" />
          ))}
          {bins.map((b) => {
            const color = off.includes(b) ? tokens.brass : tokens.verdigris
            return (
              <g key={b.low}>
                <title>{`Given ${share(b.mean)}, ${share(b.rate)} came (${whole(b.events)} of ${whole(b.rows)})`}</title>
                {b.rateLow != null && (
                  <path d={`M${x(b.mean)} ${y(b.rateLow)}V${y(b.rateHigh ?? b.rate)}`} stroke={color} strokeWidth="1.4" />
                )}
                <circle cx={x(b.mean)} cy={y(b.rate)} r={3.4} fill={color} />
              </g>
            )
          })}
          <text x={(LEFT + SIDE) / 2} y={236} textAnchor="middle" fontSize="11" fill={tokens.inkSoft}>
            chance given
          </text>
        </svg>
      }
    />
  )
}
