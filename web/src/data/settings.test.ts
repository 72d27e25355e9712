import { describe, expect, it } from 'vitest'
import { matters, numberOf, standing, type Setting } from './settings'

const setting = (name: string, more: Partial<Setting> = {}): Setting => ({
  name,
  label: name,
  type: 'number',
  default: null,
  explanation: '',
  least: null,
  most: null,
  choices: [],
  when: {},
  tasks: [],
  kinds: [],
  ...more,
})
const all = [
  setting('penalty', { type: 'choice', default: 'nothing' }),
  setting('price', { when: { penalty: ['ridge', 'lasso'] } }),
  setting('find', { type: 'yes/no', default: false, when: { penalty: ['lasso'] } }),
  setting('steps', { when: { find: ['true'] } }),
  setting('loss', { tasks: ['number'] }),
  setting('lost', { when: { gone: ['yes'] } }),
]
const shown = (values: Record<string, unknown>, task: string | null) => all.filter((s) => matters(s, all, values, task)).map((s) => s.name)

describe('a setting', () => {
  it.each([
    [{}, 'two classes', ['penalty']],
    [{ penalty: 'ridge' }, 'two classes', ['penalty', 'price']],
    [{ penalty: 'lasso', find: true }, 'number', ['penalty', 'price', 'find', 'steps', 'loss']],
    // What hangs on something that does not matter does not matter either.
    [{ penalty: 'ridge', find: true }, null, ['penalty', 'price', 'loss']],
  ])('with %j for %s shows %j', (values, task, names) => expect(shown(values, task)).toEqual(names))

  it('stands at what was chosen, also at no', () => {
    const find = setting('find', { default: true })
    expect([standing(find, {}), standing(find, { find: false })]).toEqual([true, false])
  })

  it.each([
    ['7', 7],
    ['7,5', 7.5],
    ['1e-4', 0.0001],
    [' ', undefined],
    ['many', 'many'],
    ['NaN', 'NaN'],
    ['1,000.5', '1,000.5'],
  ])('written %j means %j', (text, meant) => expect(numberOf(text)).toBe(meant))
})
