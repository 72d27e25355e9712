/** The ticks of a narrow scale in the head of a ledger. */
export function Scale({
  scale,
  ticks,
  write,
  width,
}: {
  scale: [number, number]
  ticks: number[]
  write: (v: number) => string
  width: number
}) {
  const margin = 0.07 * (scale[1] - scale[0])
  const inside = ticks.filter((t) => t >= scale[0] + margin / 2 && t <= scale[1] - margin)
  const x = (v: number) => 4 + ((v - scale[0]) / (scale[1] - scale[0])) * (width - 8)
  return (
    <svg width={width} height={14} aria-hidden="true">
      {inside.map((t) => (
        <text key={t} x={x(t)} y={11} textAnchor="middle" fontSize="11" fill="currentColor">
          {write(t)}
        </text>
      ))}
    </svg>
  )
}

/** From the lowest to the highest mean outcome of a column's parts. */
export function Span({
  low,
  high,
  scale,
  write,
}: {
  low?: number | null
  high?: number | null
  scale: [number, number]
  write: (v: number) => string
}) {
  if (low == null || high == null) return null
  const x = (v: number) => 4 + ((Math.min(Math.max(v, scale[0]), scale[1]) - scale[0]) / (scale[1] - scale[0])) * 96
  return (
    <svg width={104} height={24} role="img" aria-label={`${write(low)} to ${write(high)}`}>
      <path d={`M${x(low)} 12H${x(high)}`} stroke="#C3B69D" strokeWidth="3" />
      <circle cx={x(low)} cy={12} r={3} fill="var(--paper)" stroke="var(--ink)" />
      <circle cx={x(high)} cy={12} r={3.2} fill="var(--ink)" />
    </svg>
  )
}
