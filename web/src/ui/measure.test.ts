import { expect, test } from 'vitest'
import { beside, figured, IN_UNITS } from './measure'

const m = { value: 20.69, low: 19.97, high: 21.4 }

test.each([
  ['as the interval supports', 22.5912, m, '22.6'],
  ['a rest of rounding is nothing', -6.1e-15, m, '0.0'],
  ['without an interval, as it is', 22.5912, { value: 20.69 }, '22.59'],
  ['nothing known', null, m, '–'],
])('what stands beside a figure: %s', (_, value, figure, told) => expect(beside(IN_UNITS, value, figure)).toBe(told))

test('a figure without units keeps its three digits', () => {
  expect(beside({ inUnits: false }, 0.5, m)).toBe('0.500')
  expect(figured(IN_UNITS, m)).toBe('20.7 ± 0.7')
})
