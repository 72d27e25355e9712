import { share, whole } from '../../ui/format'
import { tokens } from '../../ui/theme'
import type { Tile } from '../../data/picture'

/** Tiles as wide as the values across are frequent, cut by the shares of the values up. */
export function MosaicDrawing({
  parts,
  x,
  y,
  told,
  top,
  onPick,
}: {
  parts: Tile[]
  x: string
  y: string
  told: boolean
  top: number
  onPick: (index: number) => void
}) {
  const across = [...new Set(parts.map((p) => p.x))]
  const up = [...new Set(parts.map((p) => p.y))]
  const width = (v: string) => parts.filter((p) => p.x === v).reduce((s, p) => s + p.records, 0)
  const total = across.reduce((s, v) => s + width(v), 0) || 1
  const [w, h, left, gap] = [560, 380, 116, 2]
  const inner = w - gap * across.length
  const places = across.map((v, i) => ({
    v,
    from: left + gap * i + (across.slice(0, i).reduce((s, o) => s + width(o), 0) / total) * inner,
    wide: (width(v) / total) * inner,
  }))
  return (
    <svg width={left + w + 10} height={h + 74} fontFamily='"Public Sans Variable", sans-serif' fontSize={12}>
      {places.map(({ v, from, wide }, i) => {
        const own = parts.filter((p) => p.x === v)
        const sum = own.reduce((s, p) => s + p.records, 0) || 1
        return (
          <g key={v}>
            {own.map((p, j) => {
              const below = own.slice(0, j).reduce((s, o) => s + o.records, 0)
              const tall = (p.records / sum) * (h - gap * up.length)
              const at = h - (below / sum) * (h - gap * up.length) - gap * j - tall
              return (
                <g key={p.y} onClick={() => onPick(parts.indexOf(p))} className="pressable">
                  <title>{`${p.x}, ${p.y}: ${whole(p.records)} records, ${share(p.records / sum)} of ${p.x}${told && p.judged >= 15 ? `; ${share(p.share)}, ${share(p.low)} to ${share(p.high)}` : ''}`}</title>
                  <rect x={from} y={at} width={Math.max(0.5, wide)} height={Math.max(0.5, tall)} fill={tint(p, j, told, top)} />
                  {wide > 40 && tall > 15 && (
                    <text
                      x={from + wide / 2}
                      y={at + tall / 2 + 4}
                      textAnchor="middle"
                      fontSize={11}
                      fill={told && (p.share ?? 0) > 0.6 * top && p.judged >= 15 ? tokens.paper : tokens.ink}
                    >
                      {told && p.judged >= 15 ? share(p.share, 0) : whole(p.records)}
                    </text>
                  )}
                  {i === 0 && tall > 11 && (
                    <text x={left - 8} y={at + tall / 2 + 4} textAnchor="end" fill={tokens.ink}>
                      {p.y.length > 16 ? `${p.y.slice(0, 15)}…` : p.y}
                    </text>
                  )}
                </g>
              )
            })}
            <text
              transform={`translate(${from + wide / 2} ${h + 14}) rotate(${across.length > 5 ? 28 : 0})`}
              textAnchor={across.length > 5 ? 'start' : 'middle'}
              fill={tokens.ink}
            >
              {v.length > 14 ? `${v.slice(0, 13)}…` : v}
            </text>
          </g>
        )
      })}
      <text x={left + w / 2} y={h + 68} textAnchor="middle" fontSize={11} fill={tokens.inkSoft}>
        {x} across, {y} up
      </text>
    </svg>
  )
}

function tint(p: Tile, j: number, told: boolean, top: number): string {
  if (!told) return ['#C3B69D', '#DCD4C4', '#B7C3BB', '#E4DCCB', '#A9B3AE', '#D3C3A2'][j % 6]!
  if (p.judged < 15 || p.share === null) return '#E4DCCB'
  const t = Math.min(1, p.share / top)
  const mix = (a: number, b: number) => Math.round(a + (b - a) * t)
  return `rgb(${mix(232, 27)},${mix(236, 110)},${mix(226, 98)})`
}
