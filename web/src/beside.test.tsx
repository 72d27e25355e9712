import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import type { View } from './api/client'
import type { Judgment } from './data/judgment'
import { weakByChoice, weakByTerms, weakWhenShuffled } from './sections/weak'
import { answers, button, clean, heading, instead, job, open, request, says, sent, standIn, where } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

const beside = answers['GET /api/studies/2/trials/beside'] as View<'SideBySideView'>
const two = answers['two beside'] as View<'SideBySideView'>
const number = answers['number beside'] as View<'SideBySideView'>
const standings = answers['searched standings'] as View<'StandingsView'>
const judgment = answers['GET /api/trials/1/judgment'] as Judgment
const numberJudgment = answers.number as Judgment
const ids = beside.trials.map((t) => t.id)

describe('trials side by side', () => {
  it('stand with their paired differences, the first being what the others are held against', async () => {
    open(`/study/2/judgment/beside?trials=${ids.join(',')}`)
    await heading(/^Three trials/)
    const figures = within(await screen.findByRole('table', { name: 'Figures side by side' }, { timeout: 8000 }))
    expect(figures.getAllByRole('row')).toHaveLength(1 + beside.figures.length)
    const auc = figures.getByRole('row', { name: /^AUC/ })
    expect(auc).toHaveTextContent(beside.figures[0]!.trials[0]!.value!.toFixed(3))
    expect(auc).toHaveTextContent(Math.abs(beside.figures[0]!.trials[1]!.difference!).toFixed(3))
    const parts = within(screen.getByRole('table', { name: 'Where they part' }))
    expect(parts.getAllByRole('row')).toHaveLength(1 + beside.parts.length)
    clean()
    await userEvent.click(screen.getByRole('button', { name: new RegExp(`^${beside.trials[1]!.title}`) }))
    expect(where()).toContain(`trials=${encodeURIComponent([ids[1], ids[0], ids[2]].join(','))}`)
  })

  it('open the records they part on, each with what every trial said', async () => {
    open(`/study/2/judgment/beside?trials=${ids.join(',')}`)
    await userEvent.click(await button('Records they part on'))
    const table = within(await screen.findByRole('table', { name: 'Records they part on' }, { timeout: 8000 }))
    const records = answers['GET /api/studies/2/trials/beside/records'] as View<'RecordsBesideView'>
    expect(table.getAllByRole('row')).toHaveLength(1 + records.records.length)
    expect(table.getAllByRole('row')[1]).toHaveTextContent(records.records[0]!.said.join(''))
    expect(sent.find((s) => s.path.endsWith('/records'))?.query).toContain('called=&')
    await userEvent.click(screen.getAllByRole('button', { name: /^Records called by/ })[0]!)
    expect(where()).toContain('part=')
    clean()
  })

  it('of two have the tests of the two beneath', async () => {
    instead['GET /api/studies/2/trials/beside'] = { status: 200, body: two }
    const against = answers['GET /api/trials/1/against'] as View<'AgainstView'>
    instead['GET /api/trials/1/against'] = { status: 200, body: { ...against, noise: true } }
    open(`/study/2/judgment/beside?trials=${two.trials.map((t) => t.id).join(',')}`)
    const lines = within(await screen.findByRole('table', { name: 'Differences' }, { timeout: 8000 }))
    expect(screen.getByRole('heading', { name: 'The difference is within noise' })).toBeVisible()
    expect(lines.getByRole('row', { name: /^AUC, fold by fold/ })).toHaveTextContent('noise')
    expect(lines.getByRole('row', { name: /^AUC on the same rows/ })).toHaveTextContent(Math.abs(against.byRanking!.value!).toFixed(3))
    expect(lines.getByRole('row', { name: /^Log loss, row by row/ })).toHaveTextContent(Math.abs(against.byRows.value!).toFixed(3))
    const decided = within(screen.getByRole('table', { name: /^Decisions of both/ }))
    const counts = decided
      .getAllByRole('row')
      .slice(1)
      .map((r) => Number(within(r).getAllByRole('cell')[1]!.textContent!.replace(',', '')))
    expect(counts.reduce((a, b) => a + b, 0)).toBe(against.rows)
    clean()
  })

  it('of a number are told by the errors they keep to', async () => {
    instead['GET /api/studies/2/trials/beside'] = { status: 200, body: number }
    open('/study/2/judgment/beside?trials=3,4')
    const figures = within(await screen.findByRole('table', { name: 'Figures side by side' }, { timeout: 8000 }))
    expect(figures.getByRole('row', { name: /^RMSE/ })).toBeVisible()
    expect(figures.getByRole('row', { name: /^Within .*, of 100/ })).toBeVisible()
    expect(screen.queryByRole('group', { name: 'Which curves' })).toBeNull()
    clean()
  })

  it('say what to do while there are none, and what went wrong', async () => {
    open('/study/2/judgment/beside')
    await says('Here two to four trials stand side by side')
    instead['GET /api/studies/2/trials/beside'] = {
      status: 409,
      body: { title: 'There is no row that all of these trials can answer for.' },
    }
    open('/study/2/judgment/beside?trials=1,2')
    await says('There is no row that all of these trials can answer for.')
  })
})

describe('the Standings', () => {
  it('take trials side by side, hide them, and keep a note', async () => {
    instead['GET /api/studies/2/trials'] = { status: 200, body: standings }
    const [one, other] = standings.trials.filter((t) => t.state === 'done')
    instead[`PUT /api/trials/${one!.id}/remark`] = { status: 200, body: { ...one, hidden: true } }
    open('/study/2/judgment')
    await userEvent.click(await button(`Note of trial ${one!.number}`))
    await userEvent.type(screen.getByLabelText('Note'), 'Too long to read')
    await userEvent.click(screen.getByRole('button', { name: 'Keep the note' }))
    expect((await request('PUT', /remark$/)).body).toEqual({ note: 'Too long to read', hidden: false })
    await userEvent.click(await screen.findByRole('checkbox', { name: `Take trial ${one!.number}` }))
    await userEvent.click(await button('Hide 1'))
    expect(sent.filter((s) => s.path.endsWith('/remark')).at(-1)?.body).toEqual({ note: '', hidden: true })
    for (const t of [one!, other!]) await userEvent.click(screen.getByRole('checkbox', { name: `Take trial ${t.number}` }))
    await userEvent.click(await button('2 side by side'))
    expect(where()).toBe(`/study/2/judgment/beside?trials=${one!.id},${other!.id}`)
  })

  it('leave hidden trials out of sight, and those of other learners', async () => {
    const trials = standings.trials.map((t, i) => ({ ...t, hidden: i === 0 }))
    instead['GET /api/studies/2/trials'] = { status: 200, body: { ...standings, trials } }
    open('/study/2/judgment')
    const table = within(await screen.findByRole('table', { name: 'Standings' }, { timeout: 8000 }))
    expect(table.getAllByRole('checkbox')).toHaveLength(trials.length - 1)
    await userEvent.click(screen.getByRole('button', { name: '1 hidden' }))
    expect(table.getAllByRole('checkbox')).toHaveLength(trials.length)
    await userEvent.click(screen.getByRole('button', { name: /^Which learners/ }))
    await userEvent.click(screen.getByRole('menuitem', { name: 'Decision tree' }))
    expect(table.getAllByRole('checkbox')).toHaveLength(trials.filter((t) => t.learner === 'tree').length)
    expect(screen.getByRole('link', { name: 'Save as CSV' })).toHaveAttribute('href', '/api/studies/2/standings/file')
    clean()
  })
})

describe('a judgment', () => {
  it('finds a cut-off by costs and says what it is worth where it was not chosen', async () => {
    const found = answers['GET /api/trials/1/cutoff'] as View<'FoundCutOffView'>
    open('/study/2/judgment/1')
    await userEvent.click(await button('Find the cut-off by: F1'))
    await userEvent.click(screen.getByRole('menuitem', { name: /what it costs/ }))
    await userEvent.clear(screen.getByLabelText('Cost of a miss'))
    expect(screen.getByRole('button', { name: 'Find' })).toBeDisabled()
    await userEvent.type(screen.getByLabelText('Cost of a miss'), '8')
    await userEvent.click(screen.getByRole('button', { name: 'Find' }))
    await says('on folds that did not choose it')
    expect(sent.find((s) => s.path.endsWith('/cutoff'))?.query).toBe('?by=costs&miss=8&vain=1')
    await waitFor(() => expect(where()).toContain(`cutoff=${found.cutoff}`))
  })

  it('draws the records of a cell on two columns', async () => {
    const picture = answers['GET /api/trials/1/picture'] as View<'PictureView'>
    open('/study/2/judgment/1?cell=fn&cutoff=0.06')
    await userEvent.click(await button('As a picture'))
    await says(`on ${picture.x.name} and ${picture.y.name}`)
    expect(document.querySelectorAll('svg circle[fill="#a5382b"]')).toHaveLength(picture.picked.length)
    await userEvent.click(screen.getByRole('button', { name: /^Column upward/ }))
    await userEvent.click(screen.getByRole('menuitem', { name: 'slot' }))
    expect(sent.filter((s) => s.path.endsWith('/picture')).at(-1)?.query).toContain('y=slot')
    await userEvent.click(screen.getByRole('button', { name: 'As rows' }))
    expect(await screen.findByRole('table', { name: 'Records missed' })).toBeVisible()
    clean()
  })

  it('of a number opens the records of a band of errors', async () => {
    const worst = answers.worst as View<'WorstView'>
    instead['GET /api/trials/3/judgment'] = { status: 200, body: numberJudgment }
    instead['GET /api/trials/3/worst'] = { status: 200, body: worst }
    open('/study/2/judgment/3')
    const bands = within(await screen.findByRole('group', { name: /^Bands of errors/ }, { timeout: 8000 }))
    expect(bands.getAllByRole('button')).toHaveLength(5)
    await userEvent.click(bands.getAllByRole('button')[4]!)
    await says('farthest off first')
    expect(sent.filter((s) => s.path.endsWith('/worst')).at(-1)?.query).toBe(`?limit=100&low=${worst.bands[4]!.low}`)
    clean()
  })

  it('once examined says whether the sealed rows agree, and fits for use', async () => {
    const sections = judgment.sections.map((s) =>
      s.kind === 'event'
        ? { ...s, figures: s.figures.map((f, i) => ({ ...f, sealed: { value: 0.9, low: 0.88, high: 0.92 }, agrees: i !== 0 })) }
        : s,
    )
    const sealed = { opening: 2, rows: 1200, unanswered: 0 }
    instead['GET /api/trials/1/judgment'] = { status: 200, body: { ...judgment, sections, sealed } }
    instead['POST /api/trials/1/handed'] = { status: 202, body: { ...job, kind: 'handed', title: 'Trial 1 on all records, for use' } }
    instead['GET /api/jobs/31'] = { status: 200, body: { ...job, kind: 'handed', title: 'Trial 1 on all records, for use' } }
    open('/study/2/judgment/1')
    await says(/Better than expected in 1 of \d figures/)
    await says('They do not agree, beyond the error of both.')
    await says('what is chosen after them is no longer examined by them')
    await userEvent.click(await button('Fit once more on all records…'))
    await userEvent.click(screen.getByRole('button', { name: 'Fit it for use' }))
    await request('POST', '/api/trials/1/handed')
    await says('Trial 1 on all records, for use: being fitted.')
    clean()
  })
})

describe('weak columns', () => {
  const of = (sections: unknown[]): Judgment => ({ ...judgment, inputs: ['age', 'age_band', 'slot'], sections }) as unknown as Judgment
  const term = (name: string, p: number) => ({ name, p })

  it('are those whose shuffling costs nothing clear, with what it costs', () => {
    const columns = [
      { column: 'age', value: 0.02, low: 0.01, high: 0.03 },
      { column: 'slot', value: 0.001, low: -0.001, high: 0.003 },
    ]
    expect(weakWhenShuffled(of([{ kind: 'leaning', columns }])).map((w) => [w.column, w.lost])).toEqual([['slot', 0.001]])
  })

  it.each([
    ['one clear term keeps its column', [term('slot=a', 0.6), term('slot=b', 0.01)], []],
    ['a column whose name begins like another is not taken for it', [term('age_band=x', 0.5), term('age', 0.001)], ['age_band']],
    ['terms without a p-value say nothing', [{ name: 'age', p: null }], []],
    ['the constant is no column', [term('(intercept)', 0.9)], []],
  ])('%s', (_, coefficients, expected) => {
    expect(weakByTerms(of([{ kind: 'coefficients', coefficients }])).map((w) => w.column)).toEqual(expected)
  })

  it('are those that a choice left', () => {
    const steps = [
      { action: 'enter', columns: ['age'] },
      { action: 'stop', columns: [] },
    ]
    expect(weakByChoice(of([{ kind: 'choice', steps }])).map((w) => w.column)).toEqual(['age_band', 'slot'])
    expect(weakByChoice(of([]))).toEqual([])
  })
})
