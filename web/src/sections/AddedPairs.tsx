import { signed, whole } from '../ui/format'
import type { SectionOf } from '../data/judgment'

type Pair = SectionOf<'curves'>['joint'][number]

/** A cell for each two values: ochre adds, blue takes away. */
export function Cells({ pair, reach, width, height }: { pair: Pair; reach: number; width: number; height: number }) {
  const { places, across } = filled(pair)
  return (
    <svg viewBox={`0 0 ${width} ${height}`} width="100%" height={height} preserveAspectRatio="none" aria-hidden="true">
      {places.map((i, x) =>
        across.map((j, y) => {
          const [v, n] = [pair.adds[i]![j]!, pair.counts[i]![j]!]
          return (
            <rect
              key={`${i} ${j}`}
              x={(x * width) / places.length}
              y={((across.length - 1 - y) * height) / across.length}
              width={width / places.length}
              height={height / across.length}
              fill={n === 0 ? '#F3EEE4' : v > 0 ? '#B9771E' : '#4A6595'}
              opacity={n === 0 ? 1 : Math.min(1, Math.abs(v) / (0.6 * reach))}
            />
          )
        }),
      )}
    </svg>
  )
}

/** Places of both columns in which there are records. */
function filled(pair: Pair) {
  return {
    places: pair.firstLabels.map((_, i) => i).filter((i) => pair.counts[i]!.some((n) => n > 0)),
    across: pair.secondLabels.map((_, j) => j).filter((j) => pair.counts.some((own) => own[j]! > 0)),
  }
}

export function LargePair({ pair, isOdds }: { pair: Pair; isOdds: boolean }) {
  const most = Math.max(1e-9, ...pair.adds.flatMap((own, i) => own.map((v, j) => ((pair.counts[i]?.[j] ?? 0) > 0 ? Math.abs(v) : 0))))
  const { places, across } = filled(pair)
  return (
    <figure className="flush">
      <h2 className="fig-title">
        {pair.first} and {pair.second}, {pair.says}
      </h2>
      <p className="fig-sub">
        What the two add together{isOdds ? ' to the log-odds' : ''}, beyond their own curves; ochre adds, blue takes away. Cells without a
        record are empty.
      </p>
      <div style={{ overflow: 'auto' }} tabIndex={0} role="region" aria-label={`${pair.first} and ${pair.second}, cell by cell`}>
        <table className="ledger" aria-label={`What ${pair.first} and ${pair.second} add together`} style={{ width: 'auto', fontSize: 12 }}>
          <thead>
            <tr>
              <th>
                {pair.first} ↓ {pair.second} →
              </th>
              {across.map((j) => (
                <th key={j} className="n" style={{ maxWidth: 70, whiteSpace: 'normal' }}>
                  {pair.secondLabels[j]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {places.map((i) => (
              <tr key={i}>
                <td className="nm">{pair.firstLabels[i]}</td>
                {across.map((j) => {
                  const [v, n] = [pair.adds[i]![j]!, pair.counts[i]![j]!]
                  const tint = Math.round((45 * Math.abs(v)) / most)
                  return (
                    <td
                      key={j}
                      className="n"
                      title={`${whole(n)} training records`}
                      style={n > 0 ? { background: `color-mix(in srgb, ${v > 0 ? '#B9771E' : '#4A6595'} ${tint}%, transparent)` } : {}}
                    >
                      {n > 0 ? signed(v) : ''}
                    </td>
                  )
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </figure>
  )
}
