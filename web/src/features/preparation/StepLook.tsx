import { count, whole } from '../../ui/format'
import type { Look } from '../../data/preparation'

/** Some rows that a step changes, and how a column is spread before and after. */
export function StepLook({ look }: { look: Look }) {
  const columns = look.rows[0]?.cells.map((c) => c.column) ?? []
  return (
    <>
      {look.spread && <Spread spread={look.spread} />}
      {look.rows.length > 0 && (
        <table className="ledger" aria-label="Some of the rows it changes">
          <thead>
            <tr>
              <th className="ln" style={{ width: 44 }}>
                Line
              </th>
              {columns.map((c) => (
                <th key={c} title={c} className="clipped">
                  {c}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {look.rows.map((r) => (
              <tr key={r.row}>
                <td className="ln">{r.row + 1}</td>
                {r.out !== null && columns.length === 0 && <td className="cinn">out: {r.out}</td>}
                {r.cells.map((c) => (
                  <td key={c.column} title={`${c.before ?? 'missing'} to ${c.after ?? 'missing'}`}>
                    {c.before === c.after ? (
                      <span className="soft">{c.after ?? '–'}</span>
                    ) : (
                      <>
                        <span className="soft">{c.before ?? '–'} → </span>
                        <b className="brass">{c.after ?? '–'}</b>
                      </>
                    )}
                    {r.out !== null && <span className="cinn"> out</span>}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="soft small">
        {look.changed > 0 ? `${count(look.changed, 'cell')} of rows that stay ${look.changed === 1 ? 'is' : 'are'} written anew. ` : ''}
        {look.made.length > 0 ? `New: ${listed(look.made)}. ` : ''}
        {look.gone.length > 0 ? `Gone: ${listed(look.gone)}.` : ''}
      </p>
    </>
  )
}

const listed = (names: string[]) => (names.length > 6 ? `${names.slice(0, 5).join(', ')} and ${names.length - 5} more` : names.join(', '))

function Spread({ spread }: { spread: NonNullable<Look['spread']> }) {
  const width = 340
  const height = 86
  const most = Math.max(1, ...spread.before, ...spread.after)
  const bar = width / spread.labels.length
  const tall = (n: number) => (n / most) * (height - 4)
  const had = spread.before.some((n) => n > 0)
  return (
    <figure className="flush">
      <figcaption className="small">
        <b>{spread.column}</b> <span className="soft">{had ? 'before (outlined) and after' : 'as it comes out'}</span>
      </figcaption>
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={`How ${spread.column} is spread before and after; the figures stand in the title of each bar`}
      >
        {spread.labels.map((label, i) => (
          <g key={label + i}>
            <title>{`${label}: ${had ? `${whole(spread.before[i])} before, ` : ''}${whole(spread.after[i])} after`}</title>
            <rect x={i * bar} y={0} width={bar} height={height} fill="transparent" />
            <rect
              x={i * bar + 0.5}
              y={height - 1 - tall(spread.after[i]!)}
              width={Math.max(0.5, bar - 1)}
              height={tall(spread.after[i]!)}
              fill={(spread.after[i] ?? 0) > (spread.before[i] ?? 0) && had ? 'var(--brass)' : '#C9CCC4'}
            />
            <rect
              x={i * bar + 0.5}
              y={height - 1 - tall(Math.min(spread.after[i]!, spread.before[i]!))}
              width={Math.max(0.5, bar - 1)}
              height={tall(Math.min(spread.after[i]!, spread.before[i]!))}
              fill="#C9CCC4"
            />
            {had && (
              <path
                d={`M${i * bar + 0.5} ${height - 1 - tall(spread.before[i]!)}h${Math.max(0.5, bar - 1)}`}
                stroke="var(--ink)"
                strokeWidth={1}
              />
            )}
          </g>
        ))}
        <path d={`M0 ${height - 0.5}H${width}`} stroke="var(--ink)" />
      </svg>
      <p className="soft small" style={{ display: 'flex', justifyContent: 'space-between', width }}>
        <span>{spread.labels[0]}</span>
        <span>{spread.labels[spread.labels.length - 1]}</span>
      </p>
    </figure>
  )
}
