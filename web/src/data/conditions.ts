/** A condition as addresses and the API write it: column, relation, values. */
export type Condition = [column: string, relation: string, ...values: string[]]

export function parseConditions(text: string | null): Condition[] {
  try {
    const given: unknown = JSON.parse(text ?? '[]')
    return Array.isArray(given) && given.every((c) => Array.isArray(c) && c.length >= 2 && c.every((w) => typeof w === 'string'))
      ? (given as Condition[])
      : []
  } catch {
    return []
  }
}

/** How many values a relation takes: none, one, two, or several (Infinity). */
export function valuesOf(relation: string): number {
  if (relation === 'is missing' || relation === 'is present') return 0
  if (relation === 'is between') return 2
  return relation === 'is one of' || relation === 'is none of' ? Infinity : 1
}

/** The address of the records for which conditions hold. */
export function rowsPath(studyId: number, tableId: number, conditions: Condition[], any = false): string {
  const params = new URLSearchParams({ where: JSON.stringify(conditions) })
  if (any) params.set('any', '1')
  return `/study/${studyId}/table/${tableId}/rows?${params}`
}

/** The address of single records, in the order of the table. */
export function recordsPath(studyId: number, tableId: number, numbers: number[]): string {
  return `/study/${studyId}/table/${tableId}/rows?only=${numbers.slice(0, 1000).join(',')}`
}
