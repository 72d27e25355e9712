import { Button } from '@mui/material'
import { Link } from 'react-router'
import { useAddress } from '../../ui/address'
import { count, fixed, share, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Ledger } from '../../ui/Ledger'
import { Loading, Trouble } from '../../ui/Trouble'
import { useNotes } from '../frame/notes'
import { useStudy, useStudyId } from '../study/api'
import { type Relation, type Rule, useFindings } from './api'
import { RelationMark } from './RelationMark'

/** One column at a time: how well each ranks records by the target, on rows it did not learn from. Association, never cause. */
export function GoesWith() {
  const studyId = useStudyId()
  const study = useStudy(studyId)
  const tableId = study.data?.tableId ?? null
  const found = useFindings(tableId)
  const [params, set] = useAddress()
  useNotes(0, null, 'goes-with')
  const data = found.data
  const target = data?.target
  const ranked = (data?.relations ?? []).filter((r) => r.auc != null && !r.late)
  const speaking = ranked.filter((r) => (r.adjusted ?? 1) < 0.05)
  const silent = ranked.filter((r) => (r.adjusted ?? 1) >= 0.05)
  const out = (data?.relations ?? []).filter((r) => r.auc == null || r.late)
  const shown = params.get('all') === '1' ? ranked : speaking
  const scale: [number, number] = [0.48, Math.max(0.7, ...ranked.map((r) => r.high ?? 0))]
  const shares: [number, number] = [0, Math.min(1, Math.max(0.1, ...ranked.map((r) => r.highest ?? 0)) * 1.05)]
  const best = speaking.slice(0, 2).map((r) => r.column)

  if (study.data && (tableId === null || study.data.target == null))
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

  if (study.data && study.data.event == null)
    return (
      <>
        <Head title={`What goes with ${study.data.target}`} say="This ledger ranks columns by how well each alone tells an event." />
        <div className="sheet fit">
          <div className="empty">
            <h2>This study predicts {study.data.task === 'number' ? 'a number' : 'several classes'}</h2>
            <p>Draw two columns against each other to see what goes with {study.data.target}, or fit a tree: its importance ranks them.</p>
            <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/table/${tableId}/pictures`}>
              Draw two columns
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
        <Button component={Link} to={`/study/${studyId}/table`}>
          Register
        </Button>
        <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/preparation`}>
          Prepare this table
        </Button>
      </Head>
      <div className="sheet fit split">
        <section className="col" style={{ flex: 1, minWidth: 0 }}>
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
                { key: 'auc', title: 'Alone, AUC', number: true, width: 84, cell: (r) => fixed(r.auc) },
                {
                  key: 'mark',
                  title: <Scale scale={scale} ticks={[0.5, 0.6, 0.7, 0.8, 0.9]} write={(v) => `.${Math.round(100 * v)}`} width={96} />,
                  width: 104,
                  className: 'mark',
                  cell: (r) => <RelationMark relation={r} scale={scale} width={96} />,
                },
                {
                  key: 'says',
                  title: `What it says about “${data.event}”`,
                  cell: (r) => <span title={r.says}>{r.says || <span className="soft">nothing sure</span>}</span>,
                },
                {
                  key: 'shares',
                  title: (
                    <Scale scale={shares} ticks={[0.1, 0.2, 0.3, 0.4, 0.6, 0.8]} write={(v) => `${Math.round(100 * v)}%`} width={104} />
                  ),
                  width: 112,
                  className: 'mark',
                  cell: (r) => <Span low={r.lowest} high={r.highest} scale={shares} />,
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
          {data && data.rules.length > 0 && <Rules rules={data.rules} event={data.event ?? ''} judged={data.judged} />}
        </section>
        {data && (
          <section className="col pad" style={{ width: 268, overflow: 'auto' }} aria-label="How it was found">
            <h2 className="fig-title">Left out of the ranking: {out.length}</h2>
            <table className="ledger" aria-label="Left out" style={{ marginTop: 6 }}>
              <tbody>
                {out.map((r) => (
                  <tr key={r.column}>
                    <td className="nm" title={r.column} style={{ width: 116 }}>
                      {r.column}
                    </td>
                    <td className="soft" style={{ whiteSpace: 'normal' }}>
                      {r.late ? `known too late, ${fixed(r.auc, 2)}` : r.leftOut}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            <details style={{ marginTop: 14 }}>
              <summary>How to read this</summary>
              <p className="small">
                Half of the {whole(data.judged)} records whose outcome is known and not sealed teach each column the share of “{data.event}”
                in its parts; the other half is ranked by it, and the other way round. AUC is the chance that a record with the event is
                ranked above one without: 0.5 is a coin. The line is its 95% interval.
              </p>
              <p className="small">
                A column speaks when its p-value, corrected for asking {count(ranked.length, 'column')}, is under 0.05. At the right stand
                the lowest and the highest share among its parts.
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

/** Groups in plain words: where they were found, and whether they held on records they had not seen. */
function Rules({ rules, event, judged }: { rules: Rule[]; event: string; judged: number }) {
  const held = rules.filter((r) => r.held).length
  const top = Math.min(1, 1.05 * Math.max(...rules.flatMap((r) => [r.foundHigh ?? 0, r.checkHigh ?? 0])))
  const scale: [number, number] = [0, top]
  const overall = rules[0]?.overall ?? 0
  return (
    <div style={{ borderTop: '1px solid var(--ink)', flex: '0 0 auto', maxHeight: '54%', overflow: 'auto' }}>
      <h2 className="fig-title" style={{ padding: '8px 16px 2px' }}>
        {held} of {count(rules.length, 'plain rule')} held on records they had not seen
      </h2>
      <p className="fig-sub" style={{ padding: '0 16px 4px' }}>
        Found in one half of {whole(judged)} records (open dot), checked in the other (full dot); “{event}” in {share(overall)} of all.
      </p>
      <table className="ledger" aria-label="Plain rules">
        <thead>
          <tr>
            <th style={{ paddingLeft: 16 }}>Records where</th>
            <th className="n" style={{ width: 62 }}>
              Records
            </th>
            <th className="n" style={{ width: 62 }}>
              Found
            </th>
            <th style={{ width: 128 }}>
              <Scale scale={scale} ticks={[0.2, 0.4, 0.6, 0.8]} write={(v) => `${Math.round(100 * v)}%`} width={120} />
            </th>
            <th className="n" style={{ width: 58 }}>
              Check
            </th>
            <th className="n" style={{ width: 42 }}>
              Lift
            </th>
            <th style={{ width: 92 }}>Verdict</th>
          </tr>
        </thead>
        <tbody>
          {rules.map((r, i) => (
            <tr key={i}>
              <td style={{ paddingLeft: 16, whiteSpace: 'normal' }}>
                {r.conditions.map((c, j) => (
                  <span key={c.column}>
                    {j > 0 && ' and '}
                    {c.column} is <b>{c.is}</b>
                  </span>
                ))}
              </td>
              <td className="n">{whole(r.checkRows)}</td>
              <td className="n soft">{share(r.found)}</td>
              <td className="mark">
                <Twice rule={r} scale={scale} />
              </td>
              <td className="n">
                <b>{share(r.check)}</b>
              </td>
              <td className="n">{fixed(r.lift, 1)}</td>
              <td className={r.held ? 'verd' : 'cinn'}>{r.held ? 'Held' : 'Did not hold'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

function Twice({ rule, scale }: { rule: Rule; scale: [number, number] }) {
  const x = (v: number) => 4 + ((Math.min(Math.max(v, scale[0]), scale[1]) - scale[0]) / (scale[1] - scale[0])) * 112
  const line = (low: number | null | undefined, high: number | null | undefined, y: number, color: string) =>
    low != null && high != null && <path d={`M${x(low)} ${y}H${x(high)}`} stroke={color} strokeWidth="1.25" />
  return (
    <svg
      width={120}
      height={24}
      role="img"
      aria-label={`Found ${share(rule.found)}, checked ${share(rule.check)}, ${share(rule.checkLow)} to ${share(rule.checkHigh)}`}
    >
      <path d={`M${x(rule.overall)} 0V24`} stroke="var(--ink-soft)" strokeDasharray="1.5 2" />
      {line(rule.foundLow, rule.foundHigh, 8, 'var(--rule-firm)')}
      {rule.found != null && <circle cx={x(rule.found)} cy={8} r={3} fill="var(--paper)" stroke="var(--ink-soft)" />}
      {line(rule.checkLow, rule.checkHigh, 17, rule.held ? 'var(--verdigris)' : 'var(--ink)')}
      {rule.check != null && <circle cx={x(rule.check)} cy={17} r={2.8} fill={rule.held ? 'var(--verdigris)' : 'var(--ink)'} />}
    </svg>
  )
}

function Scale({ scale, ticks, write, width }: { scale: [number, number]; ticks: number[]; write: (v: number) => string; width: number }) {
  const margin = 0.07 * (scale[1] - scale[0])
  const inside = ticks.filter((t) => t >= scale[0] + margin / 2 && t <= scale[1] - margin)
  const x = (v: number) => 4 + ((v - scale[0]) / (scale[1] - scale[0])) * (width - 8)
  return (
    <svg width={width} height={14} aria-hidden="true">
      {inside.map((t) => (
        <text key={t} x={x(t)} y={11} textAnchor="middle" fontSize="11" fill="currentColor">
          {write(t)}
        </text>
      ))}
    </svg>
  )
}

/** From the lowest to the highest share of a column's parts. */
function Span({ low, high, scale }: { low?: number | null; high?: number | null; scale: [number, number] }) {
  if (low == null || high == null) return null
  const x = (v: number) => 4 + ((Math.min(Math.max(v, scale[0]), scale[1]) - scale[0]) / (scale[1] - scale[0])) * 96
  return (
    <svg width={104} height={24} role="img" aria-label={`${share(low)} to ${share(high)}`}>
      <path d={`M${x(low)} 12H${x(high)}`} stroke="#C3B69D" strokeWidth="3" />
      <circle cx={x(low)} cy={12} r={3} fill="var(--paper)" stroke="var(--ink)" />
      <circle cx={x(high)} cy={12} r={3.2} fill="var(--ink)" />
    </svg>
  )
}
