import type { View } from '../api/client'

/** One thing that can be set, of a learner or of a step, as the server describes it. */
export type Setting = View<'Setting'>
export type Values = Record<string, unknown>

/** What a setting stands at: what was chosen, else its usual value. */
export const standing = (s: Setting, values: Values): unknown => values[s.name] ?? s.default

/** Whether a setting does anything as the others stand. */
export function matters(s: Setting, all: Setting[], values: Values, task: string | null): boolean {
  if (task !== null && (s.tasks ?? []).length > 0 && !s.tasks!.includes(task)) return false
  return Object.entries(s.when ?? {}).every(([name, wanted]) => {
    const other = all.find((o) => o.name === name)
    return other !== undefined && matters(other, all, values, task) && wanted.includes(String(standing(other, values) ?? ''))
  })
}

/** A written number as it is meant. What is none goes to the server as it is, which says so; nothing written means nothing set. */
export function numberOf(text: string): number | string | undefined {
  if (text.trim() === '') return undefined
  const value = Number(text.replace(',', '.'))
  return Number.isFinite(value) ? value : text
}
