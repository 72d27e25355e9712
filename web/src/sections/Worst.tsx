import { Link } from '@mui/material'
import { useState } from 'react'
import { number, share, whole } from '../ui/format'
import { Loading, Trouble } from '../ui/Trouble'
import { type Judgment, useWorst } from '../data/judgment'

/** The validation rows that were most wrong: five at a glance, fifty on request. */
export function Worst({ judgment }: { judgment: Judgment }) {
  const worst = useWorst(judgment.trial.id)
  const [all, setAll] = useState(false)
  const data = worst.data
  const isNumber = judgment.trial.task === 'number'
  const under = data?.records.filter((r) => isNumber && r.off > 0).length ?? 0
  const of = Math.min(50, data?.records.length ?? 0)
  // The first column with few different values says most about a record at a glance.
  const beside = data
    ? data.names.findIndex((n, i) => n !== judgment.target && new Set(data.records.map((r) => r.cells[i])).size <= 12)
    : -1
  return (
    <>
      <h2 className="fig-title">
        {!data ? 'The worst' : isNumber ? `Of the ${whole(of)} worst, ${whole(under)} came higher` : `The ${whole(of)} that surprised most`}
      </h2>
      {worst.isPending && <Loading what="the worst" />}
      <Trouble known error={worst.error} onRetry={() => void worst.refetch()} />
      {data && (
        <div style={{ maxHeight: all ? 320 : undefined, overflow: 'auto' }}>
          <table className="ledger" aria-label="Worst rows">
            <thead>
              <tr>
                <th className="n" style={{ width: 50 }}>
                  Row
                </th>
                {beside >= 0 && <th>{data.names[beside]}</th>}
                <th className="n" style={{ width: isNumber ? 54 : 108 }}>
                  Said
                </th>
                <th className="n" style={{ width: isNumber ? 50 : 108 }}>
                  Came
                </th>
                <th className="n" style={{ width: 60 }}>
                  {isNumber ? 'Off' : 'Chance'}
                </th>
              </tr>
            </thead>
            <tbody>
              {data.records.slice(0, all ? 50 : 5).map((r) => (
                <tr key={r.number}>
                  <td className="n">
                    <b>{r.number}</b>
                  </td>
                  {beside >= 0 && (
                    <td className="nm soft" title={r.cells[beside] ?? ''}>
                      {r.cells[beside] ?? '–'}
                    </td>
                  )}
                  <td className="n nm">{isNumber ? number(r.said, 3) : r.saidClass}</td>
                  <td className="n nm">{isNumber ? number(r.came) : r.cameClass}</td>
                  <td className="n">
                    <b>{isNumber ? `${r.off > 0 ? '+' : ''}${number(r.off, 3)}` : share(r.off)}</b>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {data && data.records.length > 5 && (
        <p className="small above-4">
          {all ? `${whole(of)} of ${whole(data.total)} shown ` : `5 of ${whole(of)} shown `}
          <Link component="button" type="button" onClick={() => setAll(!all)}>
            {all ? 'Show five' : `Open all ${whole(of)}`}
          </Link>
        </p>
      )}
    </>
  )
}
