import { Button } from '@mui/material'
import { useState } from 'react'
import { Link } from 'react-router'
import { useAddress } from '../../ui/address'
import { count, share, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { IntervalMark } from '../../ui/IntervalMark'
import { Loading, Trouble } from '../../ui/Trouble'
import { useStudy, useStudyId } from '../study/api'
import { type Branch, type Leaf, type TreeOf, useTree } from './api'

const LINE = 54

/** A decision tree read leaf by leaf: its questions at the left, each leaf as a line at the right. */
export function Tree() {
  const studyId = useStudyId()
  const study = useStudy(studyId)
  const [params] = useAddress()
  const trees = (study.data?.trials ?? []).filter((t) => t.state === 'done' && t.title === 'Decision tree')
  const trialId = params.has('trial') ? Number(params.get('trial')) : (trees[trees.length - 1]?.id ?? null)
  const tree = useTree(trialId)
  const [sorted, setSorted] = useState(false)
  const [drawn, setDrawn] = useState<boolean | null>(null)
  const [chosen, setChosen] = useState<number | null>(null)
  const data = tree.data
  const leaves = data?.tree.leaves ?? []
  // A tree of many levels is wider than the screen: its sentences say the same.
  const deep = Math.max(0, ...(data?.tree.branches ?? []).map((b) => b.depth)) > 4
  const drawing = !sorted && (drawn ?? !deep)
  const sound = leaves.filter((l) => l.verdict === 'Sound')
  const above = sound.filter((l) => (l.share ?? 0) > (data?.cutoff ?? 1))
  const held = above.reduce((n, l) => n + l.rows, 0)
  const events = above.reduce((n, l) => n + l.events, 0)

  if (study.data && trialId === null)
    return (
      <>
        <Head title="The tree" say="There is no fitted decision tree yet." />
        <div className="sheet fit">
          <div className="empty">
            <h2>Here a decision tree is read leaf by leaf</h2>
            <p>How many records end in each leaf, how many had the event, and whether that is worth stating as a rule.</p>
            <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/trials`}>
              Plan a trial
            </Button>
          </div>
        </div>
      </>
    )

  return (
    <>
      <Head
        title="The tree"
        small={data && `trial ${data.trialNumber}, ${count(leaves.length, 'leaf', 'leaves')}`}
        say={
          data && (
            <>
              <b>
                {count(leaves.length, 'leaf', 'leaves')}, {sound.length} sound.
              </b>{' '}
              {above.length > 0
                ? `${above.length === 1 ? 'The one sound leaf above average holds' : `The ${above.length} sound leaves above average hold`} ${whole(held)} of ${whole(data.tree.rows)} rows (${share(held / Math.max(1, data.tree.rows))}) and ${whole(events)} of ${whole(data.tree.events)} with “${data.event}”.`
                : 'None of them is clearly above average.'}
            </>
          )
        }
      >
        <Button onClick={() => setSorted(!sorted)}>{sorted ? 'In the order of the tree' : 'Highest share first'}</Button>
        <Button component={Link} to={`/study/${studyId}/judgment/${trialId}`}>
          Judgment
        </Button>
      </Head>
      <div className="sheet fit stack">
        {tree.isPending && <Loading what="the tree" />}
        <Trouble error={tree.error} onRetry={() => void tree.refetch()} />
        {data && (
          <>
            <div
              className="scroll"
              style={{ flex: 1, minHeight: 0, overflow: 'auto' }}
              tabIndex={0}
              role="region"
              aria-label="The tree, leaf by leaf"
            >
              <div style={{ display: 'flex', minWidth: 'min-content' }}>
                {drawing && <Drawing data={data} chosen={chosen} />}
                <Leaves
                  data={data}
                  leaves={sorted ? [...leaves].sort((a, b) => (b.share ?? -1) - (a.share ?? -1)) : leaves}
                  chosen={chosen}
                  onChoose={(n) => setChosen(n === chosen ? null : n)}
                />
              </div>
            </div>
            <footer
              className="small"
              style={{ display: 'flex', gap: 18, padding: '8px 14px', borderTop: '3px double var(--ink)', flexWrap: 'wrap' }}
            >
              <span>
                <Verdict of="Sound" /> <span className="soft">worth stating as a rule</span>
              </span>
              <span>
                <Verdict of="Thin" /> <span className="soft">interval wider than 20 points, or fewer than 30 rows</span>
              </span>
              <span>
                <Verdict of="Split" /> <span className="soft">interval crosses {share(data.cutoff, 0)}: neither one nor the other</span>
              </span>
              <span style={{ marginLeft: 'auto' }}>
                {data.tree.judged
                  ? `Figures from ${whole(data.tree.rows)} rows that did not grow the tree (${whole(data.tree.trainingRows)} did).`
                  : 'Figures from the rows that grew the tree: they flatter it. Keep rows back to judge the leaves.'}{' '}
                <button type="button" className="link" onClick={() => setDrawn(!drawing)} disabled={sorted}>
                  {drawing ? 'Sentences only' : 'Show the questions'}
                </button>
              </span>
            </footer>
          </>
        )}
      </div>
    </>
  )
}

/** Questions from left to right; each leaf at the height of its line. */
function Drawing({ data, chosen }: { data: TreeOf; chosen: number | null }) {
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
  const level = depth > 3 ? 106 : 120
  const width = depth * level + 24
  const all = leaves.length * LINE
  return (
    <div style={{ position: 'relative', width, height: all + 40, flex: 'none', borderRight: '1px solid var(--rule)' }} aria-hidden="true">
      <p className="small" style={{ position: 'absolute', left: 10, top: 4, margin: 0 }}>
        <b>All {whole(data.tree.rows)}</b>{' '}
        <span className="soft">
          {whole(data.tree.events)} · {share(data.tree.events / Math.max(1, data.tree.rows))}
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
            {b.rows > 0 && ` · ${share(b.events / b.rows, 0)}`}
          </span>
        </div>
      ))}
    </div>
  )
}

/** Length: share of all rows; green: those with the event. */
function Bar({ rows, events, all }: { rows: number; events: number; all: number }) {
  const width = Math.max(2, (rows / Math.max(1, all)) * 56)
  return (
    <svg width={width} height={6}>
      <rect width={width} height={6} fill="var(--rule-firm)" />
      <rect width={rows > 0 ? (events / rows) * width : 0} height={6} fill="var(--verdigris)" />
    </svg>
  )
}

function Leaves({
  data,
  leaves,
  chosen,
  onChoose,
}: {
  data: TreeOf
  leaves: Leaf[]
  chosen: number | null
  onChoose: (node: number) => void
}) {
  return (
    <table className="ledger" aria-label="Leaves" style={{ flex: 1, minWidth: 560, alignSelf: 'flex-start' }}>
      <thead>
        <tr style={{ height: 40 }}>
          <th className="n" style={{ width: 38 }}>
            <span className="sr">Number</span>
          </th>
          <th>Leaf, as a sentence</th>
          <th className="n" style={{ width: 74 }}>
            Rows, with the event
          </th>
          <th className="n" style={{ width: 74 }}>
            Share, 95%
          </th>
          <th className="mark" style={{ width: 116 }}>
            <span className="small soft">0 to 100, average {share(data.baseRate, 0)}</span>
          </th>
          <th style={{ width: 72 }}>Verdict</th>
        </tr>
      </thead>
      <tbody>
        {leaves.map((l) => (
          <tr key={l.node} style={{ height: LINE }} className={l.node === chosen ? 'sel' : ''} onClick={() => onChoose(l.node)}>
            <td className="n soft">{l.number}</td>
            <td style={{ whiteSpace: 'normal', lineHeight: '15px', overflow: 'hidden' }} title={l.says}>
              <button
                type="button"
                aria-pressed={l.node === chosen}
                style={{
                  appearance: 'none',
                  border: 0,
                  background: 'none',
                  padding: 0,
                  cursor: 'pointer',
                  color: 'inherit',
                  textAlign: 'left',
                  font: 'inherit',
                  display: '-webkit-box',
                  WebkitLineClamp: 3,
                  WebkitBoxOrient: 'vertical',
                  overflow: 'hidden',
                }}
                onClick={(e) => {
                  e.stopPropagation()
                  onChoose(l.node)
                }}
              >
                {l.says}: <b>{l.share == null ? 'no row to judge by' : `${whole(100 * l.share)} in 100`}</b>
              </button>
            </td>
            <td className="n">
              {whole(l.rows)}
              <br />
              <span className="soft">{whole(l.events)}</span>
            </td>
            <td className="n" title={`${share(l.trainingShare)} of the ${whole(l.trainingRows)} rows that grew it`}>
              <b>{l.share == null ? '–' : share(l.share)}</b>
              <br />
              <span className="soft">{l.low == null ? '' : `${whole(100 * l.low)} to ${whole(100 * (l.high ?? 0))}`}</span>
            </td>
            <td className="mark">
              <IntervalMark
                value={l.share}
                low={l.low}
                high={l.high}
                scale={[0, 1]}
                width={108}
                tone={l.verdict === 'Sound' ? 'verdigris' : 'brass'}
                reference={data.baseRate}
              />
            </td>
            <td>
              <Verdict of={l.verdict} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function Verdict({ of }: { of: string }) {
  const sound = of === 'Sound'
  return (
    <span className={sound ? '' : 'brass'} style={{ display: 'inline-flex', gap: 5, alignItems: 'center', fontWeight: 640 }}>
      <svg width={12} height={12} viewBox="0 0 12 12" aria-hidden="true">
        <path
          d="M4 .7h4L11.3 4v4L8 11.3H4L.7 8V4z"
          fill={sound ? 'var(--verdigris)' : 'none'}
          stroke={sound ? 'var(--verdigris)' : 'var(--brass)'}
          strokeWidth={1.3}
        />
        {sound && <path d="M3.4 6.1l1.8 1.8 3.4-3.8" stroke="#fff" strokeWidth={1.4} fill="none" />}
        {of === 'Split' && <path d="M6 .7H4L.7 4v4L4 11.3h2z" fill="var(--brass)" />}
      </svg>
      {of}
    </span>
  )
}
