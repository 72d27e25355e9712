import { Button } from '@mui/material'
import { useMemo } from 'react'
import { useAddress } from '../../ui/address'
import { Chart } from '../../ui/Chart'
import { fixed, pValue, whole, withInterval } from '../../ui/format'
import { IntervalMark } from '../../ui/IntervalMark'
import { Ledger } from '../../ui/Ledger'
import { tokens } from '../../ui/theme'
import { type Column, useChangeColumn } from '../../data/table'
import type { Pair, Together } from '../../data/picture'
import { clear, togetherTitle } from './titles'

const key = (p: Pair) => `${p.first}|${p.second}`
const against = '#46648F'
const withIt = '#B9771F'

/** Paper to a color: ranks go two ways, strengths without direction one way. */
function shade(p: Pair): { fill: string; opacity: number } {
  const fill = p.measure !== 'rank correlation' ? tokens.verdigris : p.strength < 0 ? against : withIt
  return { fill, opacity: Math.min(1, 0.18 + 0.82 * Math.abs(p.strength)) }
}

function byPlace(data: Together): Map<string, Pair> {
  const out = new Map<string, Pair>()
  for (const p of data.pairs) {
    out.set(`${p.first}|${p.second}`, p)
    out.set(`${p.second}|${p.first}`, p)
  }
  return out
}

/** Every pair of columns, ordered so that like stands by like. */
export function TogetherMap({
  data,
  target,
  columns,
  draw,
}: {
  data: Together
  target: string | null
  columns: Column[]
  studyId: number
  tableId: number
  draw: (x: string, y: string) => void
}) {
  const [params, set] = useAddress()
  const change = useChangeColumn()
  const at = useMemo(() => byPlace(data), [data])
  const chosen = at.get(params.get('pair') ?? '') ?? null
  const k = data.order.length
  const cell = Math.max(4, Math.min(22, Math.floor(400 / Math.max(1, k))))
  const named = cell >= 11
  const telling = data.pairs.filter(clear)
  const shown = telling.slice(0, 60)
  const pick = (p: Pair) => set({ pair: key(p) })
  return (
    <div style={{ position: 'relative', minHeight: 400 }}>
      <Chart
        title={togetherTitle(data, target)}
        sub={`${whole(k)} columns of mixed kinds, ordered so that like stands by like. ${data.leftOut.length > 0 ? `Left out: ${data.leftOut.map((l) => `${l.column} (${l.why})`).join(', ')}.` : ''}`}
        name="what-goes-together"
        height={k * cell + 24}
        data={{
          heads: ['one', 'other', 'measure', 'strength', 'low', 'high', 'p for all pairs', 'Pearson', 'records'],
          rows: data.pairs.map((p) => [
            p.first,
            p.second,
            p.measure,
            fixed(p.strength),
            fixed(p.low),
            fixed(p.high),
            pValue(p.adjusted),
            fixed(p.pearson),
            p.n,
          ]),
        }}
        onPickRow={(i) => pick(data.pairs[i]!)}
        pickLabel="Look at it"
        drawn={
          <svg
            width={k * cell + 150}
            height={k * cell + 6}
            fontFamily='"Public Sans Variable", sans-serif'
            fontSize={Math.min(12, cell - 1)}
          >
            {data.order.map((name, i) => (
              <g key={name} transform={`translate(0 ${i * cell})`}>
                {data.order.slice(0, i).map((other, j) => {
                  const p = at.get(`${other}|${name}`)
                  if (!p || !clear(p))
                    return named ? <circle key={other} cx={(j + 0.5) * cell} cy={cell / 2} r={0.9} fill={tokens.ruleFirm} /> : null
                  const on = chosen !== null && (key(chosen) === key(p) || key(p) === `${chosen.second}|${chosen.first}`)
                  return (
                    <g key={other} onClick={() => pick(p)} className="pressable">
                      <title>{`${p.first} with ${p.second}: ${p.measure} ${withInterval(p.strength, p.low, p.high, 2)}`}</title>
                      <rect
                        x={j * cell + 0.5}
                        y={0.5}
                        width={cell - 1}
                        height={cell - 1}
                        fill={shade(p).fill}
                        fillOpacity={shade(p).opacity}
                        stroke={on ? tokens.ink : 'none'}
                        strokeWidth={2}
                      />
                      {named && Math.abs(p.strength) >= 0.095 && (
                        <text
                          x={(j + 0.5) * cell}
                          y={cell / 2 + 3.5}
                          textAnchor="middle"
                          fontSize={Math.min(10.5, cell / 2)}
                          fill={Math.abs(p.strength) > 0.55 ? tokens.paper : tokens.ink}
                        >
                          {Math.abs(p.strength) >= 0.995 ? '1' : Math.abs(p.strength).toFixed(2).slice(1)}
                        </text>
                      )}
                    </g>
                  )
                })}
                {named && (
                  <text x={i * cell + 5} y={cell / 2 + 4} fill={tokens.ink} fontWeight={name === target ? 700 : 500}>
                    {name.length > 20 ? `${name.slice(0, 19)}…` : name}
                  </text>
                )}
              </g>
            ))}
          </svg>
        }
        how={
          <>
            <p>
              Each square is a pair of columns. Ochre: both rise together; blue: one rises while the other falls (numbers, dates and yes/no,
              by rank). Green: with a category there is no direction. The fuller the color, the stronger; 1 means that one says the other. A
              dot: within chance, after correcting for asking every pair.
            </p>
            <p>
              The columns are ordered by clustering, so that blocks of columns that say the same stand together. What goes together need not
              be a cause. The target is looked at on unsealed rows only.
            </p>
          </>
        }
      />
      <p className="small soft" style={{ margin: '4px 0 0' }}>
        <Square color={against} /> <Square color={withIt} /> move against, with each other: numbers, dates and yes/no, by rank{' '}
        <Square color={tokens.verdigris} /> with a category, no direction · within chance
      </p>
      {chosen && (
        <div className="note" style={{ marginTop: 10, maxWidth: 560 }}>
          <h3>
            {chosen.first} with {chosen.second}: {fixed(chosen.strength, 2)}
          </h3>
          <p>
            {chosen.measure} {withInterval(chosen.strength, chosen.low, chosen.high, 2)}
            {chosen.pearson != null && `; Pearson ${fixed(chosen.pearson, 2)}`}; p {pValue(chosen.adjusted)} for all pairs together, on{' '}
            {whole(chosen.n)} records.
          </p>
          <p className="do">
            <Button size="small" onClick={() => draw(chosen.first, chosen.second)}>
              Draw them
            </Button>
            {Math.abs(chosen.strength) >= 0.9 &&
              [chosen.second]
                .map((n) => columns.find((c) => c.name === n))
                .filter((c): c is Column => c?.use === 'input')
                .map((c) => (
                  <Button
                    key={c.id}
                    size="small"
                    disabled={change.isPending}
                    onClick={() => change.mutate({ column: c, change: { use: 'set aside' } })}
                  >
                    Set {c.name} aside
                  </Button>
                ))}
          </p>
        </div>
      )}
      <div
        style={{
          position: 'absolute',
          right: 0,
          top: 56,
          width: 'min(376px, 52%)',
          background: tokens.paper,
          display: 'flex',
          flexDirection: 'column',
        }}
      >
        <div style={{ height: 226, display: 'flex' }}>
          <Ledger<Pair>
            label="Strongest pairs"
            rows={shown}
            rowKey={key}
            selected={chosen ? key(chosen) : null}
            onSelect={pick}
            onOpen={(p) => draw(p.first, p.second)}
            columns={[
              {
                key: 'pair',
                title: 'Strongest pairs',
                cell: (p) => (
                  <span title={`${p.first}, ${p.second}: ${p.measure}`}>
                    <b>{p.first}</b>, {p.second}
                  </span>
                ),
              },
              { key: 'strength', title: 'Strength', number: true, width: 96, cell: (p) => withInterval(p.strength, p.low, p.high, 2) },
              {
                key: 'mark',
                title: <span className="sr">Interval</span>,
                width: 72,
                className: 'mark',
                cell: (p) => (
                  <IntervalMark
                    value={p.strength}
                    low={p.low ?? null}
                    high={p.high ?? null}
                    scale={[-1, 1]}
                    width={64}
                    reference={0}
                    tone={p.measure === 'rank correlation' ? 'brass' : 'verdigris'}
                  />
                ),
              },
            ]}
          />
        </div>
        <p className="small soft" style={{ margin: '6px 0' }}>
          {whole(telling.length)} of {whole(data.pairs.length)} pairs are clear of chance.
        </p>
      </div>
    </div>
  )
}

function Square({ color }: { color: string }) {
  return (
    <svg width={12} height={12} aria-hidden="true" style={{ verticalAlign: '-1px' }}>
      <rect width={12} height={12} fill={color} fillOpacity={0.7} />
    </svg>
  )
}

export function MapThumb({ data }: { data: Together }) {
  const at = useMemo(() => byPlace(data), [data])
  const k = data.order.length
  const c = 66 / Math.max(1, k)
  return (
    <svg width={70} height={54} aria-hidden="true">
      <g transform="scale(1 .78)">
        {data.order.flatMap((name, i) =>
          data.order.slice(0, i).map((other, j) => {
            const p = at.get(`${other}|${name}`)
            return p && clear(p) ? (
              <rect key={`${i} ${j}`} x={j * c} y={i * c} width={c} height={c} fill={shade(p).fill} fillOpacity={shade(p).opacity} />
            ) : null
          }),
        )}
      </g>
    </svg>
  )
}
