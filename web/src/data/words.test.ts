import { describe, expect, it } from 'vitest'
import { parseConditions, recordsPath, rowsPath, valuesOf } from './conditions'
import { fileUrl } from './decision'
import { columnsOf, type Described, freshStep, settingsOf, type Step, stepsOfFile, type StepView } from './preparation'

describe('conditions in an address', () => {
  it.each([
    ['[["age","is at least","5"]]', [['age', 'is at least', '5']]],
    ['[["age","is missing"]]', [['age', 'is missing']]],
    ['[]', []],
    [null, []],
    // Whatever else stands there is no condition, and breaks nothing.
    ['', []],
    ['[["age"]]', []],
    ['[["age",5,"6"]]', []],
    ['[["age","is",null]]', []],
    ['{"age":"is"}', []],
    ['[["age","is","5"],[]]', []],
    ['[["age","is","5"', []],
    ['7', []],
    ['"age is 5"', []],
  ])('%s', (text, wanted) => expect(parseConditions(text)).toEqual(wanted))

  it.each(['a & b=c', 'über 5 %', '"quoted", [x]', '#1?', 'a+b', '汉字'])('come back as they went in: %s', (value) => {
    const path = rowsPath(2, 5, [['name & more', 'is', value]], true)
    const query = new URLSearchParams(path.split('?')[1])
    expect(parseConditions(query.get('where'))).toEqual([['name & more', 'is', value]])
    expect(query.get('any')).toBe('1')
  })

  it.each([
    ['is missing', 0],
    ['is present', 0],
    ['is', 1],
    ['is under', 1],
    ['is between', 2],
    ['is one of', Infinity],
    ['is none of', Infinity],
  ])('%s takes so many values: %s', (relation, n) => expect(valuesOf(relation)).toBe(n))

  it('name at most a thousand records, as an address may be long but not endless', () => {
    const path = recordsPath(
      1,
      2,
      Array.from({ length: 1500 }, (_, i) => i + 1),
    )
    expect(path.split('only=')[1]!.split(',')).toHaveLength(1000)
    expect(recordsPath(1, 2, [9, 4])).toBe('/study/1/table/2/rows?only=9,4')
  })
})

describe('the address of a scored list', () => {
  it.each([
    [fileUrl(3, []), '/api/scorings/3/file?'],
    [fileUrl(3, ['a', 'b & c']), '/api/scorings/3/file?carry%5B%5D=a&carry%5B%5D=b+%26+c'],
    [fileUrl(3, [], true, false), '/api/scorings/3/file?full=1'],
    [fileUrl(3, ['a'], true, true), '/api/scorings/3/file?full=1&sure=1&carry%5B%5D=a'],
  ])('%s', (got, wanted) => expect(got).toBe(wanted))
})

describe('steps', () => {
  const kind = (settings: object[]) => ({ step: 'fill', title: 'Fill', settings }) as unknown as Described
  it('begin with the usual value of each setting, and with what is given', () => {
    const fill = kind([
      { name: 'method', default: 'median' },
      { name: 'columns', default: null },
      { name: 'limit', default: 0 },
      { name: 'mark', default: false },
    ])
    expect(freshStep(fill)).toEqual({ step: 'fill', method: 'median', limit: 0, mark: false })
    expect(freshStep(fill, { method: 'mean', columns: ['a'] })).toEqual({
      step: 'fill',
      method: 'mean',
      limit: 0,
      mark: false,
      columns: ['a'],
    })
    expect(freshStep({ step: 'drop' } as unknown as Described)).toEqual({ step: 'drop' })
  })

  it('are sent back with what they say of themselves, and nothing empty', () => {
    const view = (of: object) => ({ step: 'fill', settings: { method: 'median' }, off: false, note: '', ...of }) as unknown as StepView
    expect(settingsOf(view({}))).toEqual({ step: 'fill', method: 'median' })
    expect(settingsOf(view({ off: true, note: 'Why not' }))).toEqual({ step: 'fill', method: 'median', off: true, note: 'Why not' })
  })

  it.each<[Step, string]>([
    [{ step: 's' }, ''],
    [{ step: 's', column: 'a' }, 'a'],
    [{ step: 's', column: 'a', other: 'b' }, 'a, b'],
    [{ step: 's', columns: ['a', 'b', 'c', 'd'] }, 'a, b, c, d'],
    [{ step: 's', columns: ['a', 'b', 'c', 'd', 'e'] }, 'a, b, c and 2 more'],
    [{ step: 's', choose: { kinds: ['number', 'date'], missing: true } }, 'every number or date with missing cells'],
    [{ step: 's', choose: { kinds: [], missing: false } }, 'every column'],
  ])('%o is about %s', (step, wanted) => expect(columnsOf(step)).toBe(wanted))

  it.each([
    ['{"name":"Lean","steps":[{"step":"drop","columns":["a"]}]}', 'Lean', 1],
    ['[{"step":"drop"},{"step":"fill"}]', 'From a file', 2],
    ['{"steps":[]}', 'From a file', 0],
    ['{"name":7,"steps":[{"step":"drop"}]}', 'From a file', 1],
  ])('are read from %s', (text, name, n) => {
    const read = stepsOfFile(text)
    expect([read.name, read.steps.length]).toEqual([name, n])
  })

  it.each([
    ['{', /^This is not a JSON file\. Nothing was changed\.$/],
    ['', /^This is not a JSON file/],
    ['null', /^The file holds no steps: it needs "steps"/],
    ['5', /^The file holds no steps/],
    ['{"steps":{"step":"drop"}}', /^The file holds no steps/],
    ['{"steps":[{"kind":"drop"}]}', /^The file holds no steps/],
    ['[null]', /^The file holds no steps/],
    ['[{"step":3}]', /^The file holds no steps/],
  ])('are not read from %s, which is said', (text, says) => expect(() => stepsOfFile(text)).toThrow(says))
})
