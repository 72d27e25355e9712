import type { SectionOf } from '../data/judgment'
import { number, share } from '../ui/format'

type Table = SectionOf<'tables'>['tables'][number]
type Cell = Table['rows'][number][number]

/** Tables that a model shows of itself. */
export function Tables({ section }: { section: SectionOf<'tables'> }) {
  return (
    <>
      {section.tables.map((t) => (
        <section key={t.title} className="pad">
          <h2 className="fig-title">{t.title}</h2>
          <p className="fig-sub">{t.says}</p>
          <table className="ledger" aria-label={t.title} style={{ maxWidth: 760 }}>
            <thead>
              <tr>
                {t.columns.map((c) => (
                  <th key={c.title} className={c.form === 'text' ? '' : 'n'}>
                    {c.title}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {t.rows.map((row, i) => (
                <tr key={i}>
                  {row.map((cell, j) => (
                    <td key={j} className={t.columns[j]?.form === 'text' ? 'nm' : 'n'} title={cell.text ?? undefined}>
                      {said(cell, t.columns[j]?.form)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ))}
    </>
  )
}

function said(cell: Cell, form: string | undefined): string {
  if (cell.text != null) return cell.text
  const write = form === 'share' ? share : number
  return cell.low != null && cell.high != null ? `${write(cell.value)}, ${write(cell.low)} to ${write(cell.high)}` : write(cell.value)
}
