import { describe, expect, it } from 'vitest'
import { count, duration, fixed, number, pValue, share, tick, whole, withInterval } from './format'

describe('numbers as they are read', () => {
  it.each([
    [whole(6000), '6,000'],
    [whole(-5), '\u22125'],
    [whole(null), '–'],
    [whole(Number.NaN), '–'],
    [share(0.1725), '17.3%'],
    [share(undefined), '–'],
    [share(-0.05), '\u22125.0%'],
    [number(0.0123456), '0.01235'],
    [number(123456.7), '123,457'],
    [number(0.00001), '1.0e-5'],
    [number(5.854, 3), '5.85'],
    [number(-3.21e306), '\u22123.2e306'],
    [whole(1e300), '1.0e300'],
    [fixed(2e15), '2.0e15'],
    [tick(-10000), '\u221210,000'],
    [tick(1234.5), '1,234.5'],
    [tick(0.00002), '2.0e-5'],
    [tick(0.3), '0.3'],
    [number(Infinity), '–'],
    [fixed(0.8366), '0.837'],
    [withInterval(0.837, 0.821, 0.851), '0.837 ± 0.016'],
    [withInterval(0.837, null, null), '0.837'],
    [withInterval(null, 0, 1), '–'],
    [pValue(0.00001), '< 0.0001'],
    [pValue(0.0412), '0.0412'],
    [pValue(null), '–'],
    [count(1, 'row'), '1 row'],
    [count(2, 'study', 'studies'), '2 studies'],
    [duration(0.2), 'under a second'],
    [duration(42), '42 s'],
    [duration(600), '10 min'],
    [duration(9000), '2.5 h'],
  ])('%s is %s', (got, wanted) => expect(got).toBe(wanted))
})
