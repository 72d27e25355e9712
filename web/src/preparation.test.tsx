import { fireEvent, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { answers, button, clean, heading, instead, job, open, request, says, sent, standIn, where } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

type Step = { step: string; [setting: string]: unknown }
type View = {
  steps: { step: string; problem: string | null; toll: object | null; sentence: string | null }[]
  advice: object[]
  look: object
}

const preview = answers['POST /api/variants/2/preview'] as View
const stored = answers['GET /api/studies/2/preparation'] as { variants: { id: number; letter: string; name: string }[] }
const kinds = (answers['GET /api/steps'] as { steps: { step: string; title: string; group: string }[] }).steps
/** The steps of the last preview that was asked for. */
const asked = () =>
  (sent.filter((s) => s.path.endsWith('/preview')).at(-1)?.body as { steps: Step[]; look: number } | undefined)?.steps.at(-1)
const drafted = (step: Step) => `/study/2/preparation?step=${encodeURIComponent(JSON.stringify(step))}`
/** A preview whose third step is another one. */
const withThird = (third: object, more: object = {}) => ({
  status: 200,
  body: { ...preview, steps: [...preview.steps.slice(0, 2), { ...preview.steps[2]!, ...third }], ...more },
})

describe('steps', () => {
  it('are offered by what they are about, each with what it is for', async () => {
    open('/study/2/preparation')
    await userEvent.click(await button('Add a step…'))
    const items = screen.getAllByRole('menuitem')
    for (const k of kinds) expect(items.some((i) => i.textContent?.startsWith(k.title))).toBe(true)
    // What is made of other tables stands there too, and leads to where it is done.
    expect(items.slice(kinds.length).map((i) => i.getAttribute('href'))).toEqual([
      '/study/2/table?combine=look up',
      '/study/2/table?combine=gather',
    ])
  })

  it.each(kinds.map((k) => [k.title, k.step]))('%s: its settings are drawn from what the server says', async (title, step) => {
    instead['POST /api/variants/2/preview'] = withThird({ step, problem: 'Choose at least one column.', toll: null, sentence: null })
    open('/study/2/preparation')
    await userEvent.click(await button('Add a step…'))
    const item = screen.getAllByRole('menuitem').find((i) => i.textContent?.startsWith(title))!
    await userEvent.click(item)
    await screen.findByRole('heading', { level: 2, name: title }, { timeout: 8000 })
    await waitFor(() => expect(asked()?.step).toBe(step))
    // Before anything is chosen nothing is refused.
    await says(/Cannot be done\. Choose at least one column\.|Choose what this step is about; what it costs is told then\./)
    expect(screen.getByRole('button', { name: 'Apply step 3' })).toBeDisabled()
    clean()
  })

  it('are proposed in the margin for what the findings would set aside, at one press', async () => {
    const findings = answers['GET /api/tables/5/findings'] as { findings: object[] }
    const found = { key: 'x', severity: 'low', short: '', sentence: '', rows: [], remedies: [], dismissed: null }
    instead['GET /api/tables/5/findings'] = {
      status: 200,
      body: {
        ...findings,
        findings: [
          { ...found, sort: 'constant', columns: ['slot'] },
          { ...found, sort: 'near copy', columns: ['tenure', 'district'] },
          { ...found, sort: 'near constant', columns: ['job_type'], dismissed: { reason: 'needed', who: 'M', at: '2026-01-01' } },
          { ...found, sort: 'constant', columns: ['depot'] },
        ],
      },
    }
    open('/study/2/preparation')
    await userEvent.click(await button(/Margin notes/))
    await says('2 columns might be set aside')
    await says('slot (the same everywhere), district (nearly a copy).')
    await userEvent.click(await button('See what that costs'))
    await waitFor(() => expect(asked()).toMatchObject({ step: 'set_aside', columns: ['slot', 'district'] }))
  })

  it('ask again with each setting, and only for those that matter', async () => {
    open(drafted({ step: 'fill_missing', columns: ['contact_channel'], method: 'median' }))
    await userEvent.click(await button('with: median'))
    expect(screen.queryByLabelText('the value')).toBeNull()
    await userEvent.click(screen.getByRole('menuitem', { name: 'constant' }))
    await userEvent.type(await screen.findByLabelText('the value'), 'phone{Enter}')
    await waitFor(() => expect(asked()).toMatchObject({ method: 'constant', constant: 'phone' }))
    await userEvent.click(screen.getByLabelText(/^boiler_make/))
    await waitFor(() => expect(asked()?.columns).toEqual(['contact_channel', 'boiler_make']))
    await userEvent.click(await button('Columns: these'))
    await userEvent.click(screen.getByRole('menuitem', { name: /every one with missing cells/ }))
    await waitFor(() => expect(asked()).toMatchObject({ columns: [], choose: { kinds: [], missing: true } }))
    await userEvent.click(await button('Kind of columns: any'))
    await userEvent.click(screen.getByRole('menuitem', { name: 'category' }))
    await waitFor(() => expect(asked()).toMatchObject({ choose: { kinds: ['category'], missing: true } }))
    await says('Now contact_channel.')
    await userEvent.click(screen.getByRole('button', { name: 'Apply step 3' }))
    const put = await request('PUT', '/api/variants/2')
    expect((put.body as { steps: Step[] }).steps[2]).toMatchObject({ step: 'fill_missing', choose: { kinds: ['category'], missing: true } })
  })

  it.each([
    ['7', 7],
    ['7,5', 7.5],
    ['many', 'many'],
    [' ', undefined],
  ])('send %j as it is meant, never as the usual value', async (text, meant) => {
    open(drafted({ step: 'bins', columns: ['days_ahead'], bins: 5 }))
    const box = await screen.findByLabelText('how many', {}, { timeout: 8000 })
    await userEvent.clear(box)
    await userEvent.type(box, `${text}{Enter}`)
    await waitFor(() => expect(asked()?.bins).toBe(meant))
  })

  it('show the rows they change', async () => {
    open(drafted({ step: 'fill_missing', columns: ['contact_channel'], method: 'median' }))
    const rows = await screen.findByRole('table', { name: 'Some of the rows it changes' }, { timeout: 8000 })
    expect(within(rows).getAllByRole('row')).toHaveLength(3)
    expect(rows).toHaveTextContent('– →')
    await says('2 cells of rows that stay are written anew.')
  })

  it('recode values line by line; an empty second one makes missing', async () => {
    open(drafted({ step: 'recode', column: 'tenure', pairs: [['tenant', '']] }))
    const table = await screen.findByRole('table', { name: 'Recoded values' }, { timeout: 8000 })
    expect(within(table).getByLabelText('Value 2 becomes')).toBeDisabled()
    await userEvent.type(within(table).getByLabelText('Value 2'), 'owner{Enter}')
    await userEvent.type(await within(table).findByLabelText('Value 2 becomes'), 'owns{Enter}')
    await waitFor(() =>
      expect(asked()?.pairs).toEqual([
        ['tenant', ''],
        ['owner', 'owns'],
      ]),
    )
    await userEvent.clear(within(table).getByLabelText('Value 1'))
    await userEvent.tab()
    await waitFor(() => expect(asked()?.pairs).toEqual([['owner', 'owns']]))
  })

  it('keep rows by a sentence whose words are changed', async () => {
    open(drafted({ step: 'keep_rows', where: [['tenure', 'is', 'owner']] }))
    await userEvent.click(await button('Relation 1: is'))
    await userEvent.click(screen.getByRole('menuitem', { name: 'is not' }))
    await waitFor(() => expect(asked()?.where).toEqual([['tenure', 'is not', 'owner']]))
  })

  it('take a formula, complete its words, and show where it is wrong', async () => {
    instead['POST /api/variants/2/preview'] = withThird({
      step: 'formula',
      toll: null,
      sentence: null,
      problem: 'At letter 5: There is no column days_ahea; did you mean days_ahead?',
    })
    open(drafted({ step: 'formula', name: 'far', formula: '1 + days_ahea' }))
    await says('Cannot be done. At letter 5: There is no column days_ahea')
    const box = screen.getByLabelText('Formula')
    expect(document.querySelector('pre b')).toHaveTextContent('days_ahea')
    await userEvent.type(box, '{Backspace}')
    expect(screen.getByRole('list', { name: 'Completions' })).toHaveTextContent('days_ahead')
    await userEvent.tab()
    expect(box).toHaveValue('1 + days_ahead')
    await userEvent.type(box, 'rou', { initialSelectionStart: 0, initialSelectionEnd: 0 })
    await userEvent.tab()
    expect(box).toHaveValue('round(1 + days_ahead')
    await userEvent.type(box, '{Backspace>6/}', { initialSelectionStart: 6, initialSelectionEnd: 6 })
    instead['POST /api/variants/2/preview'] = withThird({ step: 'formula', problem: null })
    await userEvent.type(box, '{Enter}')
    await waitFor(() => expect(asked()).toMatchObject({ formula: '1 + days_ahead' }))
    await waitFor(() => expect(screen.getByRole('button', { name: 'Apply step 3' })).toBeEnabled())
    await userEvent.click(await button('What can stand in it'))
    await says('round(x, digits)')
  })

  it('cut bins where they are put, with the keys too', async () => {
    instead['POST /api/variants/2/preview'] = withThird({ step: 'bins' }, { look: { ...preview.look, look: null, bins: answers.bins } })
    open(drafted({ step: 'bins', columns: ['days_ahead'], method: 'own cut points', cuts: [3, 9] }))
    const first = await screen.findByRole('slider', { name: 'Cut 1 of days_ahead' }, { timeout: 8000 })
    expect(screen.getByRole('table', { name: 'Bins' })).toHaveTextContent('over 3 to 9')
    first.focus()
    await userEvent.keyboard('{ArrowRight}')
    await waitFor(() => expect((asked()?.cuts as number[])[0]).toBeGreaterThan(3))
    fireEvent.keyDown(screen.getByRole('slider', { name: 'Cut 2 of days_ahead' }), { key: 'Delete' })
    await waitFor(() => expect(asked()?.cuts).toHaveLength(1))
  })

  it('show ways to treat what is missing, and take the one that is chosen', async () => {
    const ways = [
      { method: 'drop rows', rowsLost: 1175, error: null, spread: 1 },
      { method: 'median', rowsLost: 0, error: 4.9, spread: 0.9 },
      { method: 'by model', rowsLost: 0, error: 4.4, spread: 0.95 },
    ]
    instead['POST /api/variants/2/preview'] = withThird({}, { look: { ...preview.look, ways } })
    open(drafted({ step: 'fill_missing', columns: ['boiler_age'], method: 'median' }))
    const table = await screen.findByRole('table', { name: 'Ways to treat it' }, { timeout: 8000 })
    expect(table).toHaveTextContent('drop rows−1,175–100%')
    expect(within(table).getByLabelText('median')).toBeChecked()
    await userEvent.click(within(table).getByLabelText('by model'))
    await waitFor(() => expect(asked()).toMatchObject({ step: 'fill_missing', columns: ['boiler_age'], method: 'by model' }))
    await userEvent.click(within(table).getByLabelText('drop rows'))
    await waitFor(() => expect(asked()).toEqual({ step: 'drop_rows', columns: ['boiler_age'] }))
  })

  it('take another order when it does less harm', async () => {
    const steps = [
      { step: 'fill_missing', columns: ['boiler_age'], method: 'median' },
      { step: 'drop_rows', columns: ['boiler_age'] },
    ]
    const says2 = 'Filling first, step 2 before step 1, would keep 1,174 rows that are lost now.'
    instead['POST /api/variants/2/preview'] = withThird({}, { advice: [{ says: says2, steps, rows: 1174, cells: 0 }] })
    open(drafted({ step: 'fill_missing', columns: ['boiler_age'] }))
    await says(says2)
    await userEvent.click(await button('Do it that way'))
    expect((await request('PUT', '/api/variants/2')).body).toEqual({ steps })
  })

  it('are copied, and moved by dragging', async () => {
    open('/study/2/preparation')
    await userEvent.click(await button('Copy step 1'))
    const puts = () => sent.filter((s) => s.method === 'PUT').map((s) => (s.body as { steps: Step[] }).steps.map((t) => t.step))
    await waitFor(() => expect(puts()).toEqual([['set_aside', 'set_aside', 'fill_missing']]))
    const lines = document.querySelectorAll('li[draggable=true]')
    fireEvent.dragStart(lines[1]!, { dataTransfer: { effectAllowed: '' } })
    fireEvent.dragOver(lines[0]!)
    fireEvent.drop(lines[0]!)
    await waitFor(() => expect(puts()).toHaveLength(2))
    expect(puts()[1]).toEqual(['fill_missing', 'set_aside'])
  })
})

describe('a step that is being written', () => {
  const variants = () => answers['GET /api/studies/2/preparation'] as { variants: object[] }
  /** An answer that comes when the test says so. */
  const held = () => {
    let answer: (body: object) => void = () => undefined
    instead['PUT /api/variants/2'] = { status: 200, body: new Promise((done) => (answer = done)) }
    return (body: object) => answer(body)
  }
  const puts = () => sent.filter((s) => s.method === 'PUT').map((s) => (s.body as { steps: Step[] }).steps.map((t) => t.step))
  const add = async (title: string) => {
    await userEvent.click(await button('Add a step…'))
    await userEvent.click(screen.getAllByRole('menuitem').find((i) => i.textContent?.startsWith(title))!)
    await screen.findByRole('heading', { level: 2, name: title }, { timeout: 8000 })
  }
  const [first, second] = [kinds.find((k) => k.step === 'drop_duplicates') ?? kinds[0]!, kinds.find((k) => k.step === 'fill_missing')!]

  it('closes once it is kept', async () => {
    const answer = held()
    open(drafted({ step: second.step, columns: ['boiler_age'] }))
    await userEvent.click(await button('Apply step 3'))
    await waitFor(() => expect(puts()).toHaveLength(1))
    answer(variants().variants[0]!)
    await waitFor(() => expect(screen.queryByRole('heading', { level: 2, name: second.title })).toBeNull())
  })

  it('stays when another change was kept meanwhile, at the place that it has then', async () => {
    const variant = variants().variants[0] as { steps: object[] }
    const answer = held()
    open('/study/2/preparation')
    await userEvent.click(await button('Copy step 1'))
    await waitFor(() => expect(puts()).toHaveLength(1))
    await add(first.title)
    expect(screen.getByRole('button', { name: 'Apply step 3' })).toBeInTheDocument()
    const longer = { ...variant, steps: [variant.steps[0]!, ...variant.steps] }
    instead['GET /api/studies/2/preparation'] = { status: 200, body: { ...variants(), variants: [longer] } }
    answer(longer)
    await button('Apply step 4')
    expect(screen.getByRole('heading', { level: 2, name: first.title })).toBeInTheDocument()
    // What it costs is asked for below all that is there now.
    await waitFor(() => expect((sent.filter((s) => s.path.endsWith('/preview')).at(-1)?.body as { look: number }).look).toBe(3))
  })

  it.each([
    [1, 'Apply step 1'],
    [2, null],
  ])('of those that are there is where that one is now, step %d gone: %s', async (gone, place) => {
    const variant = variants().variants[0] as { steps: object[] }
    const answer = held()
    open('/study/2/preparation')
    await userEvent.click(await button(`Remove step ${gone}`))
    await waitFor(() => expect(puts()).toHaveLength(1))
    await userEvent.click(await button('Edit step 2'))
    await button('Apply step 2')
    const shorter = { ...variant, steps: variant.steps.filter((_, i) => i !== gone - 1) }
    instead['GET /api/studies/2/preparation'] = { status: 200, body: { ...variants(), variants: [shorter] } }
    answer(shorter)
    if (place !== null) await button(place)
    else await waitFor(() => expect(screen.queryByRole('button', { name: /^Apply step/ })).toBeNull())
  })
})

describe('variants', () => {
  it('are read from a file of steps, and say what is wrong with another', async () => {
    instead['POST /api/studies/2/variants'] = { status: 201, body: { ...stored.variants[0], letter: 'B' } }
    open('/study/2/preparation')
    await heading(/Preparation/)
    const input = await screen.findByTestId('steps-file')
    const file = (text: string) => new File([text], 'steps.json', { type: 'application/json' })
    await userEvent.upload(input, file('{"steps": 5}'))
    await says('The file holds no steps')
    await userEvent.upload(input, file('not json'))
    await says('This is not a JSON file.')
    await userEvent.upload(input, file('{"name": "Kept", "steps": [{"step": "set_aside", "columns": ["depot"]}]}'))
    expect((await request('POST', '/api/studies/2/variants')).body).toEqual({
      name: 'Kept',
      steps: [{ step: 'set_aside', columns: ['depot'] }],
    })
  })

  it('stand side by side with what differs', async () => {
    const two = { ...stored, variants: [stored.variants[0], { ...stored.variants[0], id: 3, letter: 'B', name: 'Drop incomplete' }] }
    instead['GET /api/studies/2/preparation'] = { status: 200, body: two }
    const beside = (letter: string, rows: number, trials: object[]) => ({
      id: letter === 'A' ? 2 : 3,
      letter,
      name: letter,
      steps: 2,
      rows,
      columns: 2,
      missing: 0,
      problem: null,
      trials,
    })
    instead['GET /api/studies/2/preparation/compare'] = {
      status: 200,
      body: {
        rowsBefore: 6000,
        approximate: false,
        variants: [
          beside('A', 6000, [
            {
              id: 3,
              number: 2,
              learner: 'logistic',
              title: 'Logistic regression',
              size: '31 terms',
              measure: 'AUC',
              value: 0.7312,
              low: 0.71,
              high: 0.752,
              stale: true,
            },
          ]),
          beside('B', 4824, []),
        ],
        columns: [
          { name: 'km', kinds: ['number', 'category'], missing: [0, 0], labels: [['0 to 5'], ['low']], counts: [[6], [5]] },
          { name: 'slot', kinds: ['category', 'category'], missing: [0, 0], labels: [['x'], ['x']], counts: [[3], [3]] },
          { name: 'age', kinds: ['number', null], missing: [12, null], labels: [['0 to 9'], []], counts: [[3], []] },
        ],
      },
    }
    open('/study/2/preparation')
    await waitFor(() => expect(screen.getByRole('button', { name: 'Variants…' })).toBeEnabled(), { timeout: 8000 })
    await userEvent.click(screen.getByRole('button', { name: 'Variants…' }))
    await userEvent.click(screen.getByRole('menuitem', { name: 'Compare side by side' }))
    await heading(/Variants side by side/)
    expect(where()).toBe('/study/2/preparation?compare=A%2CB')
    await says('A keeps 6,000; B keeps 4,824 of 6,000 rows. 2 of 3 columns differ.')
    const table = screen.getByRole('table', { name: 'Variants' })
    expect(table).toHaveTextContent('0.731 (0.710 to 0.752) trial 2, logistic regression stale')
    expect(table).toHaveTextContent('not tried yet: plan a trial')
    expect(table).toHaveTextContent('not there')
    expect(table).not.toHaveTextContent('slot')
    await userEvent.click(screen.getByLabelText('also columns that are the same'))
    expect(table).toHaveTextContent('slot')
    // What is stale, or was never tried, is tried with both.
    instead['POST /api/studies/2/trials'] = { status: 202, body: job }
    await userEvent.click(await button('Try quick models on each'))
    await waitFor(() =>
      expect(
        sent.filter((r) => r.method === 'POST' && r.path.endsWith('/trials')).map((r) => (r.body as { learner: string }).learner),
      ).toEqual(['logistic', 'tree', 'logistic', 'tree']),
    )
    await userEvent.click(await button('Back to the steps'))
    await heading(/Preparation/)
  })
})
