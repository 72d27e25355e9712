import type { Decision } from '../../data/list'
import { Chart } from '../../ui/Chart'
import { cutoffSaid, whole } from '../../ui/format'
import { EdgedHistogram } from './EdgedHistogram'

/** All records by chance, those on the list in front, with the edges of tiers as handles. */
export function ChanceBands({ decision, onEdges }: { decision: Decision; onEdges: (edges: number[]) => void }) {
  const edges = decision.terms.chanceEdges as number[]
  const all = decision.histogram
  const on = decision.actedBy
  const top = decision.cells.filter((c) => c.chance === edges.length)
  const topOn = top.reduce((n, c) => n + c.acted, 0)
  const topAll = top.reduce((n, c) => n + c.records, 0)
  const first = topAll > 0 && topOn === topAll ? `All ${whole(topAll)}` : `${whole(topOn)} of ${whole(topAll)}`
  const title =
    edges.length === 0
      ? `${whole(decision.acted.actions)} of ${whole(decision.scored)} are acted on`
      : `${first} from ${cutoffSaid(edges[edges.length - 1]!)} on are acted on, and ${whole(decision.acted.actions - topOn)} below`
  return (
    <Chart
      name="records-by-chance"
      title={title}
      sub={`${whole(decision.scored)} records by chance; green: acted on. The edges of tiers can be moved.`}
      height={140}
      how={
        <p>
          Each bar counts the records whose chance lies there; the green part of it is on the list. A record of high chance may be left off
          when little is lost by its event, and one of low chance be on it when much is. The brown lines are the edges of the tiers by
          chance: drag one, or give it the focus and press the arrow keys, or write the edge into the field beneath the picture. The list
          stays as it is; only what is counted where changes.
        </p>
      }
      data={{
        heads: ['Chance from', 'to', 'Records', 'Acted on'],
        rows: all.map((n, i) => [cutoffSaid(i / all.length), cutoffSaid((i + 1) / all.length), n, on[i] ?? 0]),
      }}
      drawn={
        <EdgedHistogram
          all={all}
          on={on}
          scale={[0, 1]}
          marks={[0, 0.2, 0.4, 0.6, 0.8, 1]}
          edges={edges}
          // Of rare events a hundredth is a long way.
          step={Math.min(...edges, 1) < 0.03 ? 0.001 : 0.01}
          label={(k) => `Edge ${k + 1} of tiers by chance`}
          write={cutoffSaid}
          onEdges={onEdges}
        />
      }
    />
  )
}
