import { Button } from '@mui/material'
import { useCurve, useDrawCurve } from '../data/trial'
import { share, whole } from '../ui/format'
import { figure, figured } from '../ui/measure'
import { Trouble } from '../ui/Trouble'

const [WIDE, HIGH, LEFT] = [420, 170, 52]

/** The figure of a trial that learned from more and more of the training rows; those judged on stay the same. */
export function LearningCurve({ trialId }: { trialId: number }) {
  const curve = useCurve(trialId)
  const draw = useDrawCurve(trialId)
  const c = curve.data
  if (!c) return null
  const points = c.points.filter((p) => p.value != null)
  const all = points.flatMap((p) => [p.low ?? p.value!, p.high ?? p.value!])
  const [low, high] = [Math.min(...all), Math.max(...all)]
  const x = (s: number) => LEFT + s * (WIDE - LEFT - 14)
  const y = (v: number) => 10 + ((high - v) / Math.max(1e-12, high - low)) * (HIGH - 46)
  return (
    <section className="pad ruled-above" aria-label="Learning curve">
      <h2 className="fig-title">
        {c.says ?? (points.length > 0 ? 'Whether more records would help cannot be told' : 'Would more records help?')}
      </h2>
      <p className="fig-sub">
        {c.measure.name} when it learns from 10, 20, 40, 70 and 100% of the training rows, on the same validation rows, with 95% intervals.
      </p>
      <Trouble error={draw.error ?? curve.error} />
      {points.length === 0 ? (
        <Button size="small" disabled={draw.isPending || c.jobId != null} onClick={() => draw.mutate()}>
          {c.jobId != null ? 'Being drawn…' : 'Draw the learning curve'}
        </Button>
      ) : (
        <svg
          viewBox={`0 0 ${WIDE} ${HIGH}`}
          style={{ width: '100%', maxWidth: 520, display: 'block' }}
          role="img"
          aria-label={points.map((p) => `${share(p.share, 0)} of the rows: ${figured(c.measure, p)}`).join('; ')}
        >
          {[low, high].map((v) => (
            <g key={v}>
              <path d={`M${LEFT} ${y(v)}H${WIDE}`} stroke="var(--rule)" />
              <text x={LEFT - 6} y={y(v) + 4} textAnchor="end" className="ax">
                {figure(c.measure, v)}
              </text>
            </g>
          ))}
          <path
            d={points.map((p, i) => `${i === 0 ? 'M' : 'L'}${x(p.share)} ${y(p.value!)}`).join('')}
            fill="none"
            stroke="var(--verdigris)"
            strokeWidth="1.4"
          />
          {points.map((p) => (
            <g key={p.share}>
              <title>{`${whole(p.rows)} rows: ${figured(c.measure, p)}`}</title>
              {p.low != null && p.high != null && (
                <path d={`M${x(p.share)} ${y(p.low)}V${y(p.high)}`} stroke="var(--verdigris)" strokeWidth="1.4" />
              )}
              <circle cx={x(p.share)} cy={y(p.value!)} r="3.2" fill="var(--verdigris)" />
              <text x={x(p.share)} y={HIGH - 16} textAnchor="middle" className="ax">
                {whole(p.rows)}
              </text>
            </g>
          ))}
          <text x={(LEFT + WIDE) / 2} y={HIGH - 2} textAnchor="middle" className="ax">
            rows to learn from
          </text>
        </svg>
      )}
    </section>
  )
}
