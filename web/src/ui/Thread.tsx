import type { ReactNode } from 'react'

type ThreadStep = {
  key: string
  label: string
  figure?: string
  to: string
  open?: boolean
  pending?: boolean
  /** share of the rows that are left after it */
  left?: number
}
export type ThreadStation = {
  number: number
  label: string
  to: string
  figures?: string[]
  waits?: string
  state: 'done' | 'now' | 'todo' | 'waits'
  steps?: ThreadStep[]
  /** share of rows still in play between this station and the next; null = not reached */
  share: number | null
  stale?: boolean
}

const MIDDLE = 36

/** One filament of ten: drawn together at both stations, apart between them. */
function filament(i: number, y0: number, y1: number): string {
  const inner = MIDDLE + (4.5 - i) * 1.2
  const outer = MIDDLE + (4.5 - i) * 3
  const bend = Math.min(22, (y1 - y0) / 2)
  return `M${inner} ${y0}C${inner} ${y0 + bend * 0.45} ${outer} ${y0 + bend * 0.4} ${outer} ${y0 + bend}V${y1 - bend}C${outer} ${y1 - bend * 0.4} ${inner} ${y1 - bend * 0.45} ${inner} ${y1}`
}

/** A filament that leaves the strand where its rows are lost. */
function leaving(i: number, y0: number, y1: number): string {
  const inner = MIDDLE + (4.5 - i) * 1.2
  const outer = MIDDLE + (4.5 - i) * 3
  const bend = Math.min(22, (y1 - y0) / 2)
  return `M${inner} ${y0}C${inner} ${y0 + bend * 0.45} ${outer} ${y0 + bend * 0.4} ${outer} ${y0 + bend}V${y1}c0 6 -4 9 -9 10`
}

/**
 * The thread: a bundle of ten filaments, each a tenth of the rows, running down through the six stations. It is the navigation and
 * the state in one. `seal` draws the brass pair that runs beside it to the sealed rows.
 */
export function Thread({
  stations,
  seal,
  renderLink,
  foot,
}: {
  stations: ThreadStation[]
  seal?: { opened: boolean } | null
  renderLink: (to: string, className: string, content: ReactNode, current: boolean) => ReactNode
  foot?: ReactNode
}) {
  const placed: (ThreadStation & { y: number; stepsAt: number[] })[] = []
  let y = 30
  for (const station of stations) {
    const lines = (station.figures?.length ?? 0) + (station.waits ? 1 : 0)
    const firstStep = y + Math.max(30, 14 + lines * 16 + 12)
    const stepsAt = (station.steps ?? []).map((_, i) => firstStep + 12 + i * 26)
    placed.push({ ...station, y, stepsAt })
    y = Math.max(y + 56, y + 38 + lines * 16, (stepsAt[stepsAt.length - 1] ?? 0) + 40)
  }
  const height = y + 20
  const sealFrom = placed[2]
  const sealTo = placed[4]
  return (
    <nav className="thread" aria-label="The thread: stations and steps">
      <div className="inner">
        <svg viewBox={`0 0 190 ${height}`} style={{ height }} aria-hidden="true">
          {placed.slice(0, -1).map((s, k) => {
            const next = placed[k + 1]!.y
            if (s.share === null)
              return (
                <path
                  key={s.number}
                  d={`M${MIDDLE} ${s.y}V${next}`}
                  stroke="var(--rule-firm)"
                  strokeWidth="1.5"
                  strokeDasharray="1.5 4"
                  strokeLinecap="round"
                />
              )
            const filaments = s.share * 10
            return (
              <g
                key={s.number}
                fill="none"
                stroke={s.stale ? 'var(--ink-soft)' : 'var(--ink)'}
                strokeDasharray={s.stale ? '2 3' : undefined}
              >
                {Array.from({ length: Math.ceil(filaments) }, (_, i) => {
                  // The step after which fewer rows are left than this filament stands for.
                  const lost = (s.steps ?? []).findIndex((t) => t.left !== undefined && Math.ceil(t.left * filaments - 0.05) <= i)
                  return (
                    <path
                      key={i}
                      d={lost < 0 ? filament(i, s.y, next) : leaving(i, s.y, s.stepsAt[lost] ?? next)}
                      strokeWidth={i + 1 > filaments ? Math.max(0.3, 1.2 * (filaments - i)) : 1.2}
                    />
                  )
                })}
              </g>
            )
          })}
          {seal && sealFrom && sealTo && (
            <g fill="none" stroke="var(--brass)" strokeWidth="1.2">
              <path
                d={`M24 ${sealFrom.y + 22}C14 ${sealFrom.y + 26} 11.5 ${sealFrom.y + 34} 11.5 ${sealFrom.y + 46}V${sealTo.y - 30}M26 ${sealFrom.y + 24}C16 ${sealFrom.y + 28} 14.5 ${sealFrom.y + 36} 14.5 ${sealFrom.y + 46}V${sealTo.y - 30}`}
              />
              <path d={octagon(13, sealTo.y - 22, 8)} fill={seal.opened ? 'var(--desk)' : 'var(--brass)'} />
            </g>
          )}
          {placed.map((s) => (
            <g key={s.number}>
              {s.stepsAt.map((at) => (
                <path key={at} d={`M53 ${at}H60`} stroke="var(--ink-soft)" />
              ))}
              <circle
                cx={MIDDLE}
                cy={s.y}
                r={12}
                strokeWidth="1.5"
                fill={s.state === 'now' ? 'var(--verdigris)' : 'var(--desk)'}
                stroke={{ now: 'var(--verdigris)', done: 'var(--ink)', todo: 'var(--rule-firm)', waits: 'var(--brass)' }[s.state]}
              />
              <text
                x={MIDDLE}
                y={s.y + 4.8}
                textAnchor="middle"
                style={{ font: '600 14px var(--serif)' }}
                fill={{ now: 'var(--paper)', done: 'var(--ink)', todo: 'var(--ink-soft)', waits: 'var(--brass-ink)' }[s.state]}
              >
                {s.number}
              </text>
            </g>
          ))}
        </svg>
        <ol>
          {placed.flatMap((s) => [
            <li key={s.number} style={{ top: s.y - 13 }}>
              {renderLink(
                s.to,
                `st ${s.state === 'now' ? 'now' : s.state === 'todo' ? 'todo' : ''}`,
                <>
                  {s.label}
                  {s.figures?.map((f) => (
                    <span key={f} className="fig">
                      {f}
                    </span>
                  ))}
                  {s.waits && <span className="fig waits">{s.waits}</span>}
                </>,
                s.state === 'now',
              )}
            </li>,
            ...(s.steps ?? []).map((step, i) => (
              <li
                key={step.key}
                className={`sp ${step.open ? 'open' : ''} ${step.pending ? 'pend' : ''}`}
                style={{ top: s.stepsAt[i]! - 8 }}
              >
                {renderLink(
                  step.to,
                  'lead',
                  <span className="nowrap" style={{ overflow: 'hidden', textOverflow: 'ellipsis', display: 'block' }} title={step.label}>
                    {step.label}
                  </span>,
                  false,
                )}
                <span>{step.figure}</span>
              </li>
            )),
          ])}
        </ol>
      </div>
      {foot && <div className="foot">{foot}</div>}
    </nav>
  )
}

function octagon(x: number, y: number, r: number): string {
  const k = r * 0.414
  return `M${x - k} ${y - r}H${x + k}L${x + r} ${y - k}V${y + k}L${x + k} ${y + r}H${x - k}L${x - r} ${y + k}V${y - k}Z`
}
