import { Link, useNavigate } from 'react-router'
import { Chart } from '../../ui/Chart'
import { count, share, whole } from '../../ui/format'
import { IntervalMark } from '../../ui/IntervalMark'
import { tokens } from '../../ui/theme'
import { type Condition, rowsPath } from '../../data/conditions'
import type { Missing } from '../../data/picture'
import { missingTitle } from './titles'

type Props = { data: Missing; studyId: number; tableId: number }

/** Which cells are missing together: a line per pattern, a square where a column is missing. */
export function MissingPicture({ data, studyId, tableId }: Props) {
  const go = useNavigate()
  const columns = data.columns.slice(0, 16)
  const cell = 22
  const left = Math.max(90, columns.length * cell + 16)
  const most = Math.max(1, ...data.patterns.map((p) => p.records))
  const conditions = (missing: string[]): Condition[] =>
    data.columns.length <= 12
      ? data.columns.map((c): Condition => [c.column, missing.includes(c.column) ? 'is missing' : 'is present'])
      : missing.slice(0, 12).map((c): Condition => [c, 'is missing'])
  const open = (i: number) => void go(rowsPath(studyId, tableId, conditions(data.patterns[i]!.missing)))
  if (data.columns.length === 0)
    return (
      <div className="empty">
        <h2>Nothing is missing</h2>
        <p>Every cell of the {whole(data.records)} records holds a value. Look for marks such as −1 or 999 among what stands apart.</p>
      </div>
    )
  const height = data.patterns.length * cell + 118
  return (
    <>
      <Chart
        title={missingTitle(data)}
        sub={`${whole(data.complete)} of ${whole(data.records)} records are complete. A line per pattern, a square where the column is missing.`}
        name="what-is-missing"
        height={height}
        data={{
          heads: ['missing', 'records', 'share'],
          rows: data.patterns.map((p) => [p.missing.join(', ') || 'nothing', p.records, share(p.records / data.records)]),
        }}
        onPickRow={open}
        drawn={
          <svg width={left + 330} height={height} fontFamily='"Public Sans Variable", sans-serif' fontSize={12}>
            {columns.map((c, j) => (
              <text key={c.column} transform={`translate(${j * cell + 15} 106) rotate(-55)`} fill={tokens.ink}>
                {c.column.length > 17 ? `${c.column.slice(0, 16)}…` : c.column}
              </text>
            ))}
            {data.patterns.map((p, i) => (
              <g key={i} transform={`translate(0 ${112 + i * cell})`} onClick={() => open(i)} className="pressable">
                <title>{`${p.missing.length === 0 ? 'Nothing missing' : `${p.missing.join(' and ')} missing`}: ${count(p.records, 'record')}`}</title>
                <rect width={left + 320} height={cell} fill="transparent" />
                {columns.map((c, j) => {
                  const gone = p.missing.includes(c.column)
                  return (
                    <rect key={c.column} x={j * cell + 2} y={2} width={cell - 4} height={cell - 4} fill={gone ? tokens.brass : '#EFE8DA'} />
                  )
                })}
                <rect
                  x={left}
                  y={4}
                  width={Math.max(1, (200 * p.records) / most)}
                  height={cell - 8}
                  fill={p.missing.length === 0 ? '#C3B69D' : tokens.ink}
                />
                <text x={left + 8 + (200 * p.records) / most} y={15.5} fill={tokens.ink}>
                  {whole(p.records)} <tspan fill={tokens.inkSoft}>{share(p.records / data.records)}</tspan>
                </text>
              </g>
            ))}
          </svg>
        }
        how={
          <>
            <p>
              Each line is a pattern: the filled squares are the columns missing in those records, the bar how many records have exactly
              that pattern. Columns filled in the same line are missing together, which often has one cause.
            </p>
            <p>
              Below: where a column is missing more often for some values of another one. Such gaps are not by chance; filling them with one
              number would hide that.
            </p>
          </>
        }
      />
      {data.other > 0 && <p className="small soft">{count(data.other, 'record')} with rarer patterns are not drawn.</p>}
      {data.where.length > 0 && (
        <table className="ledger" aria-label="Missing more often where" style={{ marginTop: 10, maxWidth: 640 }}>
          <thead>
            <tr>
              <th>Missing more often where</th>
              <th className="n" style={{ width: 80 }}>
                Records
              </th>
              <th className="n" style={{ width: 80 }}>
                Missing
              </th>
              <th style={{ width: 130 }}>
                <span className="sr">Interval</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {data.where.slice(0, 3).flatMap((w) =>
              w.levels.map((l, i) => (
                <tr key={`${w.column} ${w.by} ${l.value}`} style={i === 0 ? { borderTop: '1px solid var(--ink-soft)' } : {}}>
                  <td>
                    {i === 0 && <b>{w.column}, </b>}
                    <Link
                      to={rowsPath(studyId, tableId, [
                        [w.column, 'is missing'],
                        [w.by, 'is', l.value],
                      ])}
                    >
                      {w.by} is {l.value}
                    </Link>
                  </td>
                  <td className="n">{whole(l.records)}</td>
                  <td className="n">{share(l.share)}</td>
                  <td className="mark">
                    <IntervalMark
                      value={l.share}
                      low={l.low}
                      high={l.high}
                      scale={[0, Math.max(0.05, ...w.levels.map((o) => o.high))]}
                      width={124}
                      tone="brass"
                    />
                  </td>
                </tr>
              )),
            )}
          </tbody>
        </table>
      )}
    </>
  )
}

export function MissingThumb({ data }: { data: Missing }) {
  const most = Math.max(1, ...data.columns.map((c) => c.share))
  return (
    <svg width={70} height={54} aria-hidden="true">
      {data.columns.slice(0, 5).map((c, i) => (
        <g key={c.column}>
          <rect x={2} y={6 + i * 9} width={66} height={6} fill={tokens.rule} />
          <rect
            x={2}
            y={6 + i * 9}
            width={(66 * c.share) / Math.max(most, 0.3)}
            height={6}
            fill={i === 0 ? tokens.brass : tokens.inkSoft}
          />
        </g>
      ))}
    </svg>
  )
}
