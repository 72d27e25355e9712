import { Link } from 'react-router'
import { useAddress } from '../../ui/address'
import { Chart } from '../../ui/Chart'
import { whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import { tokens } from '../../ui/theme'
import { Loading, Trouble } from '../../ui/Trouble'
import type { Column } from '../../data/table'
import { recordsPath } from '../../data/conditions'
import { type Repeats, useRepeats } from '../../data/picture'
import { repeatsTitle } from './titles'

type Props = { columns: Column[]; studyId: number; tableId: number }

/** Records that are equal in every column, or in those that are chosen. */
export function RepeatsPicture({ columns, studyId, tableId }: Props) {
  const [params, set] = useAddress()
  const chosen = params.get('equal')?.split('\n') ?? null
  const found = useRepeats(tableId, chosen)
  const data = found.error ? undefined : found.data
  const put = (names: string[] | null) => set({ equal: names === null || names.length === 0 ? null : names.join('\n') })
  const rest = columns.filter((c) => !(chosen ?? []).includes(c.name)).map((c) => ({ value: c.name, label: c.name, effect: c.kind }))
  const most = Math.max(1, ...(data?.sizes ?? []).map((s) => s.groups))
  const sizes = (data?.sizes ?? []).slice(0, 14)
  const height = Math.max(60, sizes.length * 24 + 8)
  return (
    <>
      <p className="sentence" style={{ margin: '0 0 10px' }}>
        Records that are equal in{' '}
        {chosen === null ? (
          <Slot label="Equal in" value="every column" choices={rest} onChange={(v) => put([v])} />
        ) : (
          <>
            {chosen.map((name, i) => (
              <span key={name}>
                {i > 0 && ' and '}
                <Slot
                  label={`Equal in, ${i + 1}`}
                  value={name}
                  choices={[
                    ...(chosen.length > 1 ? [{ value: '', label: `not ${name}` }] : [{ value: '', label: 'every column' }]),
                    ...rest,
                  ]}
                  onChange={(v) => put(v === '' ? chosen.filter((c) => c !== name) : chosen.map((c) => (c === name ? v : c)))}
                />
              </span>
            ))}{' '}
            <Slot label="And equal in" value="and…" choices={rest} onChange={(v) => put([...chosen, v])} />
          </>
        )}
      </p>
      <Trouble error={found.error} />
      {found.isPending && <Loading what="what repeats" />}
      {data && data.groups === 0 && (
        <div className="empty">
          <h2>{repeatsTitle(data, chosen === null)}</h2>
          <p>Choose the columns that should tell records apart, for example a key and a date, to look for near repeats.</p>
        </div>
      )}
      {data && data.groups > 0 && (
        <>
          <Chart
            title={repeatsTitle(data, chosen === null)}
            sub={`${whole(data.groups)} groups of equal records; ${whole(data.more)} records would go if one of each stayed.`}
            name="what-repeats"
            height={height}
            data={{ heads: ['equal records', 'groups'], rows: data.sizes.map((s) => [s.times, s.groups]) }}
            drawn={
              <svg width={520} height={height} fontFamily='"Public Sans Variable", sans-serif' fontSize={12}>
                {sizes.map((s, i) => (
                  <g key={s.times} transform={`translate(0 ${i * 24})`}>
                    <text x={66} y={16} textAnchor="end" fill={tokens.ink}>
                      {whole(s.times)} times
                    </text>
                    <rect x={76} y={4} width={Math.max(1, (340 * s.groups) / most)} height={16} fill="#C3B69D" />
                    <text x={82 + (340 * s.groups) / most} y={16} fill={tokens.ink}>
                      {whole(s.groups)}
                    </text>
                  </g>
                ))}
              </svg>
            }
            how={
              <p>
                How often the same occurs: two times, three times and so on, and for how many. Records with nothing in all of the chosen
                columns are not called equal.
              </p>
            }
          />
          <table className="ledger" aria-label="Equal records" style={{ marginTop: 10 }}>
            <thead>
              <tr>
                <th className="n" style={{ width: 80 }}>
                  Records
                </th>
                <th>{data.columns.slice(0, 4).join(', ')}</th>
                <th style={{ width: 130 }}>
                  <span className="sr">Open</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {data.examples.slice(0, 20).map((e) => (
                <tr key={e.rows[0]}>
                  <td className="n">{whole(e.records)}</td>
                  <td>
                    {e.cells
                      .slice(0, 4)
                      .map((c) => c ?? '–')
                      .join(', ')}
                  </td>
                  <td>
                    <Link
                      to={recordsPath(
                        studyId,
                        tableId,
                        e.rows.map((r) => r + 1),
                      )}
                    >
                      Records behind it
                    </Link>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </>
  )
}

export function RepeatsThumb({ data }: { data: Repeats }) {
  return (
    <svg width={70} height={54} aria-hidden="true">
      {[0, 1, 2].map((i) => (
        <rect
          key={i}
          x={8 + i * 9}
          y={8 + i * 9}
          width={34}
          height={18}
          fill={data.groups > 0 ? '#C3B69D' : tokens.paper}
          stroke={tokens.inkSoft}
          strokeDasharray={data.groups > 0 ? '' : '2 2'}
        />
      ))}
    </svg>
  )
}
