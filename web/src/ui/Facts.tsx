import type { ReactNode } from 'react'

/** Names and figures on hairlines, in two columns. */
export function Facts({ facts }: { facts: [string, ReactNode][] }) {
  return (
    <dl className="facts">
      {facts.map(([name, figure]) => (
        <div key={name}>
          <dt>{name}</dt>
          <dd>{figure}</dd>
        </div>
      ))}
    </dl>
  )
}
