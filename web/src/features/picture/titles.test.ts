import { describe, expect, it } from 'vitest'
import type { ApartColumn, Lopsided, Missing, Pair, Repeats, Together, Two } from '../../data/picture'
import { apartTitle, clear, lopsidedTitle, missingTitle, networkTitle, repeatsTitle, togetherTitle, twoTitle } from './titles'

const pair = (first: string, second: string, strength: number, more: Partial<Pair> = {}) =>
  ({ first, second, measure: 'rank correlation', strength, low: 0, high: 0, p: 0, adjusted: 0, pearson: null, n: 100, ...more }) as Pair
const together = (...pairs: Pair[]) => ({ order: ['a', 'b', 'c', 'd'], pairs, leftOut: [] }) as unknown as Together
const where = (column: string, by: string, shares: number[]) => ({
  column,
  by,
  strength: 0.4,
  adjusted: 0,
  levels: shares.map((share, i) => ({ value: `v${i}`, records: 100, missing: 100 * share, share, low: 0, high: 1 })),
})
const missing = (of: object) =>
  ({ columns: [{ column: 'a', missing: 4, share: 0.04 }], patterns: [], where: [], ...of }) as unknown as Missing
const apart = (of: object) =>
  ({ column: 'km', below: 0, above: 0, largestZ: 9, apart: [{ row: 1, value: 700, z: 9 }], ...of }) as ApartColumn
const lopsided = (numbers: [string, number][], categories: [string, number][] = []) =>
  ({
    numbers: numbers.map(([column, skewness]) => ({ column, skewness })),
    categories: categories.map(([column, rare]) => ({ column, rare: Array.from({ length: rare }, () => ({})) })),
  }) as unknown as Lopsided
const repeats = (of: object) => ({ groups: 2, more: 3, repeated: 5, columns: ['a', 'b'], ...of }) as unknown as Repeats
const two = (p: Pair | null) => ({ x: 'age', y: 'cost', pair: p }) as unknown as Two

/** A title claims no more than what is clear of chance, and counts in words that fit. */
describe('what a picture says in a sentence', () => {
  it.each([
    // Together.
    [togetherTitle(together(), null), 'No two columns clearly go together'],
    [togetherTitle(together(pair('a', 'b', 0.4)), null), 'a and b go together most, 0.40'],
    [togetherTitle(together(pair('a', 'b', -0.4)), null), 'a and b go together most, 0.40'],
    [togetherTitle(together(pair('a', 'b', 0.4, { adjusted: 0.2 })), null), 'No two columns clearly go together'],
    [togetherTitle(together(pair('a', 'b', 0.04)), null), 'No two columns clearly go together'],
    [togetherTitle(together(pair('a', 'b', 0.97)), null), 'a and b nearly say the same'],
    [togetherTitle(together(pair('a', 'b', 0.97), pair('b', 'c', -0.99)), null), 'a and b nearly say the same, and 1 other pair too'],
    [
      togetherTitle(together(pair('a', 'b', 1), pair('b', 'c', 1), pair('a', 'c', 1)), null),
      'a and b nearly say the same, and 2 other pairs too',
    ],
    // What goes with the target is told elsewhere.
    [togetherTitle(together(pair('t', 'b', 0.99), pair('a', 'b', 0.3)), 't'), 'a and b go together most, 0.30'],
    [togetherTitle(together(pair('a', 't', 0.99)), 't'), 'No two columns clearly go together'],
    // The ring.
    [networkTitle(together(pair('a', 'b', 0.4), pair('b', 'c', 0.1)), 0.2), '2 of 4 columns are linked at 0.20 or more; 2 stand alone'],
    [networkTitle(together(pair('a', 'b', 0.4), pair('b', 'c', -0.2)), 0.2), '3 of 4 columns are linked at 0.20 or more; 1 stands alone'],
    [networkTitle(together(), 0.5), '0 of 4 columns are linked at 0.50 or more; 4 stand alone'],
    // Missing.
    [missingTitle(missing({ columns: [] })), 'Nothing is missing'],
    [missingTitle(missing({ where: [where('age', 'make', [0.3, 0.1, 0.02])] })), 'age is missing by make: from 2.0% to 30.0%'],
    [
      missingTitle(
        missing({
          patterns: [
            { missing: ['a'], records: 9 },
            { missing: ['a', 'b'], records: 1 },
          ],
        }),
      ),
      'a and b are missing together in 1 record',
    ],
    [
      missingTitle(missing({ patterns: [{ missing: ['a'], records: 9 }] })),
      'a is missing most, in 4.0%; no two columns are missing together',
    ],
    // Apart.
    [apartTitle([]), 'No record stands far apart in a column of numbers'],
    [apartTitle([apart({ above: 1 })]), '1 record stands apart in km, up to 700'],
    [apartTitle([apart({ above: 2, below: 1 })]), '3 records stand apart in km, up to 700'],
    [apartTitle([apart({ above: 2, largestZ: 3.5 })]), 'No record stands far apart in a column of numbers'],
    [apartTitle([apart({ above: 2, largestZ: null })]), 'No record stands far apart in a column of numbers'],
    [apartTitle([apart({ largestZ: 9 })]), 'No record stands far apart in a column of numbers'],
    [apartTitle([apart({ above: 4, apart: [] })]), '4 records stand apart in km, up to –'],
    // Lopsided.
    [lopsidedTitle(lopsided([['km', 2.31]])), 'km leans furthest right, skewness 2.3'],
    [lopsidedTitle(lopsided([['km', -2.31]])), 'km leans furthest left, skewness −2.3'],
    [lopsidedTitle(lopsided([['km', 0.99]], [['make', 1]])), 'make has 1 rare value'],
    [lopsidedTitle(lopsided([], [['make', 3]])), 'make has 3 rare values'],
    [lopsidedTitle(lopsided([['km', 0.2]])), 'No column is lopsided'],
    // Repeats.
    [repeatsTitle(repeats({ groups: 0 }), true), 'No record repeats another in every column'],
    [repeatsTitle(repeats({ groups: 0 }), false), 'No two records are equal in a and b'],
    [repeatsTitle(repeats({ more: 1 }), true), '1 record repeats an earlier one in every column'],
    [repeatsTitle(repeats({ more: 1200 }), true), '1,200 records repeat an earlier one in every column'],
    [repeatsTitle(repeats({}), false), '5 records share their a and b with another one'],
    // Two columns.
    [twoTitle(two(null)), 'age and cost'],
    [twoTitle(two(pair('age', 'cost', 0.3))), 'The larger age, the larger cost: rank correlation 0.30'],
    [twoTitle(two(pair('age', 'cost', -0.3))), 'The larger age, the smaller cost: rank correlation −0.30'],
    [twoTitle(two(pair('age', 'cost', 0.01, { p: 0.5, adjusted: 1 }))), 'age and cost do not clearly go together'],
    [twoTitle(two(pair('age', 'cost', 0.3, { measure: "Cramér's V" }))), "cost differs by age: Cramér's V 0.30"],
  ])('%s', (said, wanted) => expect(said).toBe(wanted))

  it('clear of chance is both: unlikely by chance, and large enough to matter', () => {
    expect(clear(pair('a', 'b', 0.05, { adjusted: 0.049 }))).toBe(true)
    expect(clear(pair('a', 'b', 0.9, { adjusted: 0.05 }))).toBe(false)
    expect(clear(pair('a', 'b', -0.049))).toBe(false)
  })
})
