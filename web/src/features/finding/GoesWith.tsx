import { Button } from '@mui/material'
import { Link, useParams } from 'react-router'
import { useAddress } from '../../ui/address'
import { count, fixed, share, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Ledger } from '../../ui/Ledger'
import { Loading, Trouble } from '../../ui/Trouble'
import { useNotes } from '../../ui/notes'
import { useStudy, useStudyId } from '../../data/study'
import { type Relation, useFindings, useGoesWith } from '../../data/finding'
import { Rules } from './PlainRules'
import { RelationMark } from '../../sections/RelationMark'
import { Scale, Span } from '../../sections/Scale'
import { toldOf } from '../../data/findings'

/** One column at a time: how well each ranks records by the target, on rows it did not learn from. Association, never cause. */
export function GoesWith() {
  const studyId = useStudyId()
  const study = useStudy(studyId)
  const [params, set] = useAddress()
  // Beside the target of the study any column can be asked about, such as the answers of scored records.
  const of = params.get('of')
  const ownId = Number(useParams().tableId)
  const tableId = of !== null ? ownId : (study.data?.tableId ?? null)
  const onTarget = useFindings(tableId, of === null)
  const onColumn = useGoesWith(tableId, of)
  const found = of === null ? onTarget : onColumn
  useNotes(0, null, 'goes-with')
  const data = found.data
  const target = data?.target
  const ranked = (data?.relations ?? []).filter((r) => r.alone != null && !r.late)
  const speaking = ranked.filter((r) => (r.adjusted ?? 1) < 0.05)
  const silent = ranked.filter((r) => (r.adjusted ?? 1) >= 0.05)
  const out = (data?.relations ?? []).filter((r) => r.alone == null || r.late)
  const shown = params.get('all') === '1' ? ranked : speaking
  const scale: [number, number] = [0.48, Math.max(0.7, ...ranked.map((r) => r.high ?? 0))]
  const told = toldOf(data?.task)
  const shares = told.scale(ranked.flatMap((r) => [r.lowest, r.highest]))
  const best = speaking.slice(0, 2).map((r) => r.column)

  if (study.data && of === null && (tableId === null || study.data.target == null))
    return (
      <>
        <Head title="What goes with the target" say="No target is chosen yet." />
        <div className="sheet fit">
          <div className="empty">
            <h2>Here each column says what it knows</h2>
            <p>Choose the column to predict; then every other one is asked how well it alone ranks the records.</p>
            <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/table`}>
              To the Register
            </Button>
          </div>
        </div>
      </>
    )

  return (
    <>
      <Head
        title={`What goes with ${target ?? 'the target'}`}
        small="one column at a time"
        say={
          data && (
            <>
              <b>
                {best.length === 0
                  ? 'No column says anything alone.'
                  : best.length === 1
                    ? `Only ${best[0]} says something alone;`
                    : `${best[0]} and ${best[1]} say most;`}
              </b>{' '}
              {best.length > 0 &&
                `${speaking.length} of ${count(ranked.length, 'candidate')} ${speaking.length === 1 ? 'says' : 'say'} something alone.`}{' '}
              What goes together need not be a cause.
            </>
          )
        }
      >
        <Button component={Link} to={of === null ? `/study/${studyId}/table` : `/study/${studyId}/table/${tableId}`}>
          Register
        </Button>
        {of === null && (
          <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/preparation`}>
            Prepare this table
          </Button>
        )}
      </Head>
      <div className="sheet fit split">
        <section className="col fills">
          {found.isPending && <Loading what="every column against the target" />}
          <Trouble error={found.error} onRetry={() => void found.refetch()} />
          {data && (
            <Ledger<Relation>
              label={`Columns by what they say about ${target}`}
              rows={shown}
              rowKey={(r) => r.column}
              selected={params.get('column')}
              onSelect={(r) => set({ column: r.column })}
              lineNumber={(_, i) => i + 1}
              columns={[
                {
                  key: 'column',
                  title: 'Column',
                  width: 142,
                  cell: (r) => (
                    <span className="nm" title={r.column}>
                      {r.column}
                    </span>
                  ),
                },
                {
                  key: 'alone',
                  title: told.alone,
                  number: true,
                  width: data.task === 'two classes' ? 84 : 108,
                  cell: (r) => fixed(r.alone),
                },
                {
                  key: 'mark',
                  title: <Scale scale={scale} ticks={[0.5, 0.6, 0.7, 0.8, 0.9]} write={(v) => `.${Math.round(100 * v)}`} width={96} />,
                  width: 104,
                  className: 'mark',
                  cell: (r) => <RelationMark relation={r} scale={scale} width={96} />,
                },
                {
                  key: 'says',
                  least: 230,
                  title: `What it says about ${data.event ? `“${data.event}”` : target}`,
                  cell: (r) => <span title={r.says}>{r.says || <span className="soft">nothing sure</span>}</span>,
                },
                {
                  key: 'shares',
                  gives: 1,
                  title: <Scale scale={shares} ticks={told.ticks(shares)} write={told.tick} width={104} />,
                  width: 112,
                  className: 'mark',
                  cell: (r) => <Span low={r.lowest} high={r.highest} scale={shares} write={told.write} />,
                },
              ]}
            />
          )}
          {data && (
            <p style={{ padding: '8px 16px', borderTop: '1px solid var(--ink)', fontSize: 13 }}>
              <b>{speaking.length === 1 ? '1 speaks' : `${speaking.length} speak`} alone.</b>{' '}
              {silent.length > 0 && (
                <>
                  Silent: {silent.map((r) => r.column).join(', ')};{' '}
                  <button type="button" className="slot" onClick={() => set({ all: shown === ranked ? null : '1' })}>
                    {shown === ranked ? 'hide them' : 'show them'}
                  </button>
                </>
              )}
            </p>
          )}
          {data && data.rules.length > 0 && <Rules found={data} />}
        </section>
        {data && (
          <section className="col pad" style={{ width: 268, overflow: 'auto' }} aria-label="How it was found">
            <h2 className="fig-title">Left out of the ranking: {out.length}</h2>
            <table className="ledger above-6" aria-label="Left out">
              <tbody>
                {out.map((r) => (
                  <tr key={r.column}>
                    <td className="nm" title={r.column} style={{ width: 116 }}>
                      {r.column}
                    </td>
                    <td className="soft many-lines">{r.late ? `known too late, ${fixed(r.alone, 2)}` : r.leftOut}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            <details style={{ marginTop: 14 }}>
              <summary>How to read this</summary>
              <p className="small">
                Half of the {whole(data.judged)} records whose outcome is known and not sealed teach each column {told.teaches(data.event)}{' '}
                in its parts; the other half is ranked by it, and the other way round. {told.reads} 0.5 is a coin. The line is its 95%
                interval.
              </p>
              <p className="small">
                A column speaks when its p-value, corrected for asking {count(ranked.length, 'column')}, is under 0.05. At the right stand
                the lowest and the highest {told.of} among its parts.
              </p>
              {data.looked < data.rows && (
                <p className="small">
                  Found on {whole(data.looked)} of {whole(data.rows)} records, taken evenly ({share(data.looked / data.rows)}).
                </p>
              )}
            </details>
          </section>
        )}
      </div>
    </>
  )
}
