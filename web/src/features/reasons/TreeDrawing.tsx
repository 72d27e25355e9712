import { whole } from '../../ui/format'
import { type Branch, type TreeOf, toldAs, valueOf } from '../../data/reasons'

/** The height of a line of leaves. */
export const LINE = 54

/** Questions from left to right; each leaf at the height of its line. */
export function TreeDrawing({ data, chosen }: { data: TreeOf; chosen: number | null }) {
  const { leaves, branches } = data.tree
  const at = new Map<number, number>(leaves.map((l, i) => [l.node, (i + 0.5) * LINE]))
  const children = new Map<number, Branch[]>()
  for (const b of branches) children.set(b.parent, [...(children.get(b.parent) ?? []), b])
  const height = (node: number): number => {
    const known = at.get(node)
    if (known !== undefined) return known
    const own = (children.get(node) ?? []).map((c) => height(c.node))
    const middle = own.reduce((s, v) => s + v, 0) / Math.max(1, own.length)
    at.set(node, middle)
    return middle
  }
  const root = height(0)
  const parents = new Map(branches.map((b) => [b.node, b.parent]))
  const onPath = new Set<number>()
  for (let n = chosen ?? -1; n >= 0; n = parents.get(n) ?? -1) onPath.add(n)
  const depth = Math.max(1, ...branches.map((b) => b.depth))
  const level = depth > 3 ? 104 : 120
  const width = depth * level + 24
  const all = leaves.length * LINE
  return (
    <div style={{ position: 'relative', width, height: all + 40, flex: 'none', borderRight: '1px solid var(--rule)' }} aria-hidden="true">
      <p className="small" style={{ position: 'absolute', left: 10, top: 4, margin: 0 }}>
        <b>All {whole(data.tree.rows)}</b>{' '}
        <span className="soft">
          {data.task === 'two classes' && `${whole(data.tree.events)} · `}
          {data.tree.average == null ? 'rows' : valueOf(toldAs(data), data.tree.average)}
        </span>
      </p>
      <svg width={width} height={all + 40} style={{ position: 'absolute', inset: 0 }}>
        {branches.map((b) => {
          const x = (b.depth - 1) * level + 6
          const [from, to] = [40 + (b.parent === 0 ? root : at.get(b.parent)!), 40 + height(b.node)]
          return (
            <g
              key={b.node}
              stroke={onPath.has(b.node) ? 'var(--ink)' : 'var(--rule-firm)'}
              strokeWidth={onPath.has(b.node) ? 1.8 : 1}
              fill="none"
            >
              <path d={`M${x} ${from}V${to}H${x + 6}`} />
              {b.leaf && <path d={`M${x + level} ${to}H${width}`} strokeDasharray="2 3" />}
            </g>
          )
        })}
      </svg>
      {branches.map((b) => (
        <div
          key={b.node}
          title={b.answer}
          style={{
            position: 'absolute',
            left: (b.depth - 1) * level + 15,
            top: 40 + height(b.node) - 22,
            width: level - 14,
            fontSize: 12,
            lineHeight: '14px',
            fontWeight: onPath.has(b.node) ? 640 : 400,
          }}
        >
          <span
            style={{
              display: '-webkit-box',
              WebkitLineClamp: 2,
              WebkitBoxOrient: 'vertical',
              overflow: 'hidden',
              overflowWrap: 'anywhere',
            }}
          >
            {b.answer}
          </span>
          <span style={{ display: 'flex', gap: 4, alignItems: 'center' }} className="soft">
            <Bar rows={b.rows} events={b.events} all={data.tree.rows} />
            {whole(b.rows)}
            {b.share != null && ` · ${valueOf(toldAs(data), b.share, 0)}`}
          </span>
        </div>
      ))}
    </div>
  )
}

/** Length: share of all rows; green: those with the event, or of the class that the node names. */
function Bar({ rows, events, all }: { rows: number; events: number; all: number }) {
  const width = Math.max(2, (rows / Math.max(1, all)) * 56)
  return (
    <svg width={width} height={6}>
      <rect width={width} height={6} fill="var(--rule-firm)" />
      <rect width={rows > 0 ? (events / rows) * width : 0} height={6} fill="var(--verdigris)" />
    </svg>
  )
}
