import { expect, test } from 'vitest'
import { changes } from './job'

const keys = [
  ['session'],
  ['jobs'],
  ['learners'],
  ['studies'],
  ['study', '2'],
  ['study', 3],
  ['standings', 2],
  ['standings', 3],
  ['judgment', 1],
  ['register', 5],
  ['rows', 5, ''],
  ['preparation', 2],
  ['scored', 1, ''],
  ['takeAway', 4],
]

test.each([
  ['trial', 'studies, study 2, standings 2, judgment 1, preparation 2'],
  ['import', 'studies, study 2, standings 2, register 5, rows 5, preparation 2'],
  ['combine', 'studies, study 2, standings 2, register 5, rows 5, preparation 2'],
  ['look', 'studies, study 2, register 5'],
  ['toll', 'studies, study 2, preparation 2'],
  ['scoring', 'studies, study 2, scored 1'],
  ['inside', 'studies, study 2, takeAway 4'],
  [
    'of a kind not known here',
    'learners, studies, study 2, study 3, standings 2, standings 3, judgment 1, register 5, rows 5, preparation 2, scored 1, takeAway 4',
  ],
])('when a job is over, %s, what it changed is read anew', (kind, read) => {
  const anew = keys.filter((key) => changes({ kind, studyId: 2 }, key)).map((key) => key.slice(0, 2).join(' '))
  expect(anew.join(', ')).toBe(read)
})
