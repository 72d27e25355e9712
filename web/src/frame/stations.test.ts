import { looksLikeTarget, tasksOf } from '../sections/TargetDialog'
import { describe, expect, it } from 'vitest'
import { errorOf } from '../api/client'
import { stationsOf } from './stations'
import { columnsOf, settingsOf } from '../data/preparation'
import type { Study } from '../data/study'

const study: Study = {
  id: 7,
  version: 1,
  name: 'Return visits',
  question: 'Which?',
  role: 'owner',
  tableId: 3,
  tableName: 'visits',
  rows: 6000,
  columns: 25,
  target: 'return_visit',
  event: 'yes',
  task: 'two classes',
  classes: [],
  plan: null,
  sealedRows: 1200,
  openRows: 4800,
  sealOpenings: 0,
  station: 4,
  waits: [],
  tables: [{ id: 3, name: 'visits', state: 'ready', rows: 6000, columns: 25, edition: 1 }],
  trials: [
    {
      id: 9,
      number: 1,
      title: 'Logistic regression',
      state: 'done',
      task: 'two classes',
      measure: { key: 'auc', name: 'AUC', more: true, inUnits: false, inShare: false },
      value: 0.73,
      stale: false,
    },
  ],
  scorings: [],
  logEntries: 5,
  lastSentence: '',
  lastAt: '2026-01-01T00:00:00Z',
  otherSeals: [],
  keepDays: 0,
}

describe('the thread of a study', () => {
  it('gets thinner where rows are sealed away and ends where the study has come to', () => {
    expect(stationsOf(study, '/study/7/judgment', 3).map((s) => s.share)).toEqual([1, 1, 0.8, null, null, null])
  })
  it('asks for what is missing', () => {
    expect(stationsOf({ ...study, target: null, trials: [], station: 1 }, '/study/7/table/3', 3)[0]?.waits).toBe('choose the target')
    expect(stationsOf({ ...study, trials: [], station: 2 }, '/study/7/trials', 3)[2]?.waits).toBe('a first trial waits')
  })
  it('shows stale trials as stale', () => {
    const stale = { ...study, trials: [{ ...study.trials[0]!, stale: true }] }
    expect(stationsOf(stale, '/study/7/trials', 3)[2]?.stale).toBe(true)
  })
})

describe('what goes to and comes from the server', () => {
  it('sends back the settings of a step and nothing else', () => {
    expect(
      settingsOf({
        step: 'fill_missing',
        settings: { columns: ['a'], method: 'median', mark: true },
        off: false,
        note: '',
        sentence: 'x',
        toll: null,
        problem: null,
      }),
    ).toEqual({ step: 'fill_missing', columns: ['a'], method: 'median', mark: true })
  })
  it('says which columns a step names or chooses', () => {
    const said = (more: object) => columnsOf({ step: 'x', ...more })
    expect(said({ columns: ['a', 'b'] })).toBe('a, b')
    expect(said({ columns: ['a', 'b', 'c', 'd', 'e'] })).toBe('a, b, c and 2 more')
    expect(said({ column: 'a', other: 'b' })).toBe('a, b')
    expect(said({ columns: [], choose: { kinds: ['number'], missing: true } })).toBe('every number with missing cells')
    expect(said({ columns: [], choose: { kinds: [], missing: false } })).toBe('every column')
  })
  it('turns a problem into its sentence and field', () => {
    const error = errorOf(422, { title: 'The name is taken.', field: 'login', received: 5 })
    expect([error.message, error.status, error.field, error.more.received]).toEqual(['The name is taken.', 422, 'login', 5])
    expect(errorOf(502, null).message).toContain('could not be reached')
  })
})

describe('the thread at the preparation', () => {
  const toll = (rowsAfter: number, columnsAfter: number) => ({
    rowsBefore: 6000,
    rowsAfter,
    columnsBefore: 21,
    columnsAfter,
    missingBefore: 0,
    missingAfter: 0,
  })
  const step = (more: object) => ({
    step: 'set_aside',
    settings: {},
    off: false,
    note: '',
    sentence: '',
    toll: null,
    problem: null,
    ...more,
  })
  const variant = {
    letter: 'B',
    name: 'Drop',
    rowsBefore: 6000,
    steps: [
      step({ toll: toll(6000, 18) }),
      step({ step: 'drop_rows', toll: toll(3000, 18) }),
      step({ off: true }),
      step({ problem: 'no' }),
    ],
  } as unknown as Parameters<typeof stationsOf>[3]

  it('tells what is left at each step, and thins where rows are lost', () => {
    const [, preparation] = stationsOf(study, '/study/7/preparation', 3, variant)
    expect(preparation?.figures).toEqual(['B, Drop'])
    expect(preparation?.steps?.map((s) => [s.label, s.figure, s.left])).toEqual([
      ['1 set aside', '× 18', 1],
      ['2 drop rows', '3,000', 0.5],
      ['3 set aside', 'off', undefined],
      ['4 set aside', 'not done', undefined],
    ])
    expect(stationsOf(study, '/study/7/trials', 3, variant)[1]?.steps).toEqual([])
  })
})

describe('the proposed target', () => {
  const column = (name: string, kind: string, distinct: number, position: number, use = 'input') =>
    ({ name, kind, distinct, position, use, missingShare: 0 }) as Parameters<typeof looksLikeTarget>[0]
  it.each([
    ['a named yes/no before a later flag', [column('return_visit', 'yes/no', 2, 1), column('reminder', 'yes/no', 2, 5)]],
    ['a yes/no before numbers', [column('late', 'yes/no', 2, 0), column('minutes', 'number', 90, 5)]],
    ['few classes before many', [column('grade', 'category', 4, 0), column('street', 'category', 300, 5)]],
    ['the later of two alike', [column('b', 'yes/no', 2, 5), column('a', 'yes/no', 2, 1)]],
    ['an input before a column set aside', [column('cost', 'number', 90, 0), column('result', 'yes/no', 2, 5, 'set aside')]],
  ])('is %s', (_, [better, worse]) => {
    expect(looksLikeTarget(better!, 6)).toBeGreaterThan(looksLikeTarget(worse!, 6))
  })
  it('is no constant, and classes before an event where there are several', () => {
    expect(tasksOf(column('same', 'number', 1, 0))).toEqual([])
    expect(tasksOf(column('grade', 'category', 6, 0))).toEqual(['several classes', 'two classes'])
    expect(tasksOf(column('flag', 'number', 2, 0))).toEqual(['two classes'])
    expect(tasksOf(column('count', 'number', 12, 0))[0]).toBe('number')
  })
})
