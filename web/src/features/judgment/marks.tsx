import type { Distance, Trial } from '../../data/trial'
import { count } from '../../ui/format'
import { type Figure, figure, figured } from '../../ui/measure'
import { roundTicks } from '../../ui/scale'

/** The scale over the marks of all trials. */
export function Axis({ scale, width, measure }: { scale: [number, number]; width: number; measure: Figure | undefined }) {
  return (
    <svg width={width} height="14" aria-hidden="true">
      {roundTicks(scale).map((v, i, all) => (
        <text
          key={v}
          x={place(v, scale, width)}
          y={11}
          className="ax"
          textAnchor={i === 0 ? 'start' : i === all.length - 1 && measure?.more ? 'end' : 'middle'}
        >
          {measure?.most === 1 && v < 1 ? v.toFixed(1).slice(1) : v}
        </text>
      ))}
    </svg>
  )
}

function place(v: number, scale: [number, number], width: number): number {
  return 4 + ((Math.max(scale[0], Math.min(scale[1], v)) - scale[0]) / (scale[1] - scale[0])) * (width - 8)
}

/** The distance to the leader in a sentence. */
export function against(d: Distance, measure: Figure | undefined): string {
  return d.low != null && d.high != null
    ? `${figure(measure, d.difference)} against the leader on the ${count(d.both, 'row')} that both answer for; ${figure(measure, d.low)} to ${figure(measure, d.high)}, 95% for all pairs of trials at once`
    : `${figure(measure, d.difference)} against the leader; not on the same rows, so nothing is told apart`
}

/** Its figure with interval, its training figure and the baseline, on one scale. */
export function Marks({
  trial,
  leads,
  scale,
  baseline,
  width,
}: {
  trial: Trial
  leads: boolean
  scale: [number, number]
  baseline?: number | null
  width: number
}) {
  const x = (v: number) => place(v, scale, width)
  return (
    <svg
      width={width}
      height="26"
      role="img"
      aria-label={`${trial.measure.name} ${figured(trial.measure, trial)}; on its own training rows ${figure(trial.measure, trial.training)}`}
    >
      {roundTicks(scale)
        .slice(1, -1)
        .map((v) => (
          <path key={v} d={`M${x(v)} 0V26`} stroke="var(--rule)" />
        ))}
      {baseline != null && <path d={`M${x(baseline)} 0V26`} stroke="var(--brass)" strokeDasharray="3 2" />}
      {trial.value != null && (
        <>
          {trial.training != null && (
            <>
              <path d={`M${x(trial.value)} 13H${x(trial.training)}`} stroke="var(--ink-soft)" strokeDasharray="1.5 2.5" />
              <circle cx={x(trial.training)} cy={13} r={2.6} fill="var(--paper)" stroke="var(--ink-soft)" />
            </>
          )}
          <g className={`iv ${leads ? 'v' : ''}`}>
            {trial.low != null && trial.high != null && <line x1={x(trial.low)} x2={x(trial.high)} y1={13} y2={13} />}
            <circle cx={x(trial.value)} cy={13} r={2.8} />
          </g>
        </>
      )}
    </svg>
  )
}
