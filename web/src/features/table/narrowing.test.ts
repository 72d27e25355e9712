import { describe, expect, it } from 'vitest'
import type { Relation } from '../../data/finding'
import type { Column } from '../../data/table'
import { narrowedTo } from './narrowing'

const column = (change: Partial<Column>) =>
  ({ name: 'Boiler_Age', kind: 'number', use: 'input', missing: 0, missingShare: 0, distinct: 30, ...change }) as Column
const relation = (alone: number | null, adjusted = 0.001, late = false) => ({ alone, adjusted, late }) as Relation

describe('narrowing the Register', () => {
  it.each<[string, Partial<Column>, Relation | undefined, boolean]>([
    ['', {}, undefined, true],
    ['kind=number', {}, undefined, true],
    ['kind=text', {}, undefined, false],
    ['use=key', { use: 'key' }, undefined, true],
    ['use=key', {}, undefined, false],
    ['missing=some', {}, undefined, false],
    ['missing=some', { missing: 1, missingShare: 0.001 }, undefined, true],
    ['missing=over+half', { missing: 50, missingShare: 0.5 }, undefined, true],
    ['missing=over+5%25', { missing: 4, missingShare: 0.04 }, undefined, false],
    ['distinct=one', { distinct: 1 }, undefined, true],
    ['distinct=one', { distinct: 0 }, undefined, true],
    ['distinct=2+to+20', { distinct: 20 }, undefined, true],
    ['distinct=over+20', { distinct: 20 }, undefined, false],
    ['distinct=all+different', { distinct: 90, missing: 10 }, undefined, true],
    ['distinct=all+different', { distinct: 99 }, undefined, false],
    ['distinct=a+word+of+an+older+link', {}, undefined, true],
    ['alone=telling+something', {}, relation(0.55), true],
    ['alone=telling+something', {}, relation(0.55, 0.2), false],
    ['alone=telling+something', {}, relation(0.99, 0, true), false],
    ['alone=telling+something', {}, undefined, false],
    ['alone=AUC+over+0.6', {}, relation(0.61), true],
    ['alone=not+telling', {}, relation(0.51, 0.4), true],
    ['alone=not+telling', {}, undefined, false],
    ['name=boiler', {}, undefined, true],
    ['name=boiler&kind=text', {}, undefined, false],
  ])('%s', (asked, change, related, kept) => {
    expect(narrowedTo(new URLSearchParams(asked), column(change), 100, related)).toBe(kept)
  })
})
