import { type Judgment, sectionOf } from '../data/judgment'
import { figured } from '../ui/measure'
import { pValue } from '../ui/format'

/** A column that could go: why, and what shuffling it costs where that is known. */
export type Weak = { column: string; why: string; lost: number | null }

/** What the ranking figure loses without a column, as far as shuffling told. */
function lost(judgment: Judgment, column: string): number | null {
  return sectionOf(judgment, 'leaning')?.columns.find((l) => l.column === column)?.value ?? null
}

/** Columns whose shuffling cost nothing that can be told from noise. */
export function weakWhenShuffled(judgment: Judgment): Weak[] {
  return (sectionOf(judgment, 'leaning')?.columns ?? [])
    .filter((l) => (l.low ?? 0) <= 0)
    .map((l) => ({ column: l.column, why: figured(judgment.trial.measure, l), lost: l.value ?? null }))
}

/** Columns none of whose terms stands out from noise: the least p-value of each. */
export function weakByTerms(judgment: Judgment): Weak[] {
  const least = new Map<string, number>()
  for (const c of sectionOf(judgment, 'coefficients')?.coefficients ?? []) {
    // The longest name first: one column may begin like another.
    const column = [...judgment.inputs]
      .sort((a, b) => b.length - a.length)
      .find((i) => c.name === i || c.name.startsWith(`${i}=`) || c.name.startsWith(`${i} `))
    if (column === undefined || c.p == null) continue
    least.set(column, Math.min(least.get(column) ?? 1, c.p))
  }
  return [...least].filter(([, p]) => p >= 0.05).map(([column, p]) => ({ column, why: pValue(p), lost: lost(judgment, column) }))
}

/** Columns that a choice step by step left out, or never took. */
export function weakByChoice(judgment: Judgment): Weak[] {
  const steps = sectionOf(judgment, 'choice')?.steps ?? []
  const taken = [...steps].reverse().find((s) => s.action !== 'stop')
  if (!taken) return []
  return judgment.inputs
    .filter((i) => !taken.columns.some((c) => c === i || c.startsWith(`${i}=`) || c.startsWith(`${i} `)))
    .map((column) => ({ column, why: 'not taken', lost: lost(judgment, column) }))
}
