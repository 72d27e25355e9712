import type { LearnedLook } from '../../data/preparation'

/** What a step learned of the training rows: loadings, or what words tell. */
export function Learned({ learned }: { learned: LearnedLook }) {
  return (
    <div style={{ maxHeight: 240, overflow: 'auto', flex: '0 0 auto' }} tabIndex={0} role="region" aria-label={learned.caption}>
      <table className="ledger" style={{ tableLayout: 'auto', whiteSpace: 'nowrap' }}>
        <caption className="small" style={{ textAlign: 'left', fontWeight: 640 }}>
          {learned.caption}
        </caption>
        <thead>
          <tr>
            {learned.head.map((h, i) => (
              <th key={h} className={i === 0 ? undefined : 'n'}>
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {learned.rows.map((r) => (
            <tr key={r.name}>
              <td className="nm" title={r.name}>
                {r.name}
              </td>
              {r.cells.map((c, i) => (
                <td key={i} className="n">
                  {c}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
