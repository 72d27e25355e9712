import { Button } from '@mui/material'
import { useState } from 'react'
import { Link } from 'react-router'
import { useAddress } from '../../ui/address'
import { count, share, whole } from '../../ui/format'
import { ofTask } from '../../ui/measure'
import { Head } from '../../ui/Head'
import { IntervalMark } from '../../ui/IntervalMark'
import { Loading, Trouble } from '../../ui/Trouble'
import { useStudy, useStudyId } from '../../data/study'
import { recordsPath } from '../../data/conditions'
import { type Leaf, type TreeOf, useLeaf, useStandInTree, useTree, toldAs, valueOf } from '../../data/reasons'
import { TakeElsewhere } from '../../sections/TakeElsewhere'
import { LINE, TreeDrawing } from './TreeDrawing'

/** A decision tree read leaf by leaf: its questions at the left, each leaf as a line at the right. */
export function Tree() {
  const studyId = useStudyId()
  const study = useStudy(studyId)
  const [params] = useAddress()
  const trees = ofTask(study.data?.trials ?? [], study.data?.task ?? '').filter((t) => t.state === 'done' && t.title === 'Decision tree')
  const trialId = params.has('trial') ? Number(params.get('trial')) : (trees[trees.length - 1]?.id ?? null)
  const standIn = params.has('standin') ? Number(params.get('standin')) : null
  const own = useTree(standIn === null ? trialId : null)
  const imitation = useStandInTree(trialId, standIn, params.get('class'))
  const tree = standIn === null ? own : imitation
  const [sorted, setSorted] = useState(false)
  const [drawn, setDrawn] = useState<boolean | null>(null)
  const [chosen, setChosen] = useState<number | null>(null)
  const data = tree.data
  const leaves = data?.tree.leaves ?? []
  // A tree of many levels is wider than the screen: its sentences say the same.
  const deep = Math.max(0, ...(data?.tree.branches ?? []).map((b) => b.depth)) > 4
  const drawing = !sorted && (drawn ?? !deep)
  const size = count(leaves.length, 'leaf', 'leaves')
  const sound = leaves.filter((l) => l.verdict === 'Sound')

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
        title={standIn === null ? 'The tree' : 'A stand-in, as a tree'}
        small={data && `${standIn === null ? 'trial' : `${data.target ?? ''} as imitated of trial`} ${data.trialNumber}, ${size}`}
        say={
          data && (
            <>
              <b>
                {count(leaves.length, 'leaf', 'leaves')}, {sound.length} sound.
              </b>{' '}
              {data.task === 'two classes' ? <Above data={data} sound={sound} /> : <Ends data={data} sound={sound} />}
            </>
          )
        }
      >
        <Button onClick={() => setSorted(!sorted)}>
          {sorted ? 'In the order of the tree' : data?.task === 'number' ? 'Highest mean first' : 'Highest share first'}
        </Button>
        {trialId !== null && standIn === null && <TakeElsewhere file={`/api/trials/${trialId}/tree/file`} many="leaves" />}
        <Button
          component={Link}
          to={standIn === null ? `/study/${studyId}/judgment/${trialId}` : `/study/${studyId}/reasons?trial=${trialId}`}
        >
          {standIn === null ? 'Judgment' : 'What matters'}
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
                {drawing && <TreeDrawing data={data} chosen={chosen} />}
                <Leaves
                  data={data}
                  leaves={sorted ? [...leaves].sort((a, b) => (b.share ?? -1) - (a.share ?? -1)) : leaves}
                  chosen={chosen}
                  onChoose={(n) => setChosen(n === chosen ? null : n)}
                />
              </div>
            </div>
            {chosen !== null && standIn === null && trialId !== null && study.data?.tableId != null && (
              <Ending trialId={trialId} leaf={leaves.find((l) => l.node === chosen)} studyId={studyId} tableId={study.data.tableId} />
            )}
            <footer
              className="small"
              style={{ display: 'flex', gap: 18, padding: '8px 14px', borderTop: '3px double var(--ink)', flexWrap: 'wrap' }}
            >
              <span>
                <Verdict of="Sound" /> <span className="soft">worth stating as a rule</span>
              </span>
              <span>
                <Verdict of="Thin" />{' '}
                <span className="soft">
                  {data.task === 'number' ? 'interval wider than half a standard deviation' : 'interval wider than 20 points'}, or fewer
                  than 30 rows
                </span>
              </span>
              <span>
                <Verdict of="Split" />{' '}
                <span className="soft">
                  interval crosses{' '}
                  {data.cutoff == null ? (data.task === 'number' ? 'the mean' : 'the average share') : share(data.cutoff, 0)}: neither one
                  nor the other
                </span>
              </span>
              <span className="to-right">
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

/** The open records that end in the chosen leaf, by its path. */
function Ending({ trialId, leaf, studyId, tableId }: { trialId: number; leaf: Leaf | undefined; studyId: number; tableId: number }) {
  const records = useLeaf(trialId, leaf?.node ?? null)
  if (!leaf) return null
  const { total = 0, numbers = [] } = records.data ?? {}
  return (
    <p className="size-13 ruled" style={{ padding: '6px 14px' }} role="status">
      {leaf.says}: <Trouble known error={records.error} />
      {records.data && (
        <>
          {count(total, 'open record ends', 'open records end')} here.{' '}
          {total > 0 && (
            <Link to={recordsPath(studyId, tableId, numbers)}>
              {numbers.length < total ? `Open the first ${whole(numbers.length)}` : 'Open them'}
            </Link>
          )}
        </>
      )}
    </p>
  )
}

/** What the sound leaves above the cut-off hold of the event. */
function Above({ data, sound }: { data: TreeOf; sound: Leaf[] }) {
  const above = sound.filter((l) => (l.share ?? 0) > (data.cutoff ?? 1))
  // A leaf of few rows may be clearly above average all the same.
  const thin = data.tree.leaves.filter((l) => l.verdict === 'Thin' && l.low != null && l.low > (data.cutoff ?? 1))
  if (above.length === 0)
    return thin.length > 0 ? (
      <>
        No sound leaf is above average; {count(thin.length, 'leaf of few rows is', 'leaves of few rows are')}, the highest with{' '}
        {share(Math.max(...thin.map((l) => l.share ?? 0)))}.
      </>
    ) : (
      <>None of them is clearly above average.</>
    )
  const held = above.reduce((n, l) => n + l.rows, 0)
  const events = above.reduce((n, l) => n + l.events, 0)
  return (
    <>
      {above.length === 1 ? 'The one sound leaf above average holds' : `The ${above.length} sound leaves above average hold`} {whole(held)}{' '}
      of {whole(data.tree.rows)} rows ({share(held / Math.max(1, data.tree.rows))}) and {whole(events)} of {whole(data.tree.events)} with “
      {data.event}”.
    </>
  )
}

/** From which value to which the sound leaves go. */
function Ends({ data, sound }: { data: TreeOf; sound: Leaf[] }) {
  const values = sound.map((l) => l.share ?? NaN)
  const held = sound.reduce((n, l) => n + l.rows, 0)
  const as = toldAs(data)
  if (sound.length === 0) return <>None of them is sound: each rests on few rows, or does not lie clearly to one side.</>
  return (
    <>
      They hold {whole(held)} of {whole(data.tree.rows)} rows,{' '}
      {data.task === 'number'
        ? `with means of ${data.target} from ${valueOf(as, Math.min(...values))} to ${valueOf(as, Math.max(...values))}; the mean of all is ${valueOf(as, data.tree.average)}.`
        : `and name ${[...new Set(sound.map((l) => `“${l.named}”`))].join(', ')}.`}
    </>
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
  const as = toldAs(data)
  const ends = leaves.flatMap((l) => (l.share == null ? [] : [l.low ?? l.share, l.high ?? l.share]))
  const scale: [number, number] = data.task === 'number' ? [Math.min(...ends), Math.max(...ends, Math.min(...ends) + 1e-9)] : [0, 1]
  return (
    <table className="ledger" aria-label="Leaves" style={{ flex: 1, minWidth: 526, alignSelf: 'flex-start' }}>
      <thead>
        <tr style={{ height: 40 }}>
          <th className="n" style={{ width: 38 }}>
            <span className="sr">Number</span>
          </th>
          <th>Leaf, as a sentence</th>
          <th className="n" style={{ width: data.task === 'number' ? 56 : 74 }}>
            {data.task === 'number' ? 'Rows' : data.task === 'two classes' ? 'Rows, with the event' : 'Rows, of that class'}
          </th>
          <th className="n" style={{ width: data.task === 'number' ? 106 : 74 }}>
            {data.task === 'number' ? 'Mean, 95%' : 'Share, 95%'}
          </th>
          <th className="mark" style={{ width: data.task === 'number' ? 98 : 116 }}>
            <span className="small soft">
              {data.task === 'number' ? `${valueOf(as, scale[0], 0)} to ${valueOf(as, scale[1], 0)}` : '0 to 100'}
              {data.tree.average != null && `, ${data.task === 'number' ? 'mean' : 'average'} ${valueOf(as, data.tree.average, 0)}`}
            </span>
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
                {l.named != null && <b>“{l.named}”: </b>}
                {l.says}:{' '}
                <b>
                  {l.share == null
                    ? 'no row to judge by'
                    : data.task === 'number'
                      ? valueOf(as, l.share)
                      : `${whole(100 * l.share)} in 100`}
                </b>
              </button>
            </td>
            <td className="n">
              {whole(l.rows)}
              <br />
              <span className="soft">{data.task === 'number' ? '' : whole(l.events)}</span>
            </td>
            <td
              className="n"
              title={`${valueOf(as, l.trainingShare)} ${data.task === 'number' ? 'over' : 'of'} the ${whole(l.trainingRows)} rows that grew it`}
            >
              <b>{valueOf(as, l.share)}</b>
              <br />
              <span className="soft">
                {l.low == null
                  ? ''
                  : data.task === 'number'
                    ? `${valueOf(as, l.low)} to ${valueOf(as, l.high)}`
                    : `${whole(100 * l.low)} to ${whole(100 * (l.high ?? 0))}`}
              </span>
            </td>
            <td className="mark">
              <IntervalMark
                value={l.share}
                low={l.low}
                high={l.high}
                scale={scale}
                width={data.task === 'number' ? 90 : 108}
                tone={l.verdict === 'Sound' ? 'verdigris' : 'brass'}
                {...(data.tree.average == null ? {} : { reference: data.tree.average })}
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
