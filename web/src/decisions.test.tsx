import { fireEvent, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { type Decision, money } from './data/list'
import { answers, button, clean, heading, instead, job, open, request, says, sent, standIn, where } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

const decision = answers['GET /api/decisions/1'] as unknown as Decision
const LIST = '/study/2/decisions/1/list/1'
const shown = (change: Partial<Decision>) => {
  instead['GET /api/decisions/1'] = { status: 200, body: { ...decision, ...change } }
}
const body = async (method: string, path: string) => JSON.parse(JSON.stringify((await request(method, path)).body)) as Record<string, never>
const terms = async () => ((await body('PUT', '/api/decisions/1')) as unknown as { terms: Decision['terms'] }).terms

describe('money', () => {
  it.each([
    [0, '€0'],
    [12.3456, '€12.35'],
    [-12.5, '−€12.50'],
    [99.999, '€100.00'],
    [1467.4, '€1,467'],
    [-0.001, '€0.00'],
    [null, '–'],
    [NaN, '–'],
  ])('%s is told as %s', (value, said) => expect(money(value, '€')).toBe(said))
})

describe('an action list', () => {
  it('says whom, what it costs and brings, and how sure that is', async () => {
    open(LIST)
    await heading(/^Calls/)
    await says('60 of 5,998 are acted on:')
    await says('expected to prevent 5.1 events and to bring €1,453 after €120 of cost')
    await says('in 90 of 100 cases €73.24 to €2,282; a loss in 3%')
    await says('15 are left untouched by draw. They are too few to show any effect.')
    await says('The list returns nothing when an action costs €26.22, or works in 3.1% of cases.')
    // Its tiers add up to the whole.
    const tiers = within(screen.getByRole('table', { name: 'What each tier brings' })).getAllByRole('row')
    const count = (row: HTMLElement) => Number(within(row).getAllByRole('cell')[1]!.textContent)
    expect(tiers.slice(1, -1).reduce((n, r) => n + count(r), 0)).toBe(count(tiers[tiers.length - 1]!))
    clean()
  })

  it('has edges that keys move and that are written exactly; the list stays', async () => {
    open(LIST)
    const [first] = await screen.findAllByRole('slider')
    expect(first).toHaveAttribute('aria-valuetext', '6%')
    instead['PUT /api/decisions/1'] = { status: 200, body: { ...decision, version: 2 } }
    fireEvent.keyDown(first!, { key: 'ArrowRight' })
    const put = await request('PUT', '/api/decisions/1')
    expect(put.headers.get('If-Match')).toBe('1')
    expect((await terms()).chanceEdges).toEqual([0.07, 0.15])
    expect((await terms()).cost).toBe(2)
    sent.length = 0
    // An edge never passes its neighbor.
    fireEvent.keyDown(screen.getAllByRole('slider')[1]!, { key: 'PageDown' })
    expect((await terms()).chanceEdges).toEqual([0.06, 0.1])
    sent.length = 0
    const field = screen.getByLabelText('Edges, value')
    await userEvent.clear(field)
    await userEvent.type(field, '200; 50{Enter}')
    expect((await terms()).valueEdges).toEqual([50, 200])
  })

  it('leaves open what was opened while a moved edge was still being kept', async () => {
    open(LIST)
    const [first] = await screen.findAllByRole('slider')
    let kept: (body: unknown) => void = () => undefined
    instead['PUT /api/decisions/1'] = { status: 200, body: new Promise((done) => (kept = done)) }
    fireEvent.keyDown(first!, { key: 'ArrowRight' })
    await request('PUT', '/api/decisions/1')
    await userEvent.click(await button('Take along…'))
    const dialog = await screen.findByRole('dialog')
    kept({ ...decision, version: 2, rows: 5999 })
    await says('All 5,999')
    expect(dialog).toBeVisible()
    expect(within(dialog).getByLabelText('Name for chance')).toHaveValue('chance')
  })

  it('keeps other costs, and stops when somebody changed them in the meantime', async () => {
    open(LIST)
    await userEvent.click(await button('Change costs…'))
    const dialog = within(await screen.findByRole('dialog'))
    const write = async (label: string, text: string) => {
      const field = dialog.getByLabelText(label)
      await userEvent.clear(field)
      if (text !== '') await userEvent.type(field, text)
      fireEvent.blur(field)
    }
    await write('An action costs', '7.5')
    await write('It prevents the event in, of 100', '70')
    await write('Actions in all', '')
    await write('Left untouched for comparison, of 100', '10')
    instead['PUT /api/decisions/1'] = {
      status: 412,
      body: { title: 'Somebody has changed this.', status: 412, current: { name: 'Calls', terms: { ...decision.terms, cost: 9 } } },
    }
    await userEvent.click(dialog.getByRole('button', { name: 'Keep' }))
    // What is thought moves its bounds along, and no field is no limit.
    expect(await terms()).toMatchObject({ cost: 7.5, works: 0.7, worksLow: 0.3, worksHigh: 0.7, most: null, share: 0.1 })
    await says('Somebody changed this in the meantime.')
    expect(within(await screen.findByRole('table', { name: 'Two versions', hidden: true })).getByText('9')).toBeInTheDocument()
  })

  it('is taken along with columns named, ordered and left out', async () => {
    open(LIST)
    await userEvent.click(await button('Take along…'))
    const dialog = within(await screen.findByRole('dialog'))
    const name = dialog.getByLabelText('Name for chance')
    await userEvent.clear(name)
    await userEvent.type(name, 'how likely')
    await userEvent.click(dialog.getByRole('button', { name: 'how likely up' }))
    await userEvent.click(dialog.getByRole('button', { name: 'Leave out because' }))
    instead['POST /api/decisions/1/file'] = { status: 422, body: { title: 'Two columns are named "a".', status: 422 } }
    await userEvent.click(dialog.getByRole('button', { name: 'Write it' }))
    const asked = (await body('POST', '/api/decisions/1/file')) as unknown as {
      which: string
      format: string
      columns: { of: string; as: string }[]
    }
    expect([asked.which, asked.format]).toEqual(['acted', 'csv'])
    expect(asked.columns.map((c) => c.as)).toEqual(['how likely', 'visit_id', 'value', 'return', 'tier', 'assigned', 'status'])
    await says('Two columns are named "a".')
  })

  it.each([
    [true, 'That lies outside the 30% to 50% assumed here'],
    [false, 'Acting prevented 5% (−20% to 25%) of events.'],
  ])('says what a later table showed; contradicted: %s', async (contradicts, text) => {
    const rate = { value: 0.2, low: 0.1, high: 0.3 }
    shown({
      measured: {
        tableName: 'later',
        acted: 58,
        actedEvents: 12,
        left: 15,
        leftEvents: 4,
        actedRate: rate,
        leftRate: rate,
        works: { value: 0.05, low: -0.2, high: 0.25 },
        contradicts,
        missing: 2,
      },
    })
    open(LIST)
    await says(text)
    await says('2 records of the list are not in that table.')
    expect(screen.queryByText(/lies outside/) !== null).toBe(contradicts)
  })

  it('on which nothing pays says so', async () => {
    const none = { ...decision.acted, actions: 0, cost: 0, events: 0, prevented: 0, gross: 0, return: 0, roi: null }
    shown({ acted: none, best: none, drawn: null, paying: 0, left: 0, tiers: [], cutOff: null, costBorne: null, worksBorne: null })
    instead['GET /api/decisions/1/rows'] = { status: 200, body: { total: 0, offset: 0, names: [], rows: [] } }
    open(LIST)
    await says('With these amounts no action is expected to pay.')
    await says('Nobody is left untouched, so that the effect cannot be measured later.')
    clean()
  })

  it('of several classes has an amount for each action and class', async () => {
    shown({
      task: 'several classes',
      classes: ['finished', 'no access'],
      actions: [{ name: 'Call', records: 40, return: 120 }],
      terms: { ...decision.terms, actions: [{ name: 'Call', amounts: [-5, 20] }], nothing: [0, 0] },
    })
    open(LIST)
    await says('expected to bring €1,453 more than doing nothing.')
    await userEvent.click(await button('Change costs…'))
    const dialog = within(await screen.findByRole('dialog'))
    await userEvent.click(dialog.getByRole('button', { name: 'Another action' }))
    const field = within(dialog.getByTitle('Call, no access')).getByRole('textbox')
    await userEvent.clear(field)
    await userEvent.type(field, '33')
    fireEvent.blur(field)
    await userEvent.click(dialog.getByRole('button', { name: 'Keep' }))
    expect((await terms()).actions).toEqual([
      { name: 'Call', amounts: [-5, 33] },
      { name: 'Action 2', amounts: [0, 0] },
    ])
  })
})

describe('scored records', () => {
  it('are narrowed to a band of answers by keys and in writing', async () => {
    open('/study/2/decisions/1')
    await userEvent.click(await button('By band…'))
    const [least] = await screen.findAllByRole('slider')
    fireEvent.keyDown(least!, { key: 'PageUp' })
    await waitFor(() => expect(where()).toContain('from=0.05'))
    const to = screen.getByLabelText('to')
    await userEvent.clear(to)
    await userEvent.type(to, '12.5%{Enter}')
    await waitFor(() => expect(where()).toContain('to=0.125'))
    await waitFor(() =>
      expect(sent.some((s) => s.path.endsWith('/rows') && /low=0.05/.test(s.query) && /high=0.125/.test(s.query))).toBe(true),
    )
    await userEvent.click(screen.getAllByRole('button', { name: 'All answers' })[0]!)
    await waitFor(() => expect(where()).not.toContain('from='))
  })

  it('are narrowed to a band of a column and by conditions, and the answer stays as it was', async () => {
    open('/study/2/decisions/1?from=0.1&to=1')
    await userEvent.click(await button('Narrowed by: the answer'))
    await userEvent.click(await screen.findByRole('menuitem', { name: /^days_ahead/ }))
    const [least, greatest] = await screen.findAllByRole('slider')
    expect(least).toHaveAccessibleName('Least days_ahead')
    fireEvent.keyDown(least!, { key: 'PageUp' })
    const asked = () => sent.filter((s) => s.path.endsWith('/rows')).at(-1)!.query
    await waitFor(() => expect(asked()).toMatch(/where=[^&]*days_ahead[^&]*is\+between/))
    expect(asked()).toMatch(/low=0.1&high=1/)
    expect(Number(greatest!.getAttribute('aria-valuenow'))).toBeGreaterThan(Number(least!.getAttribute('aria-valuenow')))
    await userEvent.click(screen.getByRole('button', { name: 'Any days_ahead' }))
    await waitFor(() => expect(where()).not.toContain('days_ahead'))
    await userEvent.click(await button('By condition…'))
    await userEvent.click(await button('Add a condition: choose a column…'))
    await userEvent.click(await screen.findByRole('menuitem', { name: /^boiler_age/ }))
    await waitFor(() => expect(asked()).toMatch(/where=[^&]*boiler_age/))
    await userEvent.click(screen.getByRole('button', { name: 'No conditions' }))
    await waitFor(() => expect(asked()).not.toContain('where='))
  })

  it('of low confidence stand apart, where there are any', async () => {
    const scoring = answers['GET /api/scorings/1'] as unknown as object
    instead['GET /api/scorings/1'] = { status: 200, body: { ...scoring, doubtful: 3 } }
    open('/study/2/decisions/1')
    await userEvent.click(await screen.findByRole('tab', { name: /^Low confidence 3/ }))
    await waitFor(() => expect(sent.some((s) => s.path.endsWith('/rows') && s.query.includes('which=low'))).toBe(true))
  })

  it('that are narrowed get a name, and come back by it', async () => {
    const kept = { id: 4, name: 'nearly certain', view: 'decisions/1', query: 'from=0.4&to=1', records: 12 }
    instead['GET /api/studies/2/selections'] = { status: 200, body: [kept, { ...kept, id: 5, view: 'table/5/rows' }] }
    instead['POST /api/studies/2/selections'] = { status: 201, body: kept }
    open('/study/2/decisions/1?which=called')
    await userEvent.click(await button('Selections (1)'))
    const dialog = within(await screen.findByRole('dialog'))
    await userEvent.type(dialog.getByLabelText(/^Name these/), 'to call')
    await userEvent.click(dialog.getByRole('button', { name: 'Keep' }))
    expect(await body('POST', '/api/studies/2/selections')).toMatchObject({ name: 'to call', view: 'decisions/1', query: 'which=called' })
    await userEvent.click(await button('Selections (1)'))
    await userEvent.click(await screen.findByRole('button', { name: 'nearly certain' }))
    await waitFor(() => expect(where()).toBe('/study/2/decisions/1?from=0.4&to=1'))
  })

  it('become a table under a name, with the answer named', async () => {
    open('/study/2/decisions/1')
    await userEvent.click(await button('As a table…'))
    const dialog = within(await screen.findByRole('dialog'))
    const as = dialog.getByLabelText('Name of the answer')
    await userEvent.clear(as)
    await userEvent.type(as, 'nobody')
    await userEvent.click(dialog.getByRole('checkbox', { name: 'slot' }))
    instead['POST /api/scorings/1/table'] = { status: 202, body: { ...job, id: 9, state: 'waiting' } }
    await userEvent.click(dialog.getByRole('button', { name: 'Make the table' }))
    const asked = (await body('POST', '/api/scorings/1/table')) as unknown as { name: string; as: string; carry: string[] }
    expect(asked).toMatchObject({ name: 'visits scored', as: 'nobody' })
    expect(asked.carry).not.toContain('slot')
    expect(asked.carry).toHaveLength(24)
  })

  it('stand beside those of another trial', async () => {
    const [one] = answers['GET /api/studies/2/scorings'] as unknown as object[]
    instead['GET /api/studies/2/scorings'] = { status: 200, body: [one, { ...one, id: 7, trialNumber: 4, trialTitle: 'Decision tree' }] }
    instead['GET /api/scorings/1/beside'] = {
      status: 200,
      body: {
        firstTrial: 1,
        otherTrial: 4,
        both: 5998,
        agree: 0.91,
        onlyFirst: 30,
        onlyOther: 12,
        ranks: 0.834,
        apart: 0.021,
        most: [{ number: 17, key: 'V100017', first: '41.0%', other: '3.0%' }],
      },
    }
    open('/study/2/decisions/1')
    await userEvent.click(await button('Beside another trial'))
    await says('They call alike for 91% of 5,998 records; 30 are called by the first alone, 12 by the other alone')
    await says('They order records alike to 0.83 (1 = the same order). Answers lie 2.1 points apart on average.')
    await userEvent.click(screen.getByRole('button', { name: 'V100017' }))
    await waitFor(() => expect(where()).toBe('/study/2/reasons?batch=1&record=17'))
  })
})

describe('scoring new records', () => {
  const match = answers['POST /api/studies/2/match'] as unknown as { problems: string[]; questions: object[] }
  const trials = (answers['GET /api/studies/2'] as unknown as { trials: { id: number; title: string }[] }).trials

  it('asks what becomes of values beyond training; it is answered already', async () => {
    const says = 'days_ahead reaches beyond 0 to 41, which the model was made with: 44 in 3 records.'
    const answersOf = ['score, mark low confidence', 'score as the end of the range', 'leave out, and say so']
    instead['POST /api/studies/2/match'] = {
      status: 200,
      body: {
        ...match,
        problems: [says, 'another remark'],
        questions: [{ column: 'days_ahead', says, answer: answersOf[0], answers: answersOf }],
      },
    }
    instead['POST /api/studies/2/scorings'] = { status: 202, body: { ...job, id: 3, state: 'waiting' } }
    open('/study/2/decisions')
    const slots = await screen.findAllByRole('button', { name: /^What becomes of/ })
    expect(slots).toHaveLength(1)
    expect(slots[0]).toHaveTextContent('score, mark low confidence')
    await userEvent.click(slots[0]!)
    await userEvent.click(await screen.findByRole('menuitem', { name: 'leave out, and say so' }))
    await userEvent.click(await button(/^Score .* records$/))
    expect(await body('POST', '/api/studies/2/scorings')).toMatchObject({ answers: { days_ahead: 'leave out, and say so' } })
    clean()
  })

  it('is done by several trials at once', async () => {
    const [first] = trials.filter((t) => t.title !== 'Baseline')
    const study = answers['GET /api/studies/2'] as object
    const second = { ...first, id: 77, number: 9, title: 'Decision tree' }
    instead['GET /api/studies/2'] = { status: 200, body: { ...study, trials: [...trials, second] } }
    instead['POST /api/studies/2/scorings'] = { status: 202, body: { ...job, id: 3, state: 'waiting' } }
    open('/study/2/decisions?trial=1')
    await userEvent.click(await screen.findByRole('button', { name: /^Another trial at once/ }))
    await userEvent.click(await screen.findByRole('menuitem', { name: /trial 9, decision tree/ }))
    await says('and with trial 9')
    await userEvent.click(await button(/^Score .* records$/))
    await waitFor(() => expect(sent.filter((s) => s.method === 'POST' && s.path.endsWith('/scorings'))).toHaveLength(2))
    const asked = sent
      .filter((s) => s.path.endsWith('/scorings') && s.method === 'POST')
      .map((s) => (s.body as { trialId: number }).trialId)
    expect(asked).toEqual([1, 77])
  })

  it('takes records pasted from a sheet as a table', async () => {
    instead['POST /api/uploads'] = {
      status: 201,
      body: { id: 31, received: 0, size: 1, pieceSize: 8388608, fileName: 'pasted records.txt' },
    }
    open('/study/2/decisions')
    await userEvent.click(await button('paste records'))
    const dialog = within(await screen.findByRole('dialog'))
    expect(dialog.getByRole('button', { name: 'Take the records' })).toBeDisabled()
    fireEvent.change(dialog.getByLabelText('Records, the names of the columns first'), {
      target: { value: 'visit_id\tslot\nV1\t10-13\nV2\t13-16\n' },
    })
    await userEvent.click(dialog.getByRole('button', { name: 'Take 2 records' }))
    expect(await body('POST', '/api/uploads')).toEqual({ fileName: 'pasted records.txt', size: 32 })
  })
})

describe('pictures of a list', () => {
  it('draw nothing that is no number, whatever the list', async () => {
    const flat = decision.curve.map((p) => ({ ...p, return: 0 }))
    const losing = decision.curve.map((p) => ({ ...p, return: -p.actions }))
    for (const curve of [decision.curve, flat, losing, [{ actions: 0, return: 0 }]]) {
      shown({ curve, histogram: decision.histogram.map(() => 0), actedBy: decision.actedBy.map(() => 0) })
      const { unmount } = open(LIST)
      await heading(/^Calls/)
      const drawn = [...document.querySelectorAll('svg path, svg rect, svg circle, svg text')]
      expect(drawn.length).toBeGreaterThan(20)
      for (const e of drawn) for (const a of e.attributes) expect(a.value).not.toMatch(/NaN|Infinity|undefined/)
      unmount()
    }
  })
})

describe('routines', () => {
  const routine = {
    id: 3,
    name: 'Monday',
    owner: 'Mara Kell',
    trialNumber: 1,
    table: 'visits',
    when: 'every week',
    nextAt: '2026-12-07T05:00:00+00:00',
    lastAt: '2026-11-30T05:00:00+00:00',
    failed: false,
    says: '400 of 400 records scored.',
    warnings: ['slot: 12% are missing; before 1%.'],
    scoringId: 1,
    decisionId: 1,
    tableId: 5,
    jobId: null as number | null,
  }

  it.each([
    ['that ran', routine, 'Run now', true],
    ['that failed', { ...routine, failed: true, says: 'visits has no slot.', warnings: [] }, 'Run now', false],
    ['that is running', { ...routine, jobId: 8 }, 'Running…', true],
  ])('%s says what it came to', async (_, view, press, linked) => {
    instead['GET /api/studies/2/routines'] = { status: 200, body: [view] }
    open('/study/2/decisions')
    await says(view.says)
    for (const w of view.warnings) await says(w)
    expect(screen.queryByRole('link', { name: 'The list' }) !== null).toBe(linked)
    const run = await button(press)
    if (view.jobId != null) {
      expect(run).toBeDisabled()
      return
    }
    instead['POST /api/routines/3/run'] = { status: 202, body: { ...job, id: 8, state: 'waiting' } }
    await userEvent.click(run)
    await request('POST', '/api/routines/3/run')
  })

  it('are kept from a scored table with its list', async () => {
    open('/study/2/decisions/1')
    await userEvent.click(await button('Save as a routine'))
    const dialog = within(await screen.findByRole('dialog'))
    await userEvent.click(await dialog.findByRole('button', { name: 'List that is made: no list' }))
    await userEvent.click(await screen.findByRole('menuitem', { name: /a list as “Calls”/ }))
    await userEvent.click(dialog.getByRole('button', { name: 'When: by hand' }))
    await userEvent.click(await screen.findByRole('menuitem', { name: 'every day' }))
    await waitFor(() => expect(dialog.getByRole('button', { name: 'Keep the routine' })).toBeEnabled())
    instead['POST /api/studies/2/routines'] = { status: 201, body: routine }
    await userEvent.click(dialog.getByRole('button', { name: 'Keep the routine' }))
    const asked = (await body('POST', '/api/studies/2/routines')) as unknown as { trialId: number; plan: Record<string, unknown> }
    expect(asked.trialId).toBe(1)
    expect(asked.plan).toMatchObject({ table: 'visits', cutoff: 0.06, keepAs: 'visits scored', when: 'every day', hour: 5, export: null })
    expect(asked.plan.terms).toMatchObject({ cost: 2, most: 60 })
  })
})

describe('ranking by money', () => {
  it('asks for amounts and ranks by them', async () => {
    open('/study/2/trials')
    await userEvent.click(await screen.findByRole('button', { name: /^Figure that ranks/ }))
    await userEvent.click(await screen.findByRole('menuitem', { name: /^expected return…/ }))
    const brought = screen.getByLabelText('where the event would come it brings, on average')
    await userEvent.clear(brought)
    await userEvent.type(brought, '0')
    expect(await button('Rank by these')).toBeDisabled()
    await userEvent.clear(brought)
    await userEvent.type(brought, '34.2')
    await userEvent.click(await button('Rank by these'))
    expect(await body('PUT', '/api/studies/2/figure')).toEqual({ figure: 'return:5:34.2:0' })
  })
})
