import { expect, it } from 'vitest'
import { told } from './told'

const trial = (id: number, learner: string, ...settings: string[]) => ({ id, learner, settings })

it.each([
  [
    'what all of a learner share is not said',
    [trial(1, 'logistic', 'Missing values: fill and mark')],
    [trial(2, 'logistic', 'Missing values: fill and mark')],
    '',
  ],
  [
    'what differs is',
    [trial(1, 'logistic', 'Missing values: fill and mark', 'Choose columns: stepwise')],
    [trial(2, 'logistic', 'Missing values: fill and mark')],
    ': stepwise',
  ],
  ['a number keeps its name', [trial(1, 'tree', 'Questions in a row, at most: 3')], [trial(2, 'tree')], ': questions in a row, at most: 3'],
  [
    'a column keeps what it is for',
    [trial(1, 'boosting', 'May only rise with: tenure')],
    [trial(2, 'forest')],
    ': may only rise with: tenure',
  ],
  [
    'the only one of its learner says all',
    [trial(1, 'rules', 'Draw the cuts too: yes')],
    [trial(2, 'forest', 'Draw the cuts too: yes')],
    ': draw the cuts too: yes',
  ],
])('of a trial: %s', (_, [one], others, wanted) => {
  expect(told(one!, [one!, ...others])).toBe(wanted)
})
