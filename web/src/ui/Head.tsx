import type { ReactNode } from 'react'

/** Title, subtitle, the one sentence that says where we stand, and the actions of the screen. */
export function Head({ title, small, say, children }: { title: ReactNode; small?: ReactNode; say?: ReactNode; children?: ReactNode }) {
  return (
    <header className="head">
      <h1 tabIndex={-1}>
        {title}
        {small != null && <small>{small}</small>}
      </h1>
      <div className="acts">{children}</div>
      <p className="say">{say}</p>
    </header>
  )
}
