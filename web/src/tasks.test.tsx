import { type Judgment, sectionOf } from './data/judgment'
import { screen, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { answers, button, clean, heading, instead, job, open, request, says, sent, standIn } from './harness'
import { number as decimal } from './ui/format'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

const number = answers.number as Judgment
const ofNumber = sectionOf(number, 'number')!
const learned = { task: 'number', event: null, target: 'minutes_on_site' }

/** Study 2 asks for a number. */
function numbers() {
  instead['GET /api/studies/2'] = { status: 200, body: { ...(answers['GET /api/studies/2'] as object), ...learned } }
  instead['GET /api/studies/2/trials'] = { status: 200, body: answers['number standings'] }
  instead['GET /api/trials/1/judgment'] = { status: 200, body: answers.number }
  instead['GET /api/trials/3/worst'] = { status: 200, body: answers.worst }
}

describe('a number', () => {
  it('is judged by how far it is off, and where', async () => {
    numbers()
    open('/study/2/judgment/1')
    await heading(/Linear regression/)
    await says(/Half of the rows are predicted within [\d.]+ of minutes_on_site; typical error [\d.]+ ± [\d.]+ against [\d.]+ for the mean/)
    const figures = screen.getByRole('table', { name: 'Figures' })
    expect(within(figures).getAllByRole('row')).toHaveLength(7)
    expect(within(figures).getByText('within 90%')).toBeVisible()
    const terms = screen.getByRole('table', { name: 'Coefficients' })
    expect(within(terms).getByText('Overlap, VIF')).toBeVisible()
    expect(within(terms).queryByText('Odds ratio')).toBeNull()
    const ahead = sectionOf(number, 'coefficients')!.coefficients.find((c) => c.name === 'days_ahead')!
    expect(within(terms).getByRole('row', { name: /^days_ahead per 5 more/ })).toHaveTextContent(decimal(5 * ahead.estimate, 3))
    expect(within(terms).getAllByText('against 08-10')).toHaveLength(3)
    expect(await screen.findByRole('table', { name: 'Worst rows' })).toHaveTextContent('355')
    await userEvent.click(await button(/Open all/))
    expect(within(screen.getByRole('table', { name: 'Worst rows' })).getAllByRole('row').length).toBeGreaterThan(6)
    clean()
  })

  it('is not called within noise where it was not compared', async () => {
    numbers()
    const standings = answers['number standings'] as { trials: { id: number; task: string }[] }
    const distances = [
      {
        trialId: standings.trials[1]!.id,
        difference: 1.7,
        low: null,
        high: null,
        p: null,
        adjusted: null,
        noise: null,
        both: 0,
        pending: false,
      },
    ]
    instead['GET /api/studies/2/trials'] = { status: 200, body: { ...standings, distances } }
    open('/study/2/judgment')
    expect(await screen.findByText('not compared', {}, { timeout: 8000 })).toBeVisible()
    expect(screen.queryByText(/within noise/)).toBeNull()
  })

  it('says what it leans on, on rows it had not seen', async () => {
    numbers()
    const importance = [
      { column: 'job_type', value: 3.1, low: 2.4, high: 3.8 },
      ...Array.from({ length: 11 }, (_, i) => ({ column: `c${i}`, value: 0.01, low: -0.1, high: 0.12 })),
    ]
    instead['GET /api/trials/1/judgment'] = {
      status: 200,
      body: { ...number, sections: [...number.sections.filter((s) => s.kind !== 'leaning'), { kind: 'leaning', columns: importance }] },
    }
    open('/study/2/judgment/1')
    await says('It needs job_type; the others cannot be told from noise')
    const table = screen.getByRole('table', { name: 'What it leans on' })
    expect(within(table).getAllByRole('row')).toHaveLength(11)
    expect(within(table).getAllByRole('row')[1]).toHaveTextContent('job_type3.1 ± 0.7')
    expect(within(table).getByRole('columnheader', { name: 'RMSE worse by' })).toBeVisible()
    await userEvent.click(await button('Show all 12'))
    expect(within(table).getAllByRole('row')).toHaveLength(13)
  })

  it('stands beside its sealed figures once they were opened', async () => {
    numbers()
    instead['GET /api/trials/1/judgment'] = {
      status: 200,
      body: {
        ...number,
        sealed: { opening: 2, rows: 300, unanswered: 0 },
        sections: [{ ...ofNumber, figures: ofNumber.figures.map((f) => ({ ...f, sealed: f.interval, agrees: true })) }],
      },
    }
    open('/study/2/judgment/1')
    await says('Sealed rows seen, opening 2.')
    await says('They agree, within the error of both.')
    expect(screen.getAllByRole('columnheader', { name: 'Sealed' })).toHaveLength(2)
  })

  it('is ranked with the least error first, beside the mean', async () => {
    numbers()
    open('/study/2/judgment')
    await says(/Trial 1, linear regression, leads with [\d.]+ ± [\d.]+; Doing nothing scores [\d.]+/)
    expect(screen.getByText('Do nothing: the mean for all')).toBeVisible()
    expect(screen.getAllByRole('img', { name: /RMSE [\d.]+ ± [\d.]+; on its own training rows/ })).toHaveLength(2)
    clean()
  })

  it('is planned with the learners that can, and only the settings that matter', async () => {
    numbers()
    instead['POST /api/studies/2/trials'] = { status: 202, body: job }
    instead['GET /api/jobs/31'] = { status: 200, body: job }
    open('/study/2/trials')
    expect(await screen.findByRole('checkbox', { name: 'Linear regression' }, { timeout: 8000 })).toBeChecked()
    expect(screen.queryByRole('checkbox', { name: 'Logistic regression' })).toBeNull()
    expect(screen.queryByLabelText('by so much (lambda)')).toBeNull()
    await userEvent.click(screen.getByRole('button', { name: /^Hold coefficients back by: / }))
    await userEvent.click(screen.getByRole('menuitem', { name: 'elastic net' }))
    expect(screen.getByLabelText('Share of the lasso in an elastic net')).toBeVisible()
    await userEvent.click(screen.getByLabelText('Find lambda on held rows'))
    await userEvent.click(await button('Run this trial'))
    expect((await request('POST', '/api/studies/2/trials')).body).toMatchObject({
      learner: 'linear',
      settings: { penalty: 'elastic net', find: true },
    })
  })
})

describe('a scored list', () => {
  const batch = answers['GET /api/scorings/1'] as object
  const rows = answers['GET /api/scorings/1/rows'] as { rows: object[]; names: string[] }
  it.each([
    [
      'of numbers',
      { task: 'number', target: 'minutes', event: '', lowest: 12, highest: 140, mean: 48.25, rows: 400, scored: 398 },
      { chance: null, called: null, answer: 61.5 },
      ['398 of 400 have a number', 'minutes is 48.25 on average, from 12 to 140', '61.5'],
      ['To call'],
    ],
    [
      'of several classes',
      {
        task: 'several classes',
        target: 'kind',
        event: '',
        classes: [
          { name: 'leak', records: 300 },
          { name: 'noise', records: 100 },
        ],
        rows: 400,
        scored: 400,
      },
      { chance: 0.71, called: null, class: 'leak', shares: [0.71, 0.29] },
      ['400 of 400 have a likeliest class', 'leak 300, noise 100', '71.0%'],
      ['To call', 'Call'],
    ],
  ])('%s says its answers and nothing of calls', async (_, of, row, texts, absent) => {
    instead['GET /api/scorings/1'] = { status: 200, body: { ...batch, ...of } }
    instead['GET /api/scorings/1/rows'] = { status: 200, body: { ...rows, rows: [{ ...rows.rows[0], why: null, ...row }] } }
    open('/study/2/decisions/1')
    for (const text of texts) await says(text)
    for (const text of absent) expect(screen.queryByText(text)).toBeNull()
    clean()
  })
  it('is asked which single change helps most, with what nobody can change left out', async () => {
    const change = { column: 'boiler_age', to: '6', reached: 122, lost: 3, mean: -0.386 }
    instead['POST /api/scorings/1/group'] = {
      status: 200,
      body: { records: 200, reach: 4, columns: ['boiler_age', 'slot'], changes: [change] },
    }
    open('/study/2/decisions/1')
    await userEvent.click(await button('What would help most'))
    await says(/4 of 200 reach it as they are/)
    const line = within(await screen.findByRole('table', { name: 'Changes made to all' })).getAllByRole('row')[1]
    expect(line!.textContent).toBe('boiler_age to 6+122−3−38.6 points')
    await userEvent.click(screen.getByRole('checkbox', { name: 'boiler_age' }))
    await userEvent.clear(screen.getByRole('textbox', { name: 'Bound' }))
    expect((await button('Look')).hasAttribute('disabled')).toBe(true)
    await userEvent.type(screen.getByRole('textbox', { name: 'Bound' }), '25')
    await userEvent.click(await button('Look'))
    expect(sent.filter((s) => s.path === '/api/scorings/1/group').map((s) => s.body)).toEqual([
      { low: null, high: expect.any(Number), fixed: [] },
      { low: null, high: 0.25, fixed: ['boiler_age'] },
    ])
    clean()
  })
  it('is given reasons where its learner tells none by itself, and says what mainly speaks for it', async () => {
    instead['GET /api/scorings/1/rows'] = { status: 200, body: { ...rows, rows: rows.rows.map((r) => ({ ...r, why: null, reasons: '' })) } }
    instead['GET /api/scorings/1/because'] = { status: 200, body: { looked: 0, groups: [], jobId: null } }
    instead['POST /api/scorings/1/because'] = { status: 202, body: { ...job, kind: 'because' } }
    const first = open('/study/2/decisions/1')
    await userEvent.click(await button('Add reasons to the list'))
    expect(sent.some((s) => s.method === 'POST' && s.path === '/api/scorings/1/because')).toBe(true)
    expect(screen.queryByText('Because')).toBeNull()
    first.unmount()
    const groups = [
      {
        says: 'job type part fitting',
        records: 48,
        answer: 0.412,
        effects: [
          { column: 'job_type', value: 0.21 },
          { column: 'boiler_age', value: 0.02 },
          { column: 'slot', value: -0.001 },
        ],
      },
      {
        says: 'boiler age high',
        records: 31,
        answer: 0.38,
        effects: [
          { column: 'job_type', value: -0.03 },
          { column: 'boiler_age', value: 0.25 },
        ],
      },
      { says: 'looked at before', records: 2, answer: null, effects: [] },
    ]
    instead['GET /api/scorings/1/because'] = { status: 200, body: { looked: 120, groups, jobId: null } }
    open('/study/2/decisions/1')
    await says('Of the 120 highest, 48 mainly by job type part fitting, 31 by boiler age high, 2 by looked at before.')
    expect(screen.queryByRole('button', { name: 'Add reasons to the list' })).toBeNull()
    await userEvent.click(await button('Groups side by side'))
    const beside = within(await screen.findByRole('table', { name: 'Groups side by side' }))
    expect(
      beside.getAllByRole('row').map((r) =>
        within(r)
          .queryAllByRole('cell')
          .map((c) => c.textContent),
      ),
    ).toEqual([
      [],
      ['Records', '48', '31'],
      ['Mean answer', '41.2%', '38.0%'],
      ['boiler_age', '+2.0', '+25.0'],
      ['job_type', '+21.0', '−3.0'],
      ['slot', '−0.1', '0.0'],
    ])
    clean()
  })
  it('is narrowed to one class', async () => {
    instead['GET /api/scorings/1'] = {
      status: 200,
      body: { ...batch, task: 'several classes', target: 'kind', classes: [{ name: 'leak', records: 300 }] },
    }
    open('/study/2/decisions/1?class=leak')
    await vi.waitFor(() => expect(sent.some((s) => s.path.endsWith('/rows') && s.query.includes('class=leak'))).toBe(true))
  })
})

describe('several classes', () => {
  it('are judged by what is taken for what', async () => {
    instead['GET /api/trials/1/judgment'] = { status: 200, body: answers.classes }
    instead[`GET /api/trials/${(answers.classes as Judgment).trial.id}/worst`] = {
      status: 200,
      body: {
        total: 900,
        names: ['slot'],
        records: [{ number: 7, saidClass: 'leak', cameClass: 'no heat', said: 0.6, came: null, off: 0.01, cells: ['10-13'] }],
      },
    }
    open('/study/2/judgment/1')
    await says(/It names the right one of \d classes in [\d.]+%/)
    const mixed = await screen.findByRole('table', { name: 'What is taken for what' })
    expect(within(mixed).getAllByRole('row').length).toBe(1 + sectionOf(answers.classes as Judgment, 'classes')!.classes.length)
    expect(screen.getByRole('table', { name: 'Classes' })).toHaveTextContent('safety check')
    expect(screen.getByRole('table', { name: 'Coefficients' })).toHaveTextContent('Class')
    await says('The 1 that surprised most')
    const opens = within(mixed)
      .getAllByRole<HTMLButtonElement>('button')
      .find((c) => !c.disabled && !/rows of (.+) named \1$/.test(c.getAttribute('aria-label')!))!
    const [, came, taken] = /rows of (.+) named (.+)/.exec(opens.getAttribute('aria-label')!)!
    await userEvent.click(opens)
    const records = await screen.findByRole('region', { name: `Records “${came!}” taken for “${taken!}”` })
    expect(within(records).getByRole('heading')).toHaveTextContent(`900 “${came!}” taken for “${taken!}”`)
    const asked = new URLSearchParams(sent.findLast((r) => r.path === `/api/trials/${(answers.classes as Judgment).trial.id}/worst`)!.query)
    expect([asked.get('came'), asked.get('named')]).toEqual([came, taken])
    expect(opens).toHaveAttribute('aria-pressed', 'true')
    await userEvent.click(within(records).getByRole('button', { name: 'Close' }))
    expect(screen.queryByRole('region', { name: /taken for/ })).toBeNull()
    clean()
  })

  it('have rules in the order they answer', async () => {
    instead['GET /api/trials/1/judgment'] = { status: 200, body: answers.rules }
    instead['GET /api/trials/6/worst'] = { status: 200, body: { total: 0, names: [], records: [] } }
    open('/study/2/judgment/1')
    const rules = await screen.findByRole('table', { name: 'Rules' }, { timeout: 8000 })
    expect(within(rules).getAllByRole('row').at(-1)).toHaveTextContent('every other record')
    clean()
  })
})

describe('the target', () => {
  it('is divided by a marker once its column and its value are said', async () => {
    instead['PUT /api/studies/2/target'] = { status: 200, body: answers['GET /api/studies/2'] }
    open('/study/2/trials')
    await userEvent.click(await button('outcome'))
    await userEvent.click(await button(/^Divided: /))
    await userEvent.click(screen.getByRole('menuitem', { name: /^by a marker/ }))
    expect(await button('Choose and seal')).toBeDisabled()
    await userEvent.click(await button(/^Column that divides/))
    await userEvent.click(screen.getByRole('menuitem', { name: /^reminder_sent/ }))
    expect(await button('Choose and seal')).toBeDisabled()
    await userEvent.click(await button(/^Validates: /))
    await userEvent.click(screen.getByRole('menuitem', { name: 'yes' }))
    await says('The rows marked as sealed are sealed for the final examination')
    await userEvent.click(await button('Choose and seal'))
    expect((await request('PUT', '/api/studies/2/target')).body).toMatchObject({
      way: 'marker',
      by: 'reminder_sent',
      validation: 'yes',
      sealedValue: null,
    })
  })

  it('is divided by the column whose use is to divide, unless another way is chosen', async () => {
    const study = answers['GET /api/studies/2'] as object
    const table = answers['GET /api/tables/5'] as { columns: { name: string }[] }
    instead['GET /api/studies/2'] = { status: 200, body: { ...study, target: null, event: null, plan: null } }
    const columns = table.columns.map((c) => (c.name === 'reminder_sent' ? { ...c, use: 'split marker' } : c))
    instead['GET /api/tables/5'] = { status: 200, body: { ...table, columns } }
    open('/study/2/trials')
    await userEvent.click(await button('Choose target…'))
    expect(await button(/^Divided: by a marker/)).toBeVisible()
    expect(await button(/^Column that divides: reminder_sent/)).toBeVisible()
    expect(await button('Choose and seal')).toBeDisabled()
    await userEvent.click(await button(/^Divided: /))
    await userEvent.click(screen.getByRole('menuitem', { name: /^by chance/ }))
    expect(await button('Choose and seal')).toBeEnabled()
  })

  it('of a table too large is refused with a way to draw a part of it', async () => {
    const title = 'Up to 2,000,000 records are divided into those to learn from and those that stay sealed; visits has 9,000,000.'
    instead['PUT /api/studies/2/target'] = { status: 422, body: { title, status: 422, field: 'tableId' } }
    open('/study/2/trials')
    await userEvent.click(await button('outcome'))
    expect(screen.queryByRole('link', { name: 'Draw some of its records' })).toBeNull()
    await userEvent.click(await button('Choose and seal'))
    await says(title)
    expect(screen.getByRole('link', { name: 'Draw some of its records' })).toHaveAttribute('href', '/study/2/table/5?combine=draw')
  })

  it('is chosen as a number, divided by time', async () => {
    instead['PUT /api/studies/2/target'] = { status: 200, body: answers['GET /api/studies/2'] }
    open('/study/2/trials')
    await userEvent.click(await button('outcome'))
    await userEvent.click(await button(/^Target: /))
    await userEvent.click(screen.getByRole('menuitem', { name: /^boiler_age/ }))
    await says(/Known in [\d,]+ records/)
    await userEvent.click(await button(/^Divided: /))
    await userEvent.click(screen.getByRole('menuitem', { name: /^by time/ }))
    await says('The latest fifth is sealed')
    await userEvent.click(await button('Choose and seal'))
    expect((await request('PUT', '/api/studies/2/target')).body).toMatchObject({
      column: 'boiler_age',
      task: 'number',
      way: 'time',
      by: 'visit_date',
    })
  })
})
