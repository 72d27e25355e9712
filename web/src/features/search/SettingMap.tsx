import type { View } from '../../api/client'
import { figure, type Figure } from '../../ui/measure'

/** The two settings that did most, as a map: the mean of the best few tries in each cell. */
export function SettingMap({ map, measure }: { map: View<'MapView'>; measure: Figure }) {
  const values = map.cells.flat().filter((v): v is number => v != null)
  const [low, high] = [Math.min(...values), Math.max(...values)]
  // 0 = worst of the map, 1 = best.
  const place = (v: number) => (high > low ? (measure.more ? v - low : high - v) / (high - low) : 1)
  return (
    <>
      <h2 className="fig-title">
        {map.x} and {map.y.toLowerCase()} together
      </h2>
      <p className="fig-sub">Mean {measure.name} of the six best tries in each cell; a dash where nothing was tried.</p>
      <table className="ledger tight" aria-label={`${map.x} and ${map.y}`} style={{ width: 'auto' }}>
        <thead>
          <tr>
            <th className="n soft">{map.y}</th>
            {map.across.map((a) => (
              <th key={a} className="n">
                {a}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {map.up
            .map((u, i) => ({ u, cells: map.cells[i]! }))
            .reverse()
            .map(({ u, cells }) => (
              <tr key={u}>
                <th scope="row" className="n soft">
                  {u}
                </th>
                {cells.map((v, j) => (
                  <td
                    key={map.across[j]}
                    className="n"
                    style={
                      v == null
                        ? { border: '1px dashed var(--rule-firm)', color: 'var(--ink-soft)' }
                        : { background: `color-mix(in srgb, var(--verdigris) ${Math.round(45 * place(v))}%, var(--paper))` }
                    }
                  >
                    {v == null ? '–' : v === (measure.more ? high : low) ? <b>{figure(measure, v)}</b> : figure(measure, v)}
                  </td>
                ))}
              </tr>
            ))}
        </tbody>
      </table>
      <p className="small soft above-6">
        {map.x} runs to the right, {map.y.toLowerCase()} upward.
      </p>
    </>
  )
}
