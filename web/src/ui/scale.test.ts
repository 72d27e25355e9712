import { expect, it } from 'vitest'
import { roundTicks } from './scale'

it.each([
  [[0.5, 1], 5, [0.5, 0.6, 0.7, 0.8, 0.9, 1]],
  [[0.284, 0.445], 4, [0.3, 0.35, 0.4]],
  [[1, 175], 4, [50, 100, 150]],
  [[0, 0.00012], 5, [0, 0.00005, 0.0001]],
  [[3, 3], 5, [3]],
] as [[number, number], number, number[]][])('round values within %j, about %i: %j', (scale, about, wanted) => {
  expect(roundTicks(scale, about)).toEqual(wanted)
})
