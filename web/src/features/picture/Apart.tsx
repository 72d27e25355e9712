import { Link, useNavigate } from 'react-router'
import { Chart } from '../../ui/Chart'
import { fixed, number, whole } from '../../ui/format'
import { Ledger } from '../../ui/Ledger'
import { tokens } from '../../ui/theme'
import { recordsPath, rowsPath } from '../../data/conditions'
import type { ApartColumn } from '../../data/picture'
import { apartTitle } from './titles'

/** Distances from the median in widths of the middle half, pressed together far out so that all columns fit one scale. */
const reach = (c: ApartColumn, v: number) =>
  Math.asinh((v - c.median) / (c.q3 > c.q1 ? c.q3 - c.q1 : Math.max(1e-9, Math.abs(c.most - c.least) / 20)))

export function Apart({ columns, studyId, tableId }: { columns: ApartColumn[]; studyId: number; tableId: number }) {
  const go = useNavigate()
  const shown = columns.slice(0, 16)
  const ends = shown.flatMap((c) => [reach(c, c.least), reach(c, c.most)])
  const [low, high] = [Math.min(-2, ...ends), Math.max(2, ...ends)]
  const x = (r: number) => 132 + ((r - low) / (high - low)) * 470
  const line = 26
  const ticks = [-100, -30, -10, -3, -1, 0, 1, 3, 10, 30, 100].filter((t) => Math.asinh(t) >= low && Math.asinh(t) <= high)
  const beyond = (c: ApartColumn) =>
    rowsPath(
      studyId,
      tableId,
      [
        [c.column, 'is under', String(c.fenceLow)],
        [c.column, 'is over', String(c.fenceHigh)],
      ],
      true,
    )
  if (columns.length === 0)
    return (
      <div className="empty">
        <h2>No column of numbers to look at</h2>
        <p>Records can stand apart in columns of numbers with at least five different values.</p>
      </div>
    )
  return (
    <>
      <Chart
        title={apartTitle(columns)}
        sub="A box holds the middle half, its lines reach to the last values inside the fences; dots lie beyond. Distance from the median in widths of the box."
        name="what-stands-apart"
        height={shown.length * line + 40}
        data={{
          heads: ['column', 'median', 'fences from', 'to', 'below', 'above', 'robust z over 3.5', 'smallest', 'largest'],
          rows: columns.map((c) => [
            c.column,
            number(c.median),
            number(c.fenceLow),
            number(c.fenceHigh),
            c.below,
            c.above,
            c.robust,
            number(c.least),
            number(c.most),
          ]),
        }}
        onPickRow={(i) => void go(beyond(columns[i]!))}
        drawn={
          <svg width={620} height={shown.length * line + 34} fontFamily='"Public Sans Variable", sans-serif' fontSize={12}>
            {ticks.map((t) => (
              <g key={t}>
                <line x1={x(Math.asinh(t))} x2={x(Math.asinh(t))} y1={4} y2={shown.length * line + 6} stroke={tokens.rule} />
                <text x={x(Math.asinh(t))} y={shown.length * line + 22} textAnchor="middle" fontSize={11} fill={tokens.inkSoft}>
                  {t < 0 ? `−${-t}` : t}
                </text>
              </g>
            ))}
            {shown.map((c, i) => {
              const y = i * line + line / 2 + 4
              const at = (v: number) => x(reach(c, v))
              const loud = (c.largestZ ?? 0) > 3.5
              return (
                <g key={c.column}>
                  <text x={0} y={y + 4} fill={tokens.ink} fontWeight={loud && c.below + c.above > 0 ? 640 : 400}>
                    {c.column.length > 18 ? `${c.column.slice(0, 17)}…` : c.column}
                  </text>
                  <line x1={at(c.low)} x2={at(c.high)} y1={y} y2={y} stroke={tokens.ink} strokeWidth={1} />
                  <rect
                    x={at(c.q1)}
                    y={y - 6}
                    width={Math.max(1, at(c.q3) - at(c.q1))}
                    height={12}
                    fill="#C3B69D"
                    stroke={tokens.ink}
                    strokeWidth={0.8}
                  />
                  <line x1={at(c.median)} x2={at(c.median)} y1={y - 6} y2={y + 6} stroke={tokens.ink} strokeWidth={1.6} />
                  {c.apart.map((a) => (
                    <circle
                      key={a.row}
                      cx={at(a.value)}
                      cy={y + ((a.row % 5) - 2) * 1.8}
                      r={2.2}
                      fill={tokens.brass}
                      fillOpacity={0.75}
                      className="pressable"
                      onClick={() => void go(recordsPath(studyId, tableId, [a.row + 1]))}
                    >
                      <title>{`Record ${a.row + 1}: ${c.column} ${number(a.value)}${a.z === null ? '' : `, robust z ${fixed(a.z, 1)}`}`}</title>
                    </circle>
                  ))}
                </g>
              )
            })}
          </svg>
        }
        how={
          <>
            <p>
              Tukey’s fences lie 1.5 widths of the middle half outside it; in well-behaved numbers about 7 of 1,000 records lie beyond. The
              robust z is the distance from the median in units that outliers cannot stretch; over 3.5 it is rare by chance.
            </p>
            <p>A long tail is not an error. Look at the records: a value nobody could have measured is; a rare case is not.</p>
          </>
        }
      />
      <div style={{ display: 'flex', height: Math.min(230, 26 + 24 * columns.length), marginTop: 8, maxWidth: 640 }}>
        <Ledger<ApartColumn>
          label="Columns by what stands apart"
          rows={columns}
          rowKey={(c) => c.column}
          columns={[
            { key: 'column', title: 'Column', cell: (c) => <span className="nm">{c.column}</span> },
            {
              key: 'beyond',
              title: 'Beyond fences',
              number: true,
              width: 104,
              cell: (c) =>
                c.below + c.above === 0 ? <span className="soft">0</span> : <Link to={beyond(c)}>{whole(c.below + c.above)}</Link>,
            },
            { key: 'far', title: 'Far beyond', number: true, width: 84, cell: (c) => whole(c.far) },
            { key: 'robust', title: 'Robust z > 3.5', number: true, width: 104, cell: (c) => whole(c.robust) },
            { key: 'z', title: 'Largest |z|', number: true, width: 86, cell: (c) => fixed(c.largestZ, 1) },
            { key: 'first', title: 'Farthest', number: true, width: 86, cell: (c) => number(c.apart[0]?.value) },
          ]}
        />
      </div>
    </>
  )
}

export function ApartThumb({ columns }: { columns: ApartColumn[] }) {
  return (
    <svg width={70} height={54} aria-hidden="true">
      {columns.slice(0, 5).map((c, i) => {
        const x = (v: number) => 24 + Math.max(-22, Math.min(44, 9 * reach(c, v)))
        return (
          <g key={c.column}>
            <rect x={x(c.low)} y={5 + i * 9.5} width={Math.max(1, x(c.high) - x(c.low))} height={5} fill="#C3B69D" />
            {c.apart.slice(0, 12).map((a) => (
              <circle key={a.row} cx={x(a.value)} cy={7.5 + i * 9.5} r={1.2} fill={tokens.brass} />
            ))}
          </g>
        )
      })}
    </svg>
  )
}
