import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import type { View } from './api/client'
import type { Effect, Imagined, Matters, Reach, Reasons } from './data/reasons'
import { answers, button, clean, heading, instead, job, open, request, says, sent, standIn, where } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

const matters = answers['GET /api/trials/1/matters'] as Matters
const effect = answers['GET /api/trials/1/effect'] as Effect
const reasons = answers['GET /api/trials/1/reasons/3'] as Reasons
const imagined = answers['POST /api/trials/1/reasons/3/imagine'] as Imagined
const reach = answers['POST /api/trials/1/reasons/3/reach'] as Reach
const RECORD = '/study/2/reasons?trial=1&record=3'
const paths = () => sent.filter((s) => s.path.includes('/reasons/') || s.path.includes('/effect')).map((s) => s.path)

describe('what matters', () => {
  it('is told column by column, with the effect of the one chosen', async () => {
    open('/study/2/reasons?trial=1')
    await heading(/What matters/)
    const table = within(await screen.findByRole('table', { name: 'What each column matters' }, { timeout: 8000 }))
    expect(table.getAllByRole('row')).toHaveLength(1 + matters.columns.length)
    // Each as a share of its own sum, beside its own unit.
    for (const of of ['lost', 'moved']) {
      const shares = table.getAllByTitle(new RegExp(`of all that is ${of}$`)).map((c) => Number(/^\d+/.exec(c.title)![0]))
      expect(shares).toHaveLength(matters.columns.filter((c) => of === 'moved' || c.lost != null).length)
      expect(Math.abs(shares.reduce((x, y) => x + y, 0) - 100)).toBeLessThan(matters.columns.length)
    }
    await says(effect.says)
    expect(await screen.findByRole('img', { name: effect.says })).toBeVisible()
    await userEvent.click(table.getByRole('button', { name: 'slot' }))
    await waitFor(() => expect(where()).toContain('column=slot'))
    expect(sent.filter((s) => s.path.endsWith('/effect')).at(-1)?.query).toContain('column=slot')
    clean()
  })

  it('names records whose own curve is drawn', async () => {
    open('/study/2/reasons?trial=1')
    await says(effect.says)
    await userEvent.type(screen.getByLabelText('Name a record'), '12{Enter}')
    await waitFor(() => expect(where()).toContain('records=12'))
    await userEvent.type(screen.getByLabelText('Name a record'), '40{Enter}')
    await waitFor(() => expect(sent.filter((s) => s.path.endsWith('/effect')).at(-1)?.query).toContain('records=12%2C40'))
    await userEvent.click(screen.getByRole('button', { name: 'Name none' }))
    await waitFor(() => expect(where()).not.toContain('records'))
  })

  it('shows how far each reaches, as a picture and as a table, and pairs with their map', async () => {
    open('/study/2/reasons?trial=1')
    const spread = await screen.findByRole('table', { name: 'Spread of effects' }, { timeout: 8000 })
    expect(within(spread).getAllByRole('img')[0]).toHaveAccessibleName(/low values .*, high values .* on average/)
    await userEvent.click(screen.getAllByRole('button', { name: 'As a table' }).at(-1)!)
    expect(within(spread).getByRole('columnheader', { name: 'Of high values' })).toBeVisible()
    const pairs = answers['GET /api/trials/1/pairs'] as View<'PairView'>[]
    await says(`${pairs[0]!.one} and ${pairs[0]!.other} do most together`)
    const map = answers['GET /api/trials/1/effect/two'] as View<'TwoEffectsView'>
    const grid = await screen.findByRole('table', { name: `Mean answers by ${map.one} and ${map.other}` })
    expect(within(grid).getAllByRole('row')).toHaveLength(1 + map.up.length)
    const standIns = answers['GET /api/trials/1/stand-ins'] as View<'StandInView'>[]
    await userEvent.click(await button(standIns[0]!.title))
    expect(within(screen.getByRole('list', { name: 'How the stand-in answers' })).getAllByRole('listitem')).toHaveLength(
      standIns[0]!.sentences.length,
    )
    clean()
  })

  const shuffled = {
    measure: matters.trial.measure,
    repeats: 1,
    figures: [matters.trial.measure, { ...matters.trial.measure, key: 'brier', name: 'Brier score', more: false }],
    columns: [],
    groups: [],
    pending: true,
    jobId: null,
  }

  it('is weighed by another figure and more shuffles, and those that go together as one', async () => {
    instead['GET /api/trials/1/shuffled'] = { status: 200, body: shuffled }
    instead['POST /api/trials/1/shuffled'] = { status: 202, body: { ...job, kind: 'shuffled' } }
    open('/study/2/reasons?trial=1')
    expect(await button('Shuffle those that go together as one')).toBeVisible()
    await userEvent.click(await button('Figure that is lost: AUC'))
    await userEvent.click(screen.getByRole('menuitem', { name: 'Brier score' }))
    await userEvent.click(await button('How often: once'))
    await userEvent.click(screen.getByRole('menuitem', { name: '5 times' }))
    await userEvent.click(await button(/^Shuffle by .*, 5 times$/))
    const asked = await request('POST', '/api/trials/1/shuffled')
    expect(asked.query).toBe('?by=brier&repeats=5')
    const first = matters.columns[0]!.column
    const body = {
      ...shuffled,
      measure: shuffled.figures[1],
      repeats: 5,
      pending: false,
      columns: [{ column: first, value: 0.0123, low: 0.01, high: 0.015 }],
      groups: [{ columns: ['boiler_age', 'boiler_class'], value: 0.0456, low: 0.04, high: 0.05 }],
    }
    instead['GET /api/trials/1/shuffled'] = { status: 200, body }
    await userEvent.click(await button('How often: 5 times'))
    await userEvent.click(screen.getByRole('menuitem', { name: '10 times' }))
    const table = within(await screen.findByRole('table', { name: 'Columns that go together' }))
    expect(table.getByRole('row', { name: /boiler_age, boiler_class/ })).toHaveTextContent('0.046')
    const lines = within(screen.getByRole('table', { name: 'What each column matters' }))
    expect(lines.getByRole('row', { name: new RegExp(`^${first}`) })).toHaveTextContent('0.012')
    // What this figure was not asked of says nothing, rather than what another figure lost.
    expect(lines.getByRole('row', { name: new RegExp(`^${matters.columns[1]!.column}`) })).toHaveTextContent('–')
    await says('1 of')
    clean()
  })

  it('says so where no two columns share what they carry, and what was refused', async () => {
    instead['GET /api/trials/1/shuffled'] = { status: 200, body: { ...shuffled, pending: false } }
    const page = open('/study/2/reasons?trial=1')
    await says('No two of these columns go together strongly enough (0.50) to share what they carry.')
    page.unmount()
    instead['GET /api/trials/1/shuffled'] = { status: 200, body: shuffled }
    instead['POST /api/trials/1/shuffled'] = { status: 409, body: { title: 'The table has changed since trial 1 was fitted.' } }
    open('/study/2/reasons?trial=1')
    await userEvent.click(await button('Shuffle those that go together as one'))
    await says('The table has changed since trial 1 was fitted.')
    clean()
  })

  it('tells pairs from chance when asked, and sets back those that are not clear of it', async () => {
    const pairs = answers['GET /api/trials/1/pairs'] as View<'PairView'>[]
    const chance = { most: null, pairs: [], draws: 19, pending: true, jobId: null }
    instead['GET /api/trials/1/pairs/clear'] = { status: 200, body: chance }
    instead['POST /api/trials/1/pairs/clear'] = { status: 202, body: { ...job, kind: 'clear pairs' } }
    const first = open('/study/2/reasons?trial=1')
    await userEvent.click(await button('Tell them from chance'))
    await request('POST', '/api/trials/1/pairs/clear')
    first.unmount()
    const { one, other, beyond } = pairs[0]!
    const told = { ...chance, pending: false, most: 0.0123, pairs: [{ one, other, beyond }] }
    instead['GET /api/trials/1/pairs/clear'] = { status: 200, body: told }
    const second = open('/study/2/reasons?trial=1')
    await says(`${one} with ${other} is clear of chance`)
    await says('fitted 19 times to outcomes in which nothing acts together, no pair came beyond 1.2.')
    const rows = within(screen.getByRole('table', { name: 'Pairs that act together' }))
      .getAllByRole('row')
      .slice(1)
    expect(rows.map((r) => r.className.includes('aside'))).toEqual(rows.map((_, i) => i > 0))
    second.unmount()
    instead['GET /api/trials/1/pairs/clear'] = { status: 200, body: { ...told, pairs: [] } }
    open('/study/2/reasons?trial=1')
    await says('No pair is clear of chance')
    clean()
  })

  it('tells a text by its words', async () => {
    const text = { ...matters.columns[0]!, column: 'booking_note', goes: 'by its words' }
    instead['GET /api/trials/1/matters'] = { status: 200, body: { ...matters, columns: [text, ...matters.columns] } }
    const word = (name: string, moves: number) => ({
      word: `booking_note: ${name}`,
      share: 0.12,
      with: 0.3,
      without: 0.3 - moves,
      moves,
      low: moves - 0.01,
      high: moves + 0.01,
    })
    instead['GET /api/trials/1/effect/words'] = {
      status: 200,
      body: { column: 'booking_note', words: [word('urgent', 0.123), word('key', -0.05), word('hello', 0.001)] },
    }
    const page = open('/study/2/reasons?trial=1&column=booking_note')
    await says('With booking_note: urgent the answer lies 12 points higher')
    const rows = within(await screen.findByRole('table', { name: 'Words of booking_note' })).getAllByRole('row')
    expect(rows.map((r) => r.textContent).slice(1)).toEqual([
      expect.stringMatching(/urgent12%30\.0%17\.7%\+12/),
      expect.stringMatching(/key12%30\.0%35\.0%−5/),
      expect.stringMatching(/hello12%30\.0%29\.9%\+0\.1/),
    ])
    expect(sent.some((s) => s.path.endsWith('/effect') && s.query.includes('booking_note'))).toBe(false)
    clean()
    page.unmount()
    instead['GET /api/trials/1/effect/words'] = { status: 200, body: { column: 'booking_note', words: [] } }
    open('/study/2/reasons?trial=1&column=booking_note')
    await says('This model reads no words made of booking_note alone')
  })

  it('has stand-ins that are read as trees, and that say where they differ', async () => {
    const standIns = answers['GET /api/trials/1/stand-ins'] as View<'StandInView'>[]
    const differs = [
      { number: 12, model: 0.41, standIn: 0.22 },
      { number: 40, model: 0.1, standIn: 0.25 },
    ]
    instead['GET /api/trials/1/stand-ins'] = {
      status: 200,
      body: [
        { ...standIns[0], tree: 0, differs },
        { ...standIns[0], title: 'Sum of few terms: 3 terms', tree: null, differs: [] },
      ],
    }
    instead['GET /api/trials/1/stand-ins/tree'] = {
      status: 200,
      body: {
        ...(answers['GET /api/trials/9/tree'] as View<'TreeView'>),
        trialNumber: 1,
        task: 'number',
        event: null,
        target: 'chance',
        cutoff: null,
      },
    }
    open('/study/2/reasons?trial=1')
    await userEvent.click(await button(standIns[0]!.title))
    await says('They differ most on record 12 (41.0%, stand-in 22.0%), record 40 (10.0%, stand-in 25.0%).')
    expect(screen.getByRole('link', { name: 'record 40' })).toHaveAttribute('href', '/study/2/reasons?trial=1&record=40')
    await userEvent.click(await button('Sum of few terms: 3 terms'))
    expect(screen.queryByRole('link', { name: 'Read it as a tree' })).toBeNull()
    await userEvent.click(await button(standIns[0]!.title))
    await userEvent.click(screen.getByRole('link', { name: 'Read it as a tree' }))
    await heading('A stand-in, as a tree')
    await says(/chance as imitated of trial 1, \d+ leaves/)
    expect(screen.queryByRole('button', { name: 'Take it elsewhere…' })).toBeNull()
    expect(sent.some((s) => s.path === '/api/trials/1/stand-ins/tree' && s.query.includes('size=0'))).toBe(true)
    expect(sent.some((s) => s.path === '/api/trials/1/tree')).toBe(false)
    clean()
  })

  it('is looked at by a worker where nobody has', async () => {
    instead['GET /api/trials/1/matters'] = { status: 200, body: { ...matters, pending: true, columns: [], jobId: null } }
    instead['POST /api/trials/1/matters'] = { status: 202, body: { ...job, kind: 'matters' } }
    open('/study/2/reasons?trial=1')
    await request('POST', '/api/trials/1/matters')
    await says('many answers, to see what matters')
    clean()
  })

  it('says that the two curves disagree, and why', async () => {
    instead['GET /api/trials/1/effect'] = {
      status: 200,
      body: { ...effect, warns: 'The two ways disagree: it goes together with others.' },
    }
    open('/study/2/reasons?trial=1')
    await says(effect.says)
    await userEvent.keyboard('n')
    await says('The two ways disagree: it goes together with others.')
    await says('An effect in a model is no cause')
  })
})

describe('one record', () => {
  it('has an account that adds up, in points and on the model’s own scale', async () => {
    open(RECORD)
    const points = within(await screen.findByRole('table', { name: /in points of chance/ }, { timeout: 8000 }))
    const sums = points.getByRole('row', { name: /^Sums, and the chance/ })
    const [lowers, , raises] = within(sums).getAllByRole('cell').slice(1)
    expect(Number(raises!.textContent) - Number(lowers!.textContent)).toBeCloseTo(100 * reasons.account!.answer, 0)
    await userEvent.click(screen.getByRole('button', { name: 'On the model’s own scale' }))
    expect(screen.getByRole('table', { name: /in log-odds/ })).toHaveTextContent('log-odds')
    expect(screen.getByText('of boiler_age').closest('div')).toHaveTextContent('boiler_age_was_missing of boiler_ageno')
    await says(`Of the ${reasons.neighbors.records} most alike, ${reasons.neighbors.hits} had “no access”`)
    clean()
  })

  it('says how it was shared out: exactly, from another scale, or by drawn orders', async () => {
    const account = reasons.account!
    const columns = account.columns.map((c, i) => ({ ...c, own: i === 0 ? 1.25 : 0, error: 0 }))
    for (const [change, said] of [
      [{ orders: 0, error: 0, scale: null, ownBase: null }, 'Shared out exactly.'],
      [
        { orders: 0, error: 0, scale: 'log-odds', ownBase: -1.5, columns },
        'Shared out exactly as log-odds, and from there in proportion to the difference of chances.',
      ],
      [{ orders: 400, error: 0.0008, scale: null, ownBase: null }, 'Shared out by 400 drawn orders, within 0.2 points.'],
    ] as const) {
      instead['GET /api/trials/1/reasons/3'] = { status: 200, body: { ...reasons, contributions: [], account: { ...account, ...change } } }
      const page = open(RECORD)
      await says(said)
      if (change.scale === 'log-odds') {
        await userEvent.click(screen.getByRole('button', { name: 'On the model’s own scale' }))
        // -1.5 and 1.25 are the whole of it, whatever a regression would tell.
        expect(within(screen.getByRole('table', { name: /in log-odds/ })).getByRole('row', { name: /^Sums/ }).textContent).toContain(
          '−0.25',
        )
        await userEvent.click(screen.getByRole('button', { name: 'In points of chance' }))
      } else expect(screen.queryByRole('button', { name: 'On the model’s own scale' })).toBeNull()
      page.unmount()
    }
  })

  it.each([
    ['a number', { ...(answers['number reasons'] as Reasons), path: null }, /In 80 of 100 records like it what comes lies between/],
    [
      'several classes',
      {
        ...reasons,
        task: 'several classes',
        class: 'leak',
        shares: [
          { name: 'leak', chance: 0.6 },
          { name: 'controls', chance: 0.4 },
        ],
        contributions: [],
        account: { ...reasons.account!, class: 'leak' },
        sure: { share: null, records: null, most: null, nearly: null, classes: ['controls', 'leak'] },
      },
      /In 90 of 100 records what comes is in such a set: controls, leak/,
    ],
    ['a tree', { ...reasons, path: 'days_ahead over 9', contributions: [] }, /It comes to this answer by days_ahead over 9/],
    ['no answer', { ...reasons, why: 'not scored: boiler_age is missing', account: null, sure: null }, /gets no answer/],
  ])('of %s is told in its own words', async (_, body, text) => {
    instead['GET /api/trials/1/reasons/3'] = { status: 200, body }
    open(RECORD)
    await says(text)
    clean()
  })
})

describe('records beside each other', () => {
  it('have what each column does to each, and can be taken away', async () => {
    const other = { ...reasons, number: 8, chance: 0.4, account: { ...reasons.account!, answer: 0.4 } }
    instead['GET /api/trials/1/reasons/8'] = { status: 200, body: other }
    instead['GET /api/trials/1/reasons/9'] = { status: 404, body: { title: 'visits has records 1 to 8.' } }
    open(RECORD)
    await userEvent.type(await screen.findByLabelText(/^Set record/, {}, { timeout: 8000 }), '8{Enter}')
    const table = within(await screen.findByRole('table', { name: 'Records side by side' }))
    expect(table.getAllByRole('columnheader').map((h) => h.textContent)).toEqual(['In points', 'Record 3', 'Record 8'])
    expect(table.getByRole('row', { name: /^Answer/ })).toHaveTextContent('40.0%')
    expect(where()).toContain('with=8')
    await userEvent.type(screen.getByLabelText(/^Set record/), '9{Enter}')
    await says('visits has records 1 to 8.')
    await userEvent.click(screen.getByRole('button', { name: 'Take all away' }))
    await waitFor(() => expect(screen.queryByRole('table', { name: 'Records side by side' })).toBeNull())
    clean()
  })
})

describe('what if', () => {
  it('asks anew with each change, counts them, and goes back', async () => {
    open(RECORD)
    const levels = await screen.findByRole('group', { name: 'reminder_sent' }, { timeout: 8000 })
    const other = within(levels)
      .getAllByRole('button')
      .find((b) => b.getAttribute('aria-pressed') === 'false')!
    await userEvent.click(other)
    await waitFor(() => {
      const last = sent.filter((s) => s.path.endsWith('/imagine')).at(-1)?.body as { changes: Record<string, string> }
      expect(Object.keys(last.changes)).toEqual(['reminder_sent'])
    })
    await says(/points with 1 change/)
    await userEvent.click(screen.getByRole('button', { name: 'Keep this version' }))
    expect(within(screen.getByRole('table', { name: 'Versions kept' })).getAllByRole('row')).toHaveLength(2)
    await userEvent.click(screen.getByRole('button', { name: 'As it came' }))
    await waitFor(() => expect(sent.filter((s) => s.path.endsWith('/imagine')).at(-1)?.body).toEqual({ changes: {} }))
    await userEvent.click(screen.getByRole('button', { name: 'Take version a up' }))
    await says(/points with 1 change/)
    clean()
  })

  it('moves a slider by keyboard, and warns of what was hardly ever seen', async () => {
    instead['POST /api/trials/1/reasons/3/imagine'] = { status: 200, body: { ...imagined, after: { ...imagined.after, likeness: 0.004 } } }
    open(RECORD)
    const slider = await screen.findByRole('slider', { name: 'days_ahead' }, { timeout: 8000 })
    slider.focus()
    await userEvent.keyboard('{ArrowRight}')
    await waitFor(() => {
      const last = sent.filter((s) => s.path.endsWith('/imagine')).at(-1)?.body as { changes: Record<string, string> }
      expect(last.changes).toHaveProperty('days_ahead')
    })
    await says('values that were hardly ever seen together')
    expect(paths()).toContain('/api/trials/1/reasons/3/imagine')
  })
})

describe('reach', () => {
  it('asks for what is wanted with what is free, and takes an answer up', async () => {
    open(RECORD)
    await userEvent.click(await button('Change what is free…'))
    const rules = within(screen.getByRole('table', { name: 'What may change' }))
    const free = imagined.inputs.filter((i) => i.kind === 'number')[0]!.column
    await userEvent.click(rules.getByRole('button', { name: `${free} may go: any way` }))
    await userEvent.click(screen.getByRole('menuitem', { name: 'only down' }))
    await userEvent.type(rules.getByLabelText(`${free} at least`), '3')
    await userEvent.clear(screen.getByLabelText('Bound'))
    await userEvent.type(screen.getByLabelText('Bound'), '1.5')
    await userEvent.click(screen.getByRole('button', { name: 'Find changes' }))
    const body = (await request('POST', '/api/trials/1/reasons/3/reach')).body as View<'ReachRequest'>
    expect([body.low, body.high, body.other]).toEqual([null, 0.015, false])
    expect(body.free?.find((f) => f.column === free)).toMatchObject({ way: 'down', least: 3 })
    const found = within(await screen.findByRole('table', { name: 'Changes that reach it' }))
    expect(found.getAllByRole('row')).toHaveLength(2 + reach.found.length)
    expect(screen.getByRole('img', { name: /^All answers/ })).toBeVisible()
    await userEvent.click(found.getByRole('button', { name: 'Take answer a up' }))
    await waitFor(() => {
      const last = sent.filter((s) => s.path.endsWith('/imagine')).at(-1)?.body as { changes: Record<string, string> }
      expect(last.changes).toEqual(Object.fromEntries(reach.found[0]!.changes.map((c) => [c.column, c.to])))
    })
    clean()
  })

  it('lets a column follow others by a formula, and says which of the changes do', async () => {
    const [one, two] = imagined.inputs.filter((i) => i.kind === 'number').map((i) => i.column)
    const first = reach.found[0]!
    const changes = [
      { column: one!, from: '1', to: '4', follows: false },
      { column: two!, from: '2', to: '8', follows: true },
    ]
    instead['POST /api/trials/1/reasons/3/reach'] = { status: 200, body: { ...reach, found: [{ ...first, changes }] } }
    open(RECORD)
    await userEvent.click(await button('Change what is free…'))
    const rules = within(screen.getByRole('table', { name: 'What may change' }))
    await userEvent.click(rules.getByRole('button', { name: `${two} may go: any way` }))
    await userEvent.click(screen.getByRole('menuitem', { name: /^follows/ }))
    expect(rules.getByLabelText(`${two} is free`)).toBeDisabled()
    expect(rules.queryByLabelText(`${two} at least`)).toBeNull()
    await userEvent.type(rules.getByLabelText(`Formula of ${two}`), `2 * ${one}`)
    await says(`By formula: ${two}.`)
    await userEvent.click(screen.getByRole('button', { name: 'Find changes' }))
    const body = (await request('POST', '/api/trials/1/reasons/3/reach')).body as View<'ReachRequest'>
    expect(body.follows).toEqual([{ column: two, formula: `2 * ${one}` }])
    expect(body.free?.map((f) => f.column)).not.toContain(two)
    const found = within(await screen.findByRole('table', { name: 'Changes that reach it' }))
    expect(found.getAllByRole('row').at(-1)).toHaveTextContent(`${one} 4 was 1, ${two} 8 follows, was 2`)
    clean()
  })

  it('shows the nearest where nothing likely enough reaches it, and what was refused', async () => {
    instead['POST /api/trials/1/reasons/3/reach'] = { status: 200, body: { ...reach, found: [], nearest: reach.found[0] } }
    open(RECORD)
    await userEvent.click(await button('Find changes'))
    await says('Nothing likely enough reaches it; this comes nearest:')
    instead['POST /api/trials/1/reasons/3/reach'] = {
      status: 422,
      body: { title: 'Say which answer is wanted: at least, at most, or both.' },
    }
    await userEvent.click(await button('Find changes'))
    await says('Say which answer is wanted')
    clean()
  })
})
