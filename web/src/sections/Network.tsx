import { useAddress } from '../ui/address'
import { fixed, whole } from '../ui/format'
import { Slot } from '../ui/Slot'
import type { SectionOf } from '../data/judgment'
import { times } from './Evidence'

type Node = SectionOf<'network'>['nodes'][number]
const ROW = 23
const TOP = 34

/** Columns as strands that hang on the target and on each other; one opens its table. */
export function Network({ section }: { section: SectionOf<'network'> }) {
  const [params, set] = useAddress()
  const nodes = section.nodes
  const open = nodes.find((n) => n.column === params.get('node')) ?? nodes.find((n) => n.parent != null) ?? nodes[0]!
  const all = nodes.reduce((s, n) => s + n.tells, 0)
  const half = 1 + nodes.findIndex((_, i) => nodes.slice(0, i + 1).reduce((s, n) => s + n.tells, 0) >= all / 2)
  const strongest = nodes.filter((n) => n.link != null).sort((a, b) => b.link! - a.link!)[0]
  return (
    <div className="wraps">
      <section className="pad" style={{ flex: '1 1 480px' }}>
        <h2 className="fig-title">
          {half === 1 ? `${nodes[0]!.column} alone tells` : `${half} of ${nodes.length} columns tell`} half of it
          {strongest && `; ${strongest.column} hangs most on ${strongest.parent}`}
        </h2>
        <p className="fig-sub">What each column tells of the target by itself, in hundredths of a bit, and what it hangs on besides.</p>
        <Drawn nodes={nodes} open={open} onOpen={(column) => set({ node: column })} />
      </section>
      <section className="pad" style={{ flex: '1 1 420px', borderLeft: '1px solid var(--rule)' }}>
        <NodeTable node={open} section={section} onNode={(column) => set({ node: column })} />
      </section>
    </div>
  )
}

function Drawn({ nodes, open, onOpen }: { nodes: Node[]; open: Node; onOpen: (column: string) => void }) {
  const [name, bar, link, width] = [30, 170, 262, 480]
  const height = TOP + nodes.length * ROW
  const y = (i: number) => TOP + i * ROW + ROW / 2
  const most = Math.max(1e-9, ...nodes.map((n) => n.tells))
  const heaviest = Math.max(1e-9, ...nodes.map((n) => n.link ?? 0))
  const place = new Map(nodes.map((n, i) => [n.column, i]))
  return (
    <div style={{ position: 'relative', maxWidth: width }}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width="100%"
        role="img"
        aria-label="The network: what hangs on what; the list beside it tells the same"
      >
        <circle cx={10} cy={14} r={8} fill="var(--verdigris)" />
        <text x={bar} y={20} className="ax">
          tells
        </text>
        <text x={width} y={20} textAnchor="end" className="ax">
          also hangs on
        </text>
        {nodes.map((n, i) => (
          <g key={n.column}>
            {n === open && <rect x={0} y={y(i) - ROW / 2} width={width} height={ROW} fill="var(--wash, #F3ECDE)" />}
            <path
              d={`M${4 + (i % 6) * 2} 18V${y(i) - 6}Q${4 + (i % 6) * 2} ${y(i)} ${14 + (i % 6)} ${y(i)}H${name - 8}`}
              fill="none"
              stroke="var(--verdigris)"
              strokeWidth={0.6 + 2.4 * (n.tells / most)}
            />
            <circle
              cx={name - 3}
              cy={y(i)}
              r={5}
              fill={n === open ? 'var(--verdigris)' : 'var(--paper, #FFFDF8)'}
              stroke="var(--verdigris)"
              strokeWidth={1.5}
            />
            <rect x={bar} y={y(i) - 4} width={Math.max(1, (n.tells / most) * 60)} height={8} fill="var(--verdigris)" />
            <text x={bar + 66} y={y(i) + 4} className="ax">
              {fixed(100 * n.tells, 1)}
            </text>
            {n.parent != null && place.has(n.parent) && (
              <Arc from={y(place.get(n.parent)!)} to={y(i)} at={link} weight={(n.link ?? 0) / heaviest} open={n === open} />
            )}
            <text x={width} y={y(i) + 4} textAnchor="end" className="ax">
              {n.parent ?? 'nothing'}
            </text>
          </g>
        ))}
      </svg>
      {/* The names are buttons over the drawing, so that keys reach them. */}
      {nodes.map((n, i) => (
        <button
          key={n.column}
          type="button"
          className="link nowrap size-13"
          aria-pressed={n === open}
          title={n.column}
          style={{
            position: 'absolute',
            left: `${((name + 6) / width) * 100}%`,
            width: `${((bar - name - 12) / width) * 100}%`,
            top: `${((y(i) - 9) / height) * 100}%`,
            textAlign: 'left',
            overflow: 'hidden',
            textOverflow: 'ellipsis',
            fontWeight: n === open ? 640 : 500,
          }}
          onClick={() => onOpen(n.column)}
        >
          {n.column}
        </button>
      ))}
    </div>
  )
}

function Arc({ from, to, at, weight, open }: { from: number; to: number; at: number; weight: number; open: boolean }) {
  const reach = 12 + Math.min(70, Math.abs(to - from) * 0.55)
  return (
    <g fill="none" stroke={open ? '#B9771E' : 'var(--ink-soft)'} opacity={open ? 1 : 0.35 + 0.5 * weight}>
      <path d={`M${at} ${from}C${at + reach} ${from} ${at + reach} ${to} ${at + 6} ${to}`} strokeWidth={0.8 + 2 * weight} />
      <path d={`M${at + 11} ${to - 4}L${at + 4} ${to}L${at + 11} ${to + 4}`} strokeWidth={1.2} />
      <circle cx={at} cy={from} r={2} fill="var(--ink-soft)" stroke="none" />
    </g>
  )
}

/** Shares of the values of a column in each class, beside each value of the column it hangs on. */
function NodeTable({ node, section, onNode }: { node: Node; section: SectionOf<'network'>; onNode: (column: string) => void }) {
  const [params, set] = useAddress()
  const last = section.classes.length - 1
  const chosen = Math.min(node.given.length - 1, Math.max(0, Number(params.get('given') ?? 0)))
  const rows = node.rows[chosen] ?? []
  const own = node.shares[chosen] ?? []
  const others = (v: number) => {
    const weights = section.classes.map((_, c) => (c === last ? 0 : (rows[c] ?? 0)))
    const sum = weights.reduce((a, b) => a + b, 0)
    return sum > 0 ? weights.reduce((s, w, c) => s + w * (own[c]?.[v] ?? 0), 0) / sum : (own[0]?.[v] ?? 0)
  }
  const odds = node.values.map((_, v) => Math.log((own[last]?.[v] ?? 0) / Math.max(1e-12, others(v))))
  const most = Math.max(0.01, ...odds.map(Math.abs))
  const loudest = odds.reduce((b, w, i) => (w > odds[b]! ? i : b), 0)
  const said = last === 1 ? section.classes : [section.classes.slice(0, last).join(', '), section.classes[last]!]
  return (
    <>
      <h2 className="fig-title">
        {node.values[loudest]} speaks for {section.classes[last]}, × {times(odds[loudest]!)}
      </h2>
      <p className="fig-sub">
        Table of{' '}
        <Slot
          label="Table of"
          value={node.column}
          choices={section.nodes.map((n) => ({ value: n.column, label: n.column }))}
          onChange={(v) => {
            set({ given: null })
            onNode(v)
          }}
        />
        {node.parent != null && (
          <>
            {' '}
            where {node.parent} is{' '}
            <Slot
              label={`Where ${node.parent} is`}
              value={String(chosen)}
              choices={node.given.map((g, i) => ({
                value: String(i),
                label: g,
                effect: `${whole(node.rows[i]?.reduce((a, b) => a + b, 0))} records`,
              }))}
              onChange={(v) => set({ given: v })}
            />
          </>
        )}
        ; columns add to 100.
      </p>
      <table className="ledger" aria-label={`Table of ${node.column}`}>
        <thead>
          <tr>
            <th>Value</th>
            {said.map((c) => (
              <th key={c} className="n" title={c} style={{ maxWidth: 90, overflow: 'hidden', textOverflow: 'ellipsis' }}>
                {c}
              </th>
            ))}
            <th className="n">Odds</th>
            <th style={{ width: 110 }}>
              <span className="sr">Drawn</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {node.values.map((value, v) => {
            const w = odds[v]!
            const size = (Math.abs(w) / most) * 50
            return (
              <tr key={value}>
                <td className="nm" title={value}>
                  {value}
                </td>
                <td className="n">{fixed(100 * others(v), 1)}</td>
                <td className="n">{fixed(100 * (own[last]?.[v] ?? 0), 1)}</td>
                <td className="n" style={{ fontWeight: 640 }}>
                  × {times(w)}
                </td>
                <td>
                  <svg width={104} height={10} aria-hidden="true">
                    <path d="M52 0V10" stroke="var(--ink-soft)" />
                    <rect x={w > 0 ? 52 : 52 - size} width={size} height={10} fill={w > 0 ? '#B9771E' : '#4A6595'} />
                  </svg>
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className="small soft above-6">
        {whole(rows.reduce((a, b) => a + b, 0))} training records{node.parent != null && ` where ${node.parent} is ${node.given[chosen]}`}.
        Odds: the share among “{section.classes[last]}” over the share among the others.
      </p>
    </>
  )
}
