/** A thin line with a dot: an interval on a scale shared with the heading. */
export function IntervalMark({
  value,
  low,
  high,
  scale,
  width = 88,
  height = 24,
  tone = 'ink',
  reference,
}: {
  value: number | null | undefined
  low?: number | null
  high?: number | null
  scale: [number, number]
  width?: number
  height?: number
  tone?: 'ink' | 'verdigris' | 'brass' | 'soft'
  reference?: number
}) {
  const x = (v: number) => 4 + ((Math.min(Math.max(v, scale[0]), scale[1]) - scale[0]) / (scale[1] - scale[0])) * (width - 8)
  const kind = { ink: '', verdigris: 'v', brass: 'b', soft: 's' }[tone]
  return (
    <svg width={width} height={height} aria-hidden="true">
      {reference !== undefined && <path d={`M${x(reference)} 0V${height}`} stroke="var(--rule-firm)" strokeDasharray="3 2" />}
      {value != null && (
        <g className={`iv ${kind}`}>
          {low != null && high != null && <line x1={x(low)} x2={x(high)} y1={height / 2} y2={height / 2} />}
          <circle cx={x(value)} cy={height / 2} r={2.6} />
        </g>
      )}
    </svg>
  )
}
