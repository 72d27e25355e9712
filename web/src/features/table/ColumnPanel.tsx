import { Button } from '@mui/material'
import { useMemo, useState } from 'react'
import { Link } from 'react-router'
import { storedInstead } from '../../api/client'
import { Chart } from '../../ui/Chart'
import { Facts } from '../../ui/Facts'
import { date, number, share, whole } from '../../ui/format'
import { useAddress } from '../../ui/address'
import { Slot } from '../../ui/Slot'
import { tokens } from '../../ui/theme'
import { Loading, Trouble } from '../../ui/Trouble'
import { TwoVersions } from '../../ui/TwoVersions'
import { useFindings } from '../../data/finding'
import { FindingNote } from '../../sections/FindingNote'
import { type Change, type Column, type ColumnDetail, useChangeColumn, useColumn, useRegister } from '../../data/table'
import { BoxLine, ColumnMore, Scale } from './ColumnMore'
import { type Condition, rowsPath } from '../../data/conditions'
import { explain, kinds, uses } from './texts'

/** One column in full: what it is for, its distribution with the event's share laid over it, and its figures. */
export function ColumnPanel({ id, tableId, studyId, onClose }: { id: number; tableId: number; studyId: number; onClose: () => void }) {
  const register = useRegister(tableId)
  const found = useFindings(tableId)
  const [params, set] = useAddress()
  const wide = params.get('wide') === '1'
  const bins = params.has('bins') ? Number(params.get('bins')) : null
  const log = params.get('log') === '1'
  const detail = useColumn(id, wide ? bins : null, wide && log)
  const change = useChangeColumn()
  const [picked, setPicked] = useState<number | null>(null)
  const data = detail.data
  const column = data?.column
  const chosen = picked === null ? undefined : data?.parts[picked]
  const stored = storedInstead<Column>(change.error)
  return (
    <section className="col" style={{ width: wide ? 600 : 318, overflow: 'auto' }} aria-label={column ? `Column ${column.name}` : 'Column'}>
      {detail.isPending && <Loading what="the column" />}
      <div style={{ padding: '0 14px' }}>
        {stored && change.variables ? (
          <TwoVersions
            rows={differences(change.variables.change, stored)}
            busy={change.isPending}
            onMine={() => change.variables && change.mutate({ column: stored, change: change.variables.change })}
            onStored={() => change.reset()}
          />
        ) : (
          <Trouble error={detail.error ?? change.error} onRetry={() => void detail.refetch()} />
        )}
      </div>
      {data && column && (
        <>
          <header
            style={{
              display: 'flex',
              alignItems: 'center',
              gap: 10,
              minHeight: 34,
              borderBottom: '1px solid var(--rule)',
              padding: '4px 14px',
            }}
          >
            <h2 style={{ font: '600 17px/20px var(--serif)', overflowWrap: 'anywhere' }}>{column.name}</h2>
            <Button
              size="small"
              sx={{ marginLeft: 'auto', flexShrink: 0 }}
              onClick={() => set({ wide: wide ? null : '1', bins: null, log: null })}
            >
              {wide ? 'Smaller' : 'Larger'}
            </Button>
            <Button size="small" sx={{ flexShrink: 0 }} onClick={onClose}>
              Close
            </Button>
          </header>
          <div style={{ padding: '10px 14px 14px', display: 'flex', flexDirection: 'column', gap: 12 }}>
            <p className="sentence" style={{ fontSize: 15, lineHeight: '24px' }}>
              A{' '}
              <Slot
                label="Kind"
                value={column.kind}
                choices={kinds.map((k) => ({ value: k, label: k, effect: explain[k] ?? '' }))}
                onChange={(v) => change.mutate({ column, change: { kind: v as (typeof kinds)[number] } })}
              />{' '}
              used as{' '}
              <Slot
                label="Use"
                value={column.use}
                choices={[...(column.use === 'target' ? ['target'] : []), ...uses].map((u) => ({
                  value: u,
                  label: u,
                  effect: explain[u] ?? '',
                  disabled: column.use === 'target' && u !== 'target',
                }))}
                onChange={(v) => change.mutate({ column, change: { use: v as (typeof uses)[number] } })}
              />
              , known{' '}
              <Slot
                label="Known when the decision is made"
                wait={!column.known}
                value={column.known ? 'yes' : 'no'}
                choices={[
                  { value: 'yes', label: 'when the decision is made' },
                  { value: 'no', label: 'only afterwards', effect: 'models never see it' },
                ]}
                onChange={(v) => change.mutate({ column, change: { known: v === 'yes' } })}
              />
              .
            </p>
            {change.isPending && (
              <p className="small soft" role="status">
                Reading the column again …
              </p>
            )}
            {data.parts.length > 0 && <Distribution detail={data} height={wide ? 320 : 230} onPick={setPicked} />}
            {column.use !== 'target' &&
              (column.kind === 'number' ||
                ((column.kind === 'category' || column.kind === 'yes/no') && column.distinct >= 2 && column.distinct <= 20)) && (
                <p className="small flush">
                  <Link to={`/study/${studyId}/table/${tableId}/goes-with?of=${encodeURIComponent(column.name)}`}>
                    What goes with {column.name}
                  </Link>
                </p>
              )}
            {chosen && (
              <p className="small flush" role="status">
                <b>{label(data, chosen)}</b>: {tip(data, picked ?? 0)}{' '}
                {behind(data, chosen) && <Link to={rowsPath(studyId, tableId, behind(data, chosen)!)}>Records behind it</Link>}
              </p>
            )}
            {wide && column.kind === 'number' && (
              <>
                <Scale
                  bins={bins}
                  log={log}
                  skewed={Math.abs(Number((data.summary as Record<string, unknown>).skewness_G1 ?? 0)) >= 1}
                  onChange={(b, l) => set({ bins: b === null ? null : String(b), log: l ? '1' : null })}
                />
                <BoxLine detail={data} />
              </>
            )}
            <Facts facts={facts(data)} />
            {wide && <ColumnMore detail={data} rows={register.data?.rows ?? 0} studyId={studyId} tableId={tableId} />}
            {(found.data?.findings ?? [])
              .filter((f) => f.columns.includes(column.name))
              .map((f) => (
                <FindingNote key={f.key} finding={f} columns={register.data?.columns ?? []} studyId={studyId} tableId={tableId} />
              ))}
            {column.misfits > 0 && (
              <div className="note">
                <h3>{whole(column.misfits)} cells do not fit this kind</h3>
                <p>
                  They count as missing; their text is kept.{' '}
                  {data.misfits
                    .slice(0, 5)
                    .map((m) => `Row ${Number(m[0]) + 1}: “${m[1]}”`)
                    .join('; ')}
                  .
                </p>
              </div>
            )}
          </div>
        </>
      )}
    </section>
  )
}

function differences(wanted: Change, stored: Column) {
  const words = { kind: 'Kind', use: 'Use', known: 'Known' }
  const say = (v: string | boolean | null | undefined) =>
    typeof v === 'boolean' ? (v ? 'when the decision is made' : 'only afterwards') : (v ?? '')
  return (['kind', 'use', 'known'] as const)
    .filter((k) => wanted[k] != null)
    .map((k) => ({ name: words[k], mine: say(wanted[k]), stored: say(stored[k]) }))
}

/** The conditions that describe a bin or a value. */
function behind(detail: ColumnDetail, part: ColumnDetail['parts'][number]): Condition[] | null {
  const { name, kind } = detail.column
  if (kind === 'text' && part.low != null) return null
  if (part.low == null || part.high == null) return [[name, 'is', part.label]]
  if (kind === 'date') return [[name, 'is between', part.label, new Date((part.high - 86400) * 1000).toISOString().slice(0, 10)]]
  const last = detail.parts[detail.parts.length - 1] === part
  const first = detail.parts[0] === part
  return [
    ...(first ? [] : ([[name, 'is at least', String(part.low)]] as Condition[])),
    ...(last ? [] : ([[name, 'is under', String(part.high)]] as Condition[])),
  ]
}

function Distribution({ detail, height, onPick }: { detail: ColumnDetail; height: number; onPick: (i: number | null) => void }) {
  const { column, parts, overall, event } = detail
  const laid = overall != null && event != null
  const name = column.name
  const many = parts.length > 14
  const title = detail.headline ?? (laid ? `“${event}” along ${name}` : `How ${name} is spread`)
  const option = useMemo(() => {
    const labels = parts.map((p) => label(detail, p))
    const points = parts.map((p, i) => (p.judged >= 15 ? [i, p.share, p.shareLow, p.shareHigh] : [i, null, null, null]))
    const left = parts.some((p) => p.count >= 100_000) ? 56 : 44
    const top = Math.max(overall ?? 0, ...parts.map((p) => (p.judged >= 15 ? (p.shareHigh ?? 0) : 0)))
    return {
      grid: { left, right: laid ? 40 : 10, top: 12, bottom: many || parts.some((p) => p.label.length > 5) ? 46 : 26 },
      tooltip: { trigger: 'axis', formatter: (items: { dataIndex: number }[]) => tip(detail, items[0]?.dataIndex ?? 0) },
      xAxis: {
        type: 'category',
        data: labels,
        axisTick: { show: false },
        axisLabel: {
          rotate: parts.some((p) => label(detail, p).length > 5) || (!many && parts.length > 9) ? 35 : 0,
          interval: many ? 'auto' : 0,
          width: 80,
          overflow: 'truncate',
        },
      },
      yAxis: [
        { type: 'value', splitNumber: 4 },
        ...(laid
          ? [
              {
                type: 'value',
                min: 0,
                max: Math.min(1, Math.ceil(top * 10 + 0.2) / 10),
                splitNumber: 4,
                splitLine: { show: false },
                axisLabel: { formatter: (v: number) => `${Math.round(100 * v)}%`, color: tokens.verdigris },
              },
            ]
          : []),
      ],
      series: [
        {
          type: 'bar',
          data: parts.map((p) => p.count),
          barCategoryGap: column.kind === 'number' || column.kind === 'date' ? '0%' : '25%',
          itemStyle: { color: '#E4DCCB' },
        },
        ...(laid
          ? [
              { type: 'bar', data: parts.map((p) => p.events), barGap: '-100%', itemStyle: { color: '#C3B69D' } },
              {
                type: 'custom',
                z: 10,
                yAxisIndex: 1,
                data: points,
                encode: { x: 0, y: [1, 2, 3] },
                renderItem: (_: unknown, apiOf: { value: (i: number) => number; coord: (p: number[]) => number[] }) => {
                  const at = apiOf.coord([apiOf.value(0), apiOf.value(1)])
                  if (!Number.isFinite(apiOf.value(1))) return { type: 'group', children: [] }
                  const low = apiOf.coord([apiOf.value(0), apiOf.value(2)])
                  const top = apiOf.coord([apiOf.value(0), apiOf.value(3)])
                  return {
                    type: 'group',
                    children: [
                      {
                        type: 'line',
                        shape: { x1: low[0], y1: low[1], x2: top[0], y2: top[1] },
                        style: { stroke: tokens.verdigris, lineWidth: 1.25 },
                      },
                      { type: 'circle', shape: { cx: at[0], cy: at[1], r: 2.8 }, style: { fill: tokens.verdigris } },
                    ],
                  }
                },
                markLine: {
                  silent: true,
                  symbol: 'none',
                  data: [{ yAxis: overall }],
                  lineStyle: { color: tokens.ink, type: 'dotted' },
                  label: { formatter: `average ${share(overall)}`, position: 'insideEndTop', fontSize: 11 },
                },
              },
            ]
          : []),
      ],
    }
  }, [parts, laid, overall, detail, column.kind, many])
  return (
    <>
      <Chart
        title={title}
        sub={
          laid
            ? `Bars count records, their dark foot those with “${event}” on unsealed rows; points: the share, with its 95% interval.`
            : 'Records in each bin; the outer bins hold everything beyond them.'
        }
        option={option}
        height={height}
        name={name}
        onPick={onPick}
        onPickRow={onPick}
        pickLabel="Look at it"
        data={{
          heads: [name, 'records', ...(laid ? ['looked at', `“${event}”`, 'share', 'low', 'high'] : [])],
          rows: parts.map((p) => [
            label(detail, p),
            p.count,
            ...(laid ? [p.judged, p.events ?? null, share(p.share), share(p.shareLow), share(p.shareHigh)] : []),
          ]),
        }}
        how={
          <>
            <p>Each bar counts the records whose {name} lies in that bin or has that value. The outer bins hold everything beyond them.</p>
            {laid && (
              <p>
                The points show which share of those records had the event “{event}”, on rows that are not sealed; the line through a point
                is Wilson’s 95% interval. Where the interval does not touch the dotted average, the difference is more than noise. It tells
                what goes together, not what causes what.
              </p>
            )}
          </>
        }
      />
    </>
  )
}

function label(detail: ColumnDetail, part: ColumnDetail['parts'][number]): string {
  return detail.column.kind === 'date' ? date(part.label) : part.label
}

function tip(detail: ColumnDetail, index: number): string {
  const p = detail.parts[index]
  if (!p) return ''
  const range =
    p.low != null && p.high != null && detail.column.kind !== 'date' ? `${number(p.low)} to under ${number(p.high)}` : label(detail, p)
  return `${range}: ${whole(p.count)} records${p.share != null ? `, ${share(p.share)} (${share(p.shareLow)} to ${share(p.shareHigh)}) “${detail.event}”` : ''}`
}

function facts(detail: ColumnDetail): [string, string][] {
  const { column } = detail
  const s = detail.summary as Record<string, number | string | null | { value: string; count: number }[]>
  const figure = (name: string) =>
    column.kind === 'date'
      ? typeof s[name] === 'number'
        ? date(new Date(1000 * (s[name] as number)).toISOString())
        : '–'
      : number(s[name] as number | null)
  const head: [string, string][] = [
    ['missing', column.missing === 0 ? '0' : `${whole(column.missing)} (${share(column.missingShare)})`],
    ...(column.sealed > 0 ? ([['sealed', `${whole(column.sealed)}, not in these figures`]] as [string, string][]) : []),
    ['distinct', whole(column.distinct)],
  ]
  if (s.type === 'text') {
    const top = (s.top ?? []) as { value: string; count: number }[]
    return [
      ...head,
      ...top.slice(0, 4).map((t): [string, string] => [t.value.length > 16 ? `${t.value.slice(0, 15)}…` : t.value, whole(t.count)]),
    ]
  }
  if (column.kind === 'date') return [...head, ['first', figure('min')], ['last', figure('max')], ['median', figure('median')]]
  return [
    ...head,
    ['median', figure('median')],
    ['mean', figure('mean')],
    ['middle half', `${figure('q1')} to ${figure('q3')}`],
    ['5th to 95th', `${figure('p05')} to ${figure('p95')}`],
    ['smallest', figure('min')],
    ['largest', figure('max')],
    ['spread (sd)', figure('sd')],
    ['skewness', figure('skewness_G1')],
  ]
}
