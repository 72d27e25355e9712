import { told } from '../../data/told'
import type { Trial } from '../../data/trial'

/** Color, dash and shape of each trial side by side: told apart without color too. */
const MARKS = [
  { color: '#1b6e62', dash: undefined, name: 'round' },
  { color: '#46648f', dash: '6 3', name: 'triangle' },
  { color: '#96466a', dash: '2 2.5', name: 'square' },
  { color: '#b9771f', dash: '8 3 2 3', name: 'lozenge' },
] as const

export function markOf(k: number) {
  return MARKS[k % MARKS.length]!
}

/** The mark itself, centered at a place. */
export function Shape({ k, x, y, size = 3.4 }: { k: number; x: number; y: number; size?: number }) {
  const { color } = markOf(k)
  if (k === 0) return <circle cx={x} cy={y} r={size} fill={color} />
  if (k === 1) return <path d={`M${x} ${y - size * 1.15}l${size * 1.1} ${size * 2}h${-size * 2.2}z`} fill={color} />
  if (k === 2) return <rect x={x - size * 0.9} y={y - size * 0.9} width={size * 1.8} height={size * 1.8} fill={color} />
  return (
    <path
      d={`M${x} ${y - size * 1.3}l${size * 1.2} ${size * 1.3}l${-size * 1.2} ${size * 1.3}l${-size * 1.2} ${-size * 1.3}z`}
      fill={color}
    />
  )
}

/** A stretch of its line with its mark, as a key. */
export function Key({ k, narrow = false }: { k: number; narrow?: boolean }) {
  const { color, dash } = markOf(k)
  return (
    <svg width={narrow ? 18 : 28} height="12" viewBox={narrow ? '5 0 18 12' : '0 0 28 12'} aria-hidden="true" style={{ flex: 'none' }}>
      <path d="M0 6H28" stroke={color} strokeWidth="2" {...(dash === undefined ? {} : { strokeDasharray: dash })} />
      <Shape k={k} x={14} y={6} />
    </svg>
  )
}

/** What a trial is called beside the others: its learner alone where that tells it, else with its number. */
export function short(trials: Trial[], k: number): string {
  const own = trials[k]!
  return trials.filter((t) => t.title === own.title).length > 1 ? `${own.title} ${own.number}` : own.title
}

/** The same with what it was set to. */
export function long(trials: Trial[], k: number): string {
  const own = trials[k]!
  return own.title + told(own, trials)
}
