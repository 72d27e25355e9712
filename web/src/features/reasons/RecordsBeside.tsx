import { useQueries } from '@tanstack/react-query'
import { useState } from 'react'
import { reasonsQuery, type Reasons, type Source } from '../../data/reasons'
import { useAddress } from '../../ui/address'
import { fixed, number, share, whole } from '../../ui/format'
import { Trouble } from '../../ui/Trouble'

const MOST = 4
const FEW = 10

/** This record beside up to four others: their answers, and what each column does to them. */
export function RecordsBeside({ source, record, reasons }: { source: Source; record: number; reasons: Reasons }) {
  const [params, set] = useAddress()
  const others = (params.get('with') ?? '')
    .split(',')
    .map(Number)
    .filter((n) => n > 0 && n !== record)
    .slice(0, MOST)
  const asked = useQueries({ queries: others.map((n) => reasonsQuery(source, n)) })
  const [adding, setAdding] = useState('')
  const [all, setAll] = useState(false)
  const known = [reasons, ...asked.flatMap((q) => (q.data ? [q.data] : []))]
  const isNumber = reasons.task === 'number'
  const said = (v: number | undefined) => (v === undefined ? '–' : `${v > 0 ? '+' : ''}${isNumber ? number(v, 3) : fixed(100 * v, 1)}`)
  const answer = (r: Reasons) =>
    isNumber ? number(r.answer) : r.class != null ? `${r.class} ${share(r.account?.answer, 0)}` : share(r.chance)
  const strength = new Map<string, number>()
  for (const r of known)
    for (const c of r.account?.columns ?? []) strength.set(c.column, Math.max(strength.get(c.column) ?? 0, Math.abs(c.effect)))
  const columns = [...strength].sort((a, b) => b[1] - a[1]).map(([c]) => c)
  const to = (numbers: number[]) => set({ with: numbers.length === 0 ? null : numbers.join(',') })
  return (
    <section className="pad" aria-label="Beside other records" style={{ borderTop: '1px solid var(--rule)' }}>
      <form
        className="size-13"
        onSubmit={(e) => {
          e.preventDefault()
          const n = Number(adding.replace(/\D/g, ''))
          if (n > 0 && n !== record && n <= reasons.rows) to([...new Set([...others, n])].slice(-MOST))
          setAdding('')
        }}
      >
        <label>
          Set record <input value={adding} onChange={(e) => setAdding(e.target.value)} inputMode="numeric" className="lined" /> beside it
        </label>{' '}
        {others.length > 0 && (
          <button type="button" className="link" onClick={() => to([])}>
            Take all away
          </button>
        )}
      </form>
      {asked.map((q, i) => (
        <Trouble key={others[i]} known error={q.error} />
      ))}
      {known.length > 1 && (
        <div className="above-6 scrolls-x">
          <table className="ledger" aria-label="Records side by side" style={{ minWidth: 170 + 150 * known.length }}>
            <thead>
              <tr>
                <th style={{ width: 150 }}>{isNumber ? `In units of ${reasons.target}` : 'In points'}</th>
                {known.map((r) => (
                  <th key={r.number} className="n">
                    Record {whole(r.number)}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              <tr>
                <td>
                  <b>Answer</b>
                </td>
                {known.map((r) => (
                  <td key={r.number} className="n">
                    <b>{r.why ?? answer(r)}</b>
                  </td>
                ))}
              </tr>
              <tr>
                <td className="soft">Likeness</td>
                {known.map((r) => (
                  <td key={r.number} className="n soft">
                    {whole(100 * r.likeness)}
                  </td>
                ))}
              </tr>
              {(all ? columns : columns.slice(0, FEW)).map((c) => (
                <tr key={c}>
                  <td className="nm clipped" title={c}>
                    {c}
                  </td>
                  {known.map((r) => {
                    const line = r.account?.columns.find((x) => x.column === c)
                    return (
                      <td key={r.number} className="n" title={line?.value ?? 'missing'}>
                        <span className="soft">{(line?.value ?? 'missing').slice(0, 14)}</span>{' '}
                        <b style={{ color: (line?.effect ?? 0) < 0 ? '#3A547A' : '#8A5716' }}>{said(line?.effect)}</b>
                      </td>
                    )
                  })}
                </tr>
              ))}
            </tbody>
          </table>
          {columns.length > FEW && (
            <p className="small above-4">
              <button type="button" className="link" onClick={() => setAll(!all)}>
                {all ? 'The strongest' : `All ${columns.length} columns`}
              </button>
            </p>
          )}
        </div>
      )}
    </section>
  )
}
