type Bin = { count: number }

/** A distribution the size of a word: steps for numbers, bars for values, one band for yes/no. */
export function Shape({
  bars,
  steps = false,
  band = false,
  width = 58,
  height = 16,
}: {
  bars: Bin[]
  steps?: boolean
  band?: boolean
  width?: number
  height?: number
}) {
  const total = bars.reduce((s, b) => s + b.count, 0)
  if (total === 0) return <svg width={width} height={height} aria-hidden="true" />
  if (band) {
    const first = ((bars[0]?.count ?? 0) / total) * width
    return (
      <svg width={width} height={height} aria-hidden="true">
        <rect y={5} width={first} height={8} fill="#8E958E" />
        <rect x={first + 1} y={5} width={Math.max(0, width - first - 1)} height={8} fill="var(--rule)" />
      </svg>
    )
  }
  const most = Math.max(...bars.map((b) => b.count))
  const w = width / bars.length
  return (
    <svg width={width} height={height} fill="#8E958E" aria-hidden="true">
      {bars.map((b, i) => {
        const h = Math.max(b.count > 0 ? 0.8 : 0, (b.count / most) * (height - 2))
        return <rect key={i} x={i * w} y={height - 1 - h} width={Math.max(0.5, w - (steps ? 0 : Math.min(1.4, w / 4)))} height={h} />
      })}
    </svg>
  )
}
