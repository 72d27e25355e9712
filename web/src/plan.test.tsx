import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import type { View } from './api/client'
import { asked, firstList } from './data/search'
import type { Setting } from './data/settings'
import { answers, button, clean, heading, instead, job, open, request, says, sent, standIn, where } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

const search = answers['GET /api/searches/1'] as View<'SearchView'>
const standings = answers['searched standings'] as View<'StandingsView'>
const tick = async (name: string) => userEvent.click(await screen.findByRole('checkbox', { name }, { timeout: 8000 }))

describe('a plan', () => {
  it('of several learners starts them at one press, each with its settings', async () => {
    instead['POST /api/studies/2/trials/several'] = { status: 202, body: [job, { ...job, id: 32 }] }
    open('/study/2/trials')
    await tick('Decision tree')
    await userEvent.clear(screen.getByLabelText('Questions in a row, at most'))
    await userEvent.type(screen.getByLabelText('Questions in a row, at most'), '4{Enter}')
    await userEvent.click(await button('Run 2 trials'))
    expect((await request('POST', '/api/studies/2/trials/several')).body).toMatchObject({
      variantId: 2,
      learners: ['logistic', 'tree'],
      settings: { logistic: {}, tree: { depth: 4 } },
      choice: null,
      calibration: 'as they come',
    })
    await waitFor(() => expect(where()).toBe('/study/2/judgment'))
  })

  it('bends numbers by a choice for each of them', async () => {
    instead['POST /api/studies/2/trials'] = { status: 202, body: job }
    instead['GET /api/jobs/31'] = { status: 200, body: job }
    open('/study/2/trials')
    await userEvent.click(await button('Numbers that bend: none'))
    const choices = screen.getAllByRole('menuitemcheckbox')
    expect(choices.length).toBeGreaterThan(2)
    for (const c of choices) expect(c).toHaveAccessibleName(/straight$/)
    // Categories are not offered, they have no curve.
    expect(screen.queryByRole('menuitemcheckbox', { name: /^slot/ })).toBeNull()
    await userEvent.click(screen.getByRole('menuitemcheckbox', { name: /^days_ahead/ }))
    await userEvent.click(screen.getByRole('menuitemcheckbox', { name: /^boiler_age straight/ }))
    expect(screen.getByRole('menuitemcheckbox', { name: /^days_ahead bent/ })).toBeChecked()
    await userEvent.click(screen.getByRole('menuitemcheckbox', { name: /^days_ahead/ }))
    await userEvent.keyboard('{Escape}')
    expect(await button('Numbers that bend: boiler_age')).toBeVisible()
    await userEvent.click(await button('Run this trial'))
    expect((await request('POST', '/api/studies/2/trials')).body).toMatchObject({ settings: { bent: 'boiler_age' } })
  })

  it('says which input may know the outcome, with what can be done at one press', async () => {
    const found = answers['GET /api/tables/5/findings'] as View<'FindingsView'>
    const register = answers['GET /api/tables/5'] as View<'TableView'>
    const column = register.columns.find((c) => c.name === 'boiler_age')!
    const suspicion = {
      ...found.findings[0]!,
      key: 'leak suspicion: boiler_age',
      sort: 'leak suspicion',
      severity: 'high',
      sentence: 'boiler_age alone ranks outcome with an AUC of 0.99. Was it known when the decision is made?',
      remedies: [{ do: 'known afterwards', column: 'boiler_age', to: null, label: 'Known only afterwards', step: null }],
    }
    const settled = { ...suspicion, key: 'leak suspicion: days_ahead', dismissed: { reason: 'It is set at booking', who: 'Mara', at: '' } }
    instead['GET /api/tables/5/findings'] = { status: 200, body: { ...found, findings: [...found.findings, suspicion, settled] } }
    instead[`PATCH /api/columns/${column.id}`] = { status: 200, body: { ...column, known: false } }
    open('/study/2/trials')
    expect(await screen.findByText('One input may know the outcome')).toBeVisible()
    expect(screen.getByText(/AUC of 0.99. Was it known/)).toBeVisible()
    await userEvent.click(await button('Known only afterwards'))
    expect((await request('PATCH', `/api/columns/${column.id}`)).body).toEqual({ known: false })
  })

  it('says nothing of it where the findings suspect nothing', async () => {
    open('/study/2/trials')
    await button('Run this trial')
    await request('GET', '/api/tables/5/findings')
    expect(screen.queryByText(/may know the outcome/)).toBeNull()
  })

  it('of nothing cannot be run', async () => {
    open('/study/2/trials')
    await tick('Logistic regression')
    expect(await button('Run this trial')).toBeDisabled()
  })

  it('leaves columns out, keeps the shorter list, and names it', async () => {
    instead['POST /api/studies/2/choices'] = { status: 201, body: { id: 2, name: 'No district', names: ['district'], without: true } }
    instead['POST /api/studies/2/trials'] = { status: 202, body: job }
    instead['GET /api/jobs/31'] = { status: 200, body: job }
    open('/study/2/trials')
    await userEvent.click(await button('all columns'))
    const dialog = within(await screen.findByRole('dialog'))
    await userEvent.click(await dialog.findByLabelText(/^district/))
    expect(dialog.getByText(/all but district/)).toBeVisible()
    await userEvent.type(dialog.getByLabelText('Name of this choice'), 'No district')
    await userEvent.click(dialog.getByRole('button', { name: 'Keep it under this name' }))
    expect((await request('POST', '/api/studies/2/choices')).body).toEqual({ names: ['district'], without: true, name: 'No district' })
    await userEvent.click(dialog.getByRole('button', { name: /^Use \d+ columns$/ }))
    await userEvent.click(await button('Calibration: as they come'))
    await userEvent.click(screen.getByRole('menuitem', { name: /isotonic/ }))
    await userEvent.click(await button('Run this trial'))
    expect((await request('POST', '/api/studies/2/trials')).body).toMatchObject({
      choice: { names: ['district'], without: true },
      calibration: 'isotonic',
    })
  })

  it('uses a named choice again', async () => {
    open('/study/2/trials')
    await userEvent.click(await button('all columns'))
    const dialog = within(await screen.findByRole('dialog'))
    await userEvent.click(await dialog.findByRole('button', { name: 'Named choice: a named choice' }))
    await userEvent.click(screen.getByRole('menuitem', { name: /^Few/ }))
    await userEvent.click(dialog.getByRole('button', { name: 'Use 2 columns' }))
    expect(await button('only days_ahead and slot')).toBeVisible()
  })

  it('that varies settings is a search, weighed before it runs', async () => {
    instead['POST /api/studies/2/searches'] = { status: 202, body: { ...job, kind: 'search', subject: 1 } }
    open('/study/2/trials')
    await tick('Decision tree')
    await tick('Logistic regression')
    await userEvent.click(await button('Questions in a row, at most, how: fixed'))
    await userEvent.click(screen.getByRole('menuitem', { name: /^list/ }))
    const list = screen.getByLabelText('Questions in a row, at most, values')
    await userEvent.clear(list)
    await userEvent.type(list, '2; 3; 5{Enter}')
    await says(/9 settings on variant A: 45 fits/)
    await userEvent.click(await button('Way through the settings: all combinations'))
    await userEvent.click(screen.getByRole('menuitem', { name: 'random draws' }))
    await userEvent.clear(screen.getByLabelText('Tries'))
    await userEvent.type(screen.getByLabelText('Tries'), '12{Enter}')
    await userEvent.click(await button('Weigh 9 settings'))
    expect((await request('POST', '/api/studies/2/searches')).body).toMatchObject({
      spaces: [{ learner: 'tree', settings: { depth: { list: [2, 3, 5] } } }],
      variantIds: [2],
      allColumns: true,
      way: 'random draws',
      tries: 12,
      seed: 2026,
    })
    await waitFor(() => expect(where()).toBe('/study/2/trials/search/1'))
    clean()
  })

  it('says beside the plan what cannot be searched', async () => {
    instead['POST /api/studies/2/searches/weigh'] = { status: 422, body: { title: '"9" is no value of "Depth".', status: 422 } }
    open('/study/2/trials')
    await tick('Decision tree')
    await userEvent.click(await button('Rows in a leaf, at least, how: fixed'))
    await userEvent.click(screen.getByRole('menuitem', { name: /^range/ }))
    await says('"9" is no value of "Depth".')
    expect(await button('Weigh these settings')).toBeDisabled()
  })

  it('changes the figure that ranks', async () => {
    instead['PUT /api/studies/2/figure'] = { status: 200, body: answers['GET /api/studies/2/trials'] }
    open('/study/2/trials')
    await userEvent.click(await button('Figure that ranks: area under the ROC curve'))
    await userEvent.click(screen.getByRole('menuitem', { name: /log loss/ }))
    expect((await request('PUT', '/api/studies/2/figure')).body).toEqual({ figure: 'logLoss' })
  })
})

describe('a setting that is varied', () => {
  const setting = (type: string, more: Partial<Setting> = {}) =>
    ({ name: 's', label: 'S', type, default: 4, explanation: '', choices: ['a', 'b'], ...more }) as Setting
  it.each([
    ['number', '0,1; 0.2;; x', { list: [0.1, 0.2, 'x'] }],
    ['yes/no', 'no; yes', { list: [false, true] }],
    ['choice', 'a', { list: ['a'] }],
  ])('%s %j is sent as %j', (type, text, meant) => expect(asked(setting(type), { how: 'list', text })).toEqual(meant))

  it('a range is sent with its ends', () => {
    expect(asked(setting('number'), { how: 'range', from: '0,01', to: '0.1', points: '4', by: 'factors' })).toEqual({
      from: 0.01,
      to: 0.1,
      points: 4,
      by: 'factors',
    })
  })

  it.each([
    ['number', 0.5, { least: 0.3, most: 1 }, '0.3; 0.5; 1'],
    ['whole number', 7, {}, '4; 7; 14'],
    ['yes/no', true, {}, 'no; yes'],
    ['choice', 'a', {}, 'a; b'],
  ])('begins around the usual value of a %s', (type, value, more, list) => expect(firstList(setting(type, more), value)).toBe(list))
})

describe('a search', () => {
  it('shows the best with luck taken out, and what each setting did', async () => {
    open('/study/2/trials/search/1')
    await heading(/Search 1/)
    await says(/The best of 9 settings scores [\d.]+ ± [\d.]+ with its luck taken out; while searching it looked like [\d.]+/)
    await says(`It is now trial ${search.trialNumber}`)
    const tries = within(screen.getByRole('table', { name: 'Tries' })).getAllByRole('row')
    expect(tries).toHaveLength(10)
    expect(screen.getAllByRole('img', { name: /^AUC by / })).toHaveLength(2)
    const map = screen.getByRole('table', { name: /Questions in a row, at most and|and Questions in a row, at most/i })
    expect(within(map).getAllByRole('row')).toHaveLength(4)
    expect(screen.getByRole('link', { name: 'See it in the Standings' })).toHaveAttribute('href', '/study/2/judgment')
    expect(screen.queryByRole('button', { name: '20 more' })).toBeNull()
    clean()
  })

  it('under way says how far it is, that its figures hold luck, and can be stopped or kept', async () => {
    const half = {
      ...search,
      state: 'running',
      done: 4,
      value: null,
      low: null,
      high: null,
      luck: null,
      trialId: null,
      trialNumber: null,
      jobId: 31,
    }
    instead['GET /api/searches/1'] = { status: 200, body: half }
    instead['GET /api/jobs/31'] = { status: 200, body: { ...job, kind: 'search' } }
    instead['POST /api/searches/1/keep'] = { status: 202, body: job }
    instead['POST /api/jobs/31/cancel'] = { status: 200, body: job }
    open('/study/2/trials/search/1')
    await says('4 of 9 settings weighed')
    await says('that figure holds luck, and does not rank')
    await userEvent.click(await button('Stop'))
    await request('POST', '/api/jobs/31/cancel')
    await userEvent.click(await button('Stop and keep the best'))
    await request('POST', '/api/searches/1/keep')
  })

  it('that was stopped goes on, one of draws has more, and an edge is widened', async () => {
    const effects = search.effects.map((e, i) => (i === 0 ? { ...e, edge: 1, widened: { list: [5, 8, 12] } } : e))
    instead['GET /api/searches/1'] = { status: 200, body: { ...search, state: 'stopped', done: 5, way: 'random draws', effects } }
    for (const path of ['on', 'keep']) instead[`POST /api/searches/1/${path}`] = { status: 202, body: job }
    instead['POST /api/studies/2/searches'] = { status: 202, body: { ...job, kind: 'search', subject: 1 } }
    open('/study/2/trials/search/1')
    await userEvent.click(await button('Go on, 4 left'))
    expect((await request('POST', '/api/searches/1/on')).body).toEqual({ more: 0 })
    await userEvent.click(await button('Widen'))
    const name = effects[0]!.name
    expect((await request('POST', '/api/studies/2/searches')).body).toMatchObject({
      spaces: [{ learner: 'tree', settings: { [name]: { list: [5, 8, 12] } } }],
      variantIds: [2],
      allColumns: true,
    })
    instead['GET /api/searches/1'] = { status: 200, body: { ...search, way: 'random draws' } }
  })

  it('in which nothing could be fitted says why', async () => {
    const failures = [{ ...search.best[0], value: null, why: 'The steps of the preparation leave no row to learn from.' }]
    instead['GET /api/searches/1'] = {
      status: 200,
      body: {
        ...search,
        best: [],
        effects: [],
        map: null,
        failures,
        state: 'failed',
        failure: 'No setting could be fitted; the list says why.',
        value: null,
        searching: null,
      },
    }
    open('/study/2/trials/search/1')
    await says('No setting could be fitted')
    await says('The steps of the preparation leave no row to learn from.')
  })
})

describe('the Standings', () => {
  it('have two finalists with the price of clarity, and mark the best of a search', async () => {
    const clearest = standings.trials.find((t) => t.learner === 'tree')!
    const finalists = {
      ...standings.finalists,
      strongest: 1,
      clearest: clearest.id,
      price: 0.031,
      low: 0.011,
      high: 0.05,
      reached: 0.62,
      clearer: 0.55,
    }
    instead['GET /api/studies/2/trials'] = { status: 200, body: { ...standings, finalists } }
    open('/study/2/judgment')
    const band = within(await screen.findByRole('region', { name: 'Finalists' }, { timeout: 8000 }))
    expect(band.getByRole('heading', { name: '0.031 of AUC, 7 events in 100' })).toBeVisible()
    expect(band.getByText(/reaches 62 of 100 events/)).toBeVisible()
    expect(band.getByText(/leaves to read; the limit is 30/)).toBeVisible()
    await says('best of 9')
    clean()
  })

  it('say that nothing can be read where nothing is within the limits, and change them', async () => {
    const finalists = { ...standings.finalists, clearest: null, price: null, low: null, high: null }
    instead['GET /api/studies/2/trials'] = { status: 200, body: { ...standings, finalists } }
    instead['PUT /api/studies/2/finalists'] = { status: 200, body: standings }
    open('/study/2/judgment')
    expect(await screen.findByRole('heading', { name: 'No trial is within the limits' }, { timeout: 8000 })).toBeVisible()
    await userEvent.click(await button('Change the limits'))
    const reading = screen.getByLabelText('Longest reading')
    await userEvent.clear(reading)
    await userEvent.type(reading, '12')
    await userEvent.type(screen.getByLabelText('Largest loss'), '0,02')
    await userEvent.click(screen.getByRole('button', { name: /^Strongest: / }))
    await userEvent.click(screen.getAllByRole('menuitem')[1]!)
    expect(screen.getByRole('button', { name: 'Set' })).toBeDisabled()
    await userEvent.type(screen.getByLabelText('Why these, for the logbook'), 'It is known.')
    await userEvent.click(screen.getByRole('button', { name: 'Set' }))
    expect((await request('PUT', '/api/studies/2/finalists')).body).toMatchObject({
      reading: 12,
      loss: 0.02,
      least: null,
      clearestId: null,
      reason: 'It is known.',
    })
  })

  it('show running trials with their folds filling, and a search under way', async () => {
    const waiting = { ...standings.trials[0]!, id: 77, number: 9, state: 'waiting', value: null, low: null, high: null }
    instead['GET /api/studies/2/trials'] = { status: 200, body: { ...standings, trials: [...standings.trials, waiting] } }
    instead['GET /api/jobs'] = { status: 200, body: [{ ...job, kind: 'trial', subject: 77, share: 0.4 }] }
    const line = (answers['GET /api/studies/2/searches'] as object[])[0]
    instead['GET /api/studies/2/searches'] = { status: 200, body: [{ ...line, state: 'running', done: 3 }] }
    open('/study/2/judgment')
    expect(await screen.findByRole('img', { name: '40% done' }, { timeout: 8000 })).toBeInTheDocument()
    expect(screen.getByRole('link', { name: 'Search 1, running' })).toHaveAttribute('href', '/study/2/trials/search/1')
    await says('3 of 9 settings weighed')
    expect(sent.some((s) => s.path === '/api/studies/2/searches')).toBe(true)
  })
})
