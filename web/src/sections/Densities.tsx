import type { SectionOf } from '../data/judgment'

/** Chances given, in forty bins: records with the event above the line, the others below; what is called is dark. */
export function Densities({ histogram, cutoff }: { histogram: SectionOf<'event'>['histogram']; cutoff: number }) {
  if (!histogram) return null
  const width = 300
  const half = 62
  // Square roots: the few at high chances stay visible beside the many at low ones.
  const scale = (values: number[]) => {
    const most = Math.sqrt(Math.max(1, ...values))
    return values.map((v) => (Math.sqrt(v) / most) * (half - 4))
  }
  const up = scale(histogram.events)
  const down = scale(histogram.others)
  const w = width / 40
  const x = cutoff * width
  return (
    <svg
      viewBox={`0 0 ${width} ${2 * half + 18}`}
      style={{ width: '100%', display: 'block', marginTop: 6 }}
      role="img"
      aria-label="Records by chance given, with the event above and without below; heights are square roots of counts"
    >
      {up.map((h, i) => (
        <rect
          key={i}
          x={i * w + 0.5}
          y={half - h}
          width={w - 1}
          height={h}
          fill={(i + 0.5) / 40 >= cutoff ? 'var(--verdigris)' : '#CFC6B4'}
        />
      ))}
      {down.map((h, i) => (
        <rect key={i} x={i * w + 0.5} y={half + 1} width={w - 1} height={h} fill={(i + 0.5) / 40 >= cutoff ? 'var(--c2)' : '#CFC6B4'} />
      ))}
      <path d={`M0 ${half}H${width}`} stroke="var(--ink)" />
      <path d={`M${x} 0V${2 * half}`} stroke="var(--brass)" strokeWidth="1.5" />
      {[0, 25, 50, 75, 100].map((v) => (
        <text key={v} x={(v / 100) * width} y={2 * half + 14} className="ax" textAnchor={v === 0 ? 'start' : v === 100 ? 'end' : 'middle'}>
          {v}%
        </text>
      ))}
    </svg>
  )
}
