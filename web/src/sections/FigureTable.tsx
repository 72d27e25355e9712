import type { ReactNode } from 'react'

export type FigureLine = {
  name: string
  /** In plain words, when the name is hovered. */
  plain: string
  value: string
  mark?: ReactNode
  baseline: string
  sealed: string
}

/** Figures of validation rows with their intervals, beside what doing nothing scores and, once opened, the sealed rows. */
export function FigureTable({ lines, nothing, sealed }: { lines: FigureLine[]; nothing: string; sealed: boolean }) {
  const marked = lines.some((l) => l.mark)
  return (
    <table className="ledger" aria-label="Figures">
      <thead>
        <tr>
          <th>Figure</th>
          <th className="n" style={{ width: 112 }}>
            Validation, 95%
          </th>
          {marked && (
            <th className="mark" style={{ width: 66 }}>
              <span className="sr">Interval, drawn</span>
            </th>
          )}
          <th className="n" style={{ width: 60 }}>
            {nothing}
          </th>
          {sealed && (
            <th className="n" style={{ width: 60 }}>
              Sealed
            </th>
          )}
        </tr>
      </thead>
      <tbody>
        {lines.map((l) => (
          <tr key={l.name}>
            <td title={l.plain}>{l.name}</td>
            <td className="n">
              <b>{l.value}</b>
            </td>
            {marked && <td className="mark">{l.mark}</td>}
            <td className="n brass">{l.baseline}</td>
            {sealed && <td className="n">{l.sealed}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  )
}
