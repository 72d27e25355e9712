import { Link, useNavigate } from 'react-router'
import { Chart } from '../../ui/Chart'
import { fixed, number, share, whole } from '../../ui/format'
import { Shape } from '../../ui/Shape'
import { tokens } from '../../ui/theme'
import { rowsPath } from '../../data/conditions'
import type { Lopsided } from '../../data/picture'
import { lopsidedTitle } from './titles'

type Props = { data: Lopsided; studyId: number; tableId: number }

/** Long tails of numbers side by side, the most lopsided first, and values of categories that hardly occur. */
export function LopsidedPicture({ data, studyId, tableId }: Props) {
  const go = useNavigate()
  const shown = data.numbers.slice(0, 12)
  const width = 196
  const height = 96
  const tall = Math.ceil(shown.length / 3) * (height + 26)
  const tail = (i: number) => {
    const n = data.numbers[i]!
    const bin = n.skewness > 0 ? n.bins[n.bins.length - 1] : n.bins[0]
    void go(
      rowsPath(studyId, tableId, [
        [n.column, n.skewness > 0 ? 'is at least' : 'is under', String(n.skewness > 0 ? (bin?.low ?? 0) : (bin?.high ?? 0))],
      ]),
    )
  }
  return (
    <>
      {shown.length > 0 && (
        <Chart
          title={lopsidedTitle(data)}
          sub="Each column of numbers, the most lopsided first; the outer bins hold everything beyond them. The line is the mean, the dotted one the median."
          name="what-is-lopsided"
          height={tall}
          data={{
            heads: ['column', 'skewness', 'median', 'mean', 'largest'],
            rows: data.numbers.map((n) => [n.column, fixed(n.skewness, 2), number(n.median), number(n.mean), number(n.most)]),
          }}
          onPickRow={tail}
          pickLabel="Records at the end"
          drawn={
            <svg width={3 * (width + 16)} height={tall} fontFamily='"Public Sans Variable", sans-serif' fontSize={12}>
              {shown.map((n, i) => {
                const most = Math.max(...n.bins.map((b) => b.count))
                const first = n.bins[0]!.low
                const last = n.bins[n.bins.length - 1]!.high
                const x = (v: number) => ((Math.min(last, Math.max(first, v)) - first) / (last - first || 1)) * width
                return (
                  <g
                    key={n.column}
                    transform={`translate(${(i % 3) * (width + 16)} ${Math.floor(i / 3) * (height + 26)})`}
                    className="pressable"
                    onClick={() => tail(i)}
                  >
                    <title>{`${n.column}: the records at the long end`}</title>
                    <text y={12} fill={tokens.ink} fontWeight={600}>
                      {n.column.length > 18 ? `${n.column.slice(0, 17)}…` : n.column}
                      <tspan
                        fill={Math.abs(n.skewness) >= 1 ? tokens.brassInk : tokens.inkSoft}
                        fontWeight={400}
                      >{`  ${fixed(n.skewness, 1)}`}</tspan>
                    </text>
                    {n.bins.map((b, j) => {
                      const h = Math.max(b.count > 0 ? 1 : 0, (b.count / most) * (height - 40))
                      return (
                        <rect
                          key={j}
                          x={x(b.low)}
                          y={height - 16 - h}
                          width={Math.max(1, x(b.high) - x(b.low) - 0.4)}
                          height={h}
                          fill="#C3B69D"
                        />
                      )
                    })}
                    <line x1={0} x2={width} y1={height - 16} y2={height - 16} stroke={tokens.ink} />
                    <line x1={x(n.mean)} x2={x(n.mean)} y1={20} y2={height - 16} stroke={tokens.verdigris} strokeWidth={1.4} />
                    <line x1={x(n.median)} x2={x(n.median)} y1={20} y2={height - 16} stroke={tokens.ink} strokeDasharray="2 2" />
                    <text y={height - 3} fontSize={11} fill={tokens.inkSoft}>
                      {number(first, 3)}
                    </text>
                    <text x={width} y={height - 3} textAnchor="end" fontSize={11} fill={tokens.inkSoft}>
                      {number(last, 3)}
                    </text>
                  </g>
                )
              })}
            </svg>
          }
          how={
            <p>
              Skewness is 0 where both sides mirror each other. Beyond 1 or −1 the mean no longer stands for a usual record, and a few
              values weigh much in a regression; a logarithm or ranks may help.
            </p>
          }
        />
      )}
      {data.categories.length > 0 ? (
        <table className="ledger" aria-label="Rare values" style={{ marginTop: 10, maxWidth: 660 }}>
          <thead>
            <tr>
              <th style={{ width: 150 }}>Category</th>
              <th className="n" style={{ width: 70 }}>
                Values
              </th>
              <th>Most frequent</th>
              <th>Rare, under 1% of records each</th>
            </tr>
          </thead>
          <tbody>
            {data.categories.map((c) => (
              <tr key={c.column}>
                <td className="nm">{c.column}</td>
                <td className="n">{whole(c.levels)}</td>
                <td>
                  {c.top}, {share(c.topShare)}
                </td>
                <td>
                  <Link to={rowsPath(studyId, tableId, [[c.column, 'is one of', ...c.rare.map((r) => r.value)]])}>
                    {whole(c.rare.length)} with {whole(c.inRare)} records
                  </Link>
                  <span className="soft">
                    {': '}
                    {c.rare
                      .slice(0, 3)
                      .map((r) => `${r.value} ${whole(r.records)}`)
                      .join(', ')}
                  </span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : (
        <p className="small soft">No category has values with under 1% of the records.</p>
      )}
    </>
  )
}

export function LopsidedThumb({ data }: { data: Lopsided }) {
  const first = data.numbers[0]
  return first ? <Shape bars={first.bins} steps width={68} height={50} /> : null
}
