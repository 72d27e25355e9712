import { useAddress } from '../ui/address'
import { share } from '../ui/format'
import { Slot } from '../ui/Slot'
import type { SectionOf } from '../data/judgment'

type Line = SectionOf<'evidence'>['evidence'][number]
const FEW = 16

/** What each value speaks for: how many times it multiplies the odds of a class, the loudest first. */
export function Evidence({ section }: { section: SectionOf<'evidence'> }) {
  const [params, set] = useAddress()
  const last = section.classes.length - 1
  const chosen = params.get('for') === null ? last : Math.max(0, section.classes.indexOf(params.get('for')!))
  const all = params.get('values') === 'all'
  const weight = (l: Line) => l.weights[chosen] ?? 0
  // What hardly ever occurs is no evidence to speak of, however loud.
  const loud = [...section.evidence].sort((a, b) => Math.abs(weight(b)) * Math.sqrt(b.share) - Math.abs(weight(a)) * Math.sqrt(a.share))
  const shown = all ? section.evidence : loud.slice(0, FEW)
  const most = Math.max(0.01, ...shown.map((l) => Math.abs(weight(l))))
  const first = [...loud].filter((l) => l.share >= 0.01).sort((a, b) => weight(b) - weight(a))[0]
  const outset = 1 / (1 + Math.exp(-(section.outset[chosen] ?? 0)))
  return (
    <section className="pad">
      <h2 className="fig-title">
        {first ? `${told(first)} speaks loudest for ${section.classes[chosen]}, × ${times(weight(first))}` : 'No value says anything'}
      </h2>
      <p className="fig-sub">
        At the outset {share(outset)}; each value multiplies the odds of{' '}
        {section.classes.length > 2 ? (
          <Slot
            label="Evidence for"
            value={section.classes[chosen] ?? ''}
            choices={section.classes.map((c) => ({ value: c, label: c }))}
            onChange={(v) => set({ for: v })}
          />
        ) : (
          `“${section.classes[chosen]}”`
        )}
        . A missing value says nothing unless it stands here.
      </p>
      <table className="ledger" aria-label="Evidence" style={{ maxWidth: 820 }}>
        <thead>
          <tr>
            <th>Value</th>
            <th className="n" style={{ width: 84 }}>
              Records
            </th>
            <th className="n" style={{ width: 84 }}>
              Odds
            </th>
            <th style={{ width: 220 }}>
              <span className="small" style={{ display: 'flex', justifyContent: 'space-between', width: 204 }}>
                <span>against</span>
                <span>for</span>
              </span>
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.map((l) => {
            const w = weight(l)
            const size = (Math.abs(w) / most) * 100
            return (
              <tr key={`${l.column} ${l.value} ${l.given ?? ''}`}>
                <td className="nm" title={told(l)}>
                  {told(l)}
                </td>
                <td className="n">{share(l.share)}</td>
                <td className="n" style={{ color: w > 0 ? 'var(--ochre-ink, #8A5716)' : 'var(--indigo-ink, #3F5B8C)', fontWeight: 640 }}>
                  × {times(w)}
                </td>
                <td>
                  <svg width={204} height={12} aria-hidden="true">
                    <path d="M102 0V12" stroke="var(--ink-soft)" />
                    <rect x={w > 0 ? 102 : 102 - size} y={1} width={size} height={10} fill={w > 0 ? '#B9771E' : '#4A6595'} />
                  </svg>
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {section.evidence.length > FEW && (
        <p className="small above-6">
          <button type="button" className="link" onClick={() => set({ values: all ? null : 'all' })}>
            {all ? 'The loudest only' : `All ${section.evidence.length} values`}
          </button>
        </p>
      )}
      <details>
        <summary>How to read this</summary>
        <p className="small">
          The odds of a record are those at the outset times the factor of each of its values. Twice the odds of 1 in 10 are 2 in 11; of 1
          in 2, 2 in 3. What hangs on another column is told beside that column’s value.
        </p>
      </details>
    </section>
  )
}

const told = (l: Line) => `${l.column} ${l.value}${l.given == null ? '' : `, ${l.given}`}`

export function times(weight: number): string {
  const v = Math.exp(Math.min(20, weight))
  return v >= 100 ? String(Math.round(v)) : v.toFixed(v >= 10 ? 1 : 2)
}
