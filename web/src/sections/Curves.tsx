import { useMemo } from 'react'
import { useAddress } from '../ui/address'
import { Chart } from '../ui/Chart'
import { fixed, share } from '../ui/format'
import { tokens } from '../ui/theme'
import type { CutoffFigures, Judgment, SectionOf } from '../data/judgment'
import { type Curve, CURVES, type Point, pointsOf } from './curves'

/** How chances rank: five curves of the same cut-offs, one large and all of them small below. */
export function Curves({ section, judgment, at }: { section: SectionOf<'event'>; judgment: Judgment; at: CutoffFigures }) {
  const [params, set] = useAddress()
  const figures = section
  const points = useMemo(() => pointsOf(figures), [figures])
  const curve = CURVES.find((c) => c.name === params.get('curve')) ?? CURVES[0]!
  const option = useMemo(() => drawn(curve, points, at, figures.baseRate ?? 0), [curve, points, at, figures.baseRate])
  return (
    <>
      <Chart
        key={curve.name}
        title={curve.title(figures, points, judgment.event ?? '')}
        sub={`${curve.y.name}. ${curve.sub(figures)}`}
        option={option}
        height={248}
        name={`${curve.name}-trial-${judgment.trial.number}`}
        data={{
          heads: ['cut-off', 'called', 'caught', 'called in vain', 'right, of the called', 'lift'],
          rows: points.map((p) => [
            fixed(p.cutoff),
            share(p.called),
            share(p.caught),
            share(p.vain),
            share(p.precision),
            p.lift?.toFixed(2) ?? null,
          ]),
        }}
        how={
          <>
            {curve.how.map((h) => (
              <p key={h}>{h}</p>
            ))}
            <p>Chances are those of rows that the model had not seen, averaged over the repeats.</p>
          </>
        }
      />
      <div className="curves" role="group" aria-label="Curves">
        {CURVES.map((c) => (
          <button key={c.name} type="button" aria-pressed={c === curve} onClick={() => set({ curve: c.name === 'roc' ? null : c.name })}>
            <Small curve={c} points={points} />
            {c.label}
            <b>{c.value(figures, points)}</b>
          </button>
        ))}
      </div>
    </>
  )
}

/** At the left of lift and precision a handful of records decides: the axis is that of the rest. */
function top(curve: Curve, points: Point[]): number {
  if (curve.y.of !== 'lift') return 1
  return Math.max(1.2, ...points.filter((p) => p.called >= 0.02).map((p) => p.lift ?? 0)) * 1.1
}

function drawn(curve: Curve, points: Point[], at: CutoffFigures, rate: number) {
  const calls = at.tp + at.fp
  const all = calls + at.fn + at.tn
  const here: Record<string, number> = {
    vain: at.fp / Math.max(1, at.fp + at.tn),
    caught: at.tp / Math.max(1, at.tp + at.fn),
    called: calls / Math.max(1, all),
    precision: at.tp / Math.max(1, calls),
    lift: at.tp / Math.max(1, calls) / Math.max(1e-9, rate),
  }
  const percent = (v: number) => String(Math.round(100 * v))
  const line = (of: 'caught' | 'precision' | 'lift' | 'vain', color: string) => ({
    type: 'line',
    data: points.filter((p) => p[of] !== null).map((p) => [p[curve.x.of], p[of]]),
    showSymbol: false,
    lineStyle: { width: 2, color },
    areaStyle: of === 'caught' && !curve.y.also ? { color, opacity: 0.05 } : undefined,
  })
  return {
    grid: { left: 40, right: 14, top: 14, bottom: 40 },
    tooltip: {
      trigger: 'item',
      formatter: (p: { data: [number, number] }) =>
        `${curve.y.of === 'lift' ? `${p.data[1].toFixed(2)} times` : share(p.data[1])} at ${share(p.data[0])}`,
    },
    xAxis: { type: 'value', min: 0, max: 1, name: curve.x.name, nameLocation: 'middle', nameGap: 24, axisLabel: { formatter: percent } },
    yAxis: {
      type: 'value',
      min: 0,
      max: top(curve, points),
      axisLabel: { formatter: curve.y.of === 'lift' ? (v: number) => v.toFixed(1) : percent, showMaxLabel: curve.y.of !== 'lift' },
    },
    series: [
      line(curve.y.of, tokens.verdigris),
      ...(curve.y.also ? [line(curve.y.also, tokens.brass)] : []),
      {
        type: 'line',
        data: curve.nothing(rate),
        showSymbol: false,
        silent: true,
        lineStyle: { width: 1, type: 'dashed', color: tokens.ruleFirm },
      },
      {
        type: 'scatter',
        data: [[here[curve.x.of] ?? 0, here[curve.y.of] ?? 0]],
        symbolSize: 11,
        itemStyle: { color: tokens.paper, borderColor: tokens.brass, borderWidth: 2 },
        label: {
          show: true,
          formatter: `cut-off ${share(at.cutoff, 0)}`,
          position: (here[curve.x.of] ?? 0) > 0.7 ? 'left' : 'right',
          fontSize: 11,
          color: tokens.ink,
        },
      },
    ],
  }
}

function Small({ curve, points }: { curve: Curve; points: Point[] }) {
  const high = top(curve, points)
  const path = (of: 'caught' | 'precision' | 'lift' | 'vain') =>
    points
      .filter((p) => p[of] !== null)
      .map(
        (p, i) =>
          `${i === 0 ? 'M' : 'L'}${(2 + 52 * Number(p[curve.x.of])).toFixed(1)} ${(30 - 27 * Math.min(1, Number(p[of]) / high)).toFixed(1)}`,
      )
      .join('')
  return (
    <svg width={56} height={32} aria-hidden="true">
      <path d="M2 1V30H55" fill="none" stroke="var(--rule-firm)" />
      <path d={path(curve.y.of)} fill="none" stroke="var(--verdigris)" strokeWidth="1.4" />
      {curve.y.also && <path d={path(curve.y.also)} fill="none" stroke="var(--brass)" strokeWidth="1.2" />}
    </svg>
  )
}
