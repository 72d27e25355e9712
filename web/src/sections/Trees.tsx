import { share } from '../ui/format'
import type { SectionOf } from '../data/judgment'
import { CourseFigure } from './Course'

/** What a forest or a boosted model leans on, and how its error fell with the number of trees. */
export function Trees({ section }: { section: SectionOf<'trees'> }) {
  const most = Math.max(...section.importance.map((i) => i.share), 1e-9)
  const sums = section.importance.map((_, at) => section.importance.slice(0, at + 1).reduce((s, i) => s + i.share, 0))
  const half = 1 + sums.findIndex((s) => s >= 0.5)
  return (
    <div className="wraps">
      <section className="pad" style={{ flex: '1 1 460px' }}>
        <h2 className="fig-title">
          {half === 1 ? 'One column does' : `${half} columns do`} half of the work, {section.importance[0]?.column} most
        </h2>
        <p className="fig-sub">
          Importance inside the model: the share of all that its divisions gained on training rows, by column; columns with many values gain
          more of it by chance.
        </p>
        <table className="ledger" aria-label="Importance">
          <thead>
            <tr>
              <th>Column</th>
              <th className="n" style={{ width: 76 }}>
                Share
              </th>
              <th style={{ width: 190 }}>
                <span className="sr">Drawn</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {section.importance.map((i) => (
              <tr key={i.column}>
                <td className="nm" title={i.column}>
                  {i.column}
                </td>
                <td className="n">{share(i.share)}</td>
                <td>
                  <svg width={170} height={10} aria-hidden="true">
                    <rect width={(i.share / most) * 170} height={10} fill="var(--verdigris)" />
                  </svg>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      {section.course.length > 1 && (
        <section className="pad" style={{ flex: '1 1 420px', borderLeft: '1px solid var(--rule)' }}>
          <CourseFigure course={section.course} of={section.courseOf ?? 'error'} by="tree" />
        </section>
      )}
    </div>
  )
}
