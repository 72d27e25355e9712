/** How validation rows are taken, in a heading. */
export function divided(way: string | undefined, folds: number): string {
  if (way === 'time') return folds > 1 ? 'Each stretch of time is judged by what came before it' : 'The last quarter of the time validates'
  if (way === 'marker') return 'The marked rows validate'
  if (way === 'group')
    return folds > 1 ? `Whole groups: each fold validates once while ${folds - 1} train` : 'A quarter of the groups validates'
  return folds > 1 ? `Each fold validates once while ${folds - 1} train; then all again` : 'A quarter of the open rows validates'
}

/** Folds as lines of a band, the sealed rows hatched beside them. */
export function SplitBand({ folds, repeats, open, sealed }: { folds: number; repeats: number; open: number; sealed: number }) {
  const width = 440
  const part = sealed / Math.max(1, open + sealed)
  const band = width * (1 - part) - 8
  const lines = Math.max(1, Math.min(folds, 8))
  const h = Math.max(7, 46 / lines)
  return (
    <svg
      width={width}
      height={lines * h + 20}
      role="img"
      aria-label={`${folds} folds, ${repeats} times; ${sealed} rows sealed`}
      style={{ marginTop: 6, maxWidth: '100%' }}
    >
      <defs>
        <pattern id="seal" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="5" height="5" fill="var(--brass-wash)" />
          <path d="M0 0V5" stroke="var(--brass)" strokeWidth="1" />
        </pattern>
      </defs>
      {Array.from({ length: lines }, (_, i) => (
        <g key={i}>
          {Array.from({ length: folds > 1 ? lines : 4 }, (_, j) => {
            const n = folds > 1 ? lines : 4
            return (
              <rect
                key={j}
                x={(band / n) * j}
                y={i * h}
                width={band / n - 1}
                height={h - 1}
                fill={(folds > 1 ? j === i : j === 3) ? 'var(--verdigris)' : 'var(--rule)'}
              />
            )
          })}
        </g>
      ))}
      <rect x={band + 8} y={0} width={width * part} height={lines * h - 1} fill="url(#seal)" stroke="var(--brass)" />
      <text x={0} y={lines * h + 14} className="ax">
        {folds > 1 ? `${folds} folds, ${repeats} times` : 'one validation part'}
      </text>
      <text x={width} y={lines * h + 14} textAnchor="end" className="ax b">
        {sealed.toLocaleString('en-US')} sealed
      </text>
    </svg>
  )
}
