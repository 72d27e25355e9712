import type { ReactNode } from 'react'

/** What was noticed, the evidence, and up to two remedies. */
export function Note({ title, children, remedies }: { title: ReactNode; children: ReactNode; remedies?: ReactNode }) {
  return (
    <div className="note" style={{ marginBottom: 16 }}>
      <h3>{title}</h3>
      <p>{children}</p>
      {remedies && <p className="do">{remedies}</p>}
    </div>
  )
}
