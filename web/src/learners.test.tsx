import { type Judgment, type Section } from './data/judgment'
import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { answers, button, clean, heading, instead, job, open, request, says, sent, standIn, where } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

type Tree = { tree: { leaves: { node: number; verdict: string; share: number | null }[]; branches: unknown[]; judged: boolean } }
const tree = answers['GET /api/trials/9/tree'] as Tree
const judgment = answers['GET /api/trials/1/judgment'] as Judgment
const event = answers['event figures'] as Extract<Section, { kind: 'event' }>
/** That learner is ticked, and no other. */
async function only(name: string) {
  await userEvent.click(await screen.findByRole('checkbox', { name }, { timeout: 8000 }))
  await userEvent.click(screen.getByRole('checkbox', { name: 'Logistic regression' }))
}

/** The same page with one more section, or another of its kind. */
const withSection = (of: Judgment, section: Section): Judgment => ({
  ...of,
  sections: [...of.sections.filter((s) => s.kind !== section.kind), section],
})

describe('a trial', () => {
  it('is planned with settings of its learner, and sends only what was changed', async () => {
    instead['POST /api/studies/2/trials'] = { status: 202, body: job }
    instead['GET /api/jobs/31'] = { status: 200, body: job }
    open('/study/2/trials')
    await only('Gradient boosting')
    await says(/how long is not known before a first one/)
    const rate = screen.getByLabelText('Learning rate')
    expect(rate).toHaveValue('0.05')
    await userEvent.clear(rate)
    await userEvent.type(rate, '0,1{Enter}')
    expect(screen.queryByRole('button', { name: /For a number, make small/ })).toBeNull()
    await userEvent.click(screen.getByRole('button', { name: /^Rare classes: / }))
    await userEvent.click(screen.getByRole('menuitem', { name: 'weighted up' }))
    // Another learner is looked at; what was set is kept.
    await userEvent.click(screen.getByRole('button', { name: 'Settings of Random forest' }))
    await userEvent.click(screen.getByLabelText('Draw the cuts too'))
    await userEvent.click(screen.getByRole('button', { name: 'Settings of Gradient boosting' }))
    expect(screen.getByLabelText('Learning rate')).toHaveValue('0.1')
    await userEvent.click(await button('Run this trial'))
    expect(await button('Fitting…')).toBeDisabled()
    const post = await request('POST', '/api/studies/2/trials')
    expect(post.body).toMatchObject({ learner: 'boosting', settings: { rate: 0.1, balance: 'weighted up' } })
    await userEvent.click(screen.getByRole('button', { name: 'Set all 2 back as usual' }))
    expect(screen.getByLabelText('Learning rate')).toHaveValue('0.05')
  })

  it('is told how long it will take, from earlier ones', async () => {
    open('/study/2/trials')
    await screen.findByRole('checkbox', { name: 'Logistic regression' }, { timeout: 8000 })
    await says(/about 3 s\. The seal stays closed/)
    // 2 of 6,000 rows lack a value, so some 2 of the 4,800 open ones.
    await says(/about 4,798 of them with a value in every column/)
  })

  it('says on the spot which setting was refused', async () => {
    instead['POST /api/studies/2/trials'] = {
      status: 422,
      body: { title: '"Questions in a row, at most" is a whole number from 0 to 60.', status: 422 },
    }
    open('/study/2/trials')
    await only('Decision tree')
    await userEvent.clear(screen.getByLabelText('Questions in a row, at most'))
    await userEvent.type(screen.getByLabelText('Questions in a row, at most'), 'deep')
    await userEvent.click(await button('Run this trial'))
    await says('"Questions in a row, at most" is a whole number from 0 to 60.')
    expect(sent.find((s) => s.method === 'POST')?.body).toMatchObject({ settings: { depth: 'deep' } })
  })

  it('that chose its columns shows each step, and what it weighed', async () => {
    const none = { rss: null, cp: null, training: null, held: null, p: null }
    const choice = [
      { ...none, action: 'start', column: null, value: 595.9, columns: [], weighed: [] },
      {
        ...none,
        action: 'enter',
        column: 'days_ahead',
        value: 566.6,
        training: 0.51,
        held: 0.52,
        columns: ['days_ahead'],
        weighed: [
          { action: 'none', what: 'nothing', value: 595.9 },
          { action: 'enter', what: 'travel_km', value: 590.1 },
          { action: 'enter', what: 'days_ahead', value: 566.6 },
        ],
      },
      { ...none, action: 'stop', column: null, value: 566.6, columns: [], weighed: [] },
    ]
    instead['GET /api/trials/1/judgment'] = { status: 200, body: withSection(judgment, { kind: 'choice', by: 'BIC', steps: choice }) }
    open('/study/2/judgment/1')
    const steps = await screen.findByRole('table', { name: 'Choice of columns' }, { timeout: 8000 })
    expect(within(steps).getAllByRole('row')[2]).toHaveTextContent('2days_ahead enters566.60.510.52days_aheadweighed 3')
    expect(within(steps).getByRole('columnheader', { name: 'BIC' })).toBeVisible()
    expect(within(steps).queryByRole('columnheader', { name: 'Cp' })).toBeNull()
    await says('1 column was chosen in 3 steps')
    await userEvent.click(within(steps).getByRole('button', { name: 'weighed 3' }))
    const weighed = within(screen.getByRole('list', { name: 'What was weighed' })).getAllByRole('listitem')
    expect(weighed.map((w) => w.textContent)).toEqual(['days_ahead in 566.6', 'travel_km in 590.1', 'leave all as it is 595.9'])
    clean()
  })

  it('says where records count by a weight, before and after', async () => {
    const table = answers['GET /api/tables/5'] as { columns: { name: string }[] }
    const columns = table.columns.map((c) => (c.name === 'days_ahead' ? { ...c, use: 'weight' } : c))
    instead['GET /api/tables/5'] = { status: 200, body: { ...table, columns } }
    open('/study/2/trials')
    await says('Records count by days_ahead, while learning and in the figure that ranks trials.')
  })

  it('that counted records by a weight says so beside its figures', async () => {
    const trial = { ...judgment.trial, weight: 'days_ahead', weightless: 12 }
    instead['GET /api/trials/1/judgment'] = { status: 200, body: { ...judgment, trial } }
    open('/study/2/judgment/1')
    await says(/At a cut-off of/)
    await userEvent.keyboard('n')
    await says('Records count by days_ahead')
    await says('12 open rows have no weight above 0: they taught nothing.')
  })

  it('that compared the best subsets shows each size with its Cp', async () => {
    const of = (columns: string[], value: number, cp: number) => ({
      action: 'best of size',
      column: null,
      p: null,
      value,
      training: 1.5,
      held: 1.6,
      rss: 900,
      cp,
      columns,
      weighed: [{ action: 'best of size', what: columns.join(', ') || 'nothing', value }],
    })
    const choice = [of([], 50, 31.5), of(['a'], 20, 8.2), of(['a', 'b'], 21, 3), { ...of(['a'], 20, 8.2), action: 'choose', weighed: [] }]
    instead['GET /api/trials/1/judgment'] = { status: 200, body: withSection(judgment, { kind: 'choice', by: 'AIC', steps: choice }) }
    open('/study/2/judgment/1')
    const rows = within(await screen.findByRole('table', { name: 'Choice of columns' }, { timeout: 8000 })).getAllByRole('row')
    expect(rows).toHaveLength(4)
    expect(rows[1]).toHaveTextContent('050.01.51.690031.5none')
    expect(rows[2]).toHaveTextContent('120.01.51.69008.2+ a, taken')
    expect(rows[3]).toHaveTextContent('221.01.51.69003+ b')
    await says('1 column was chosen among the best subsets of 3 sizes')
  })

  it('is ranked by five curves of the same cut-offs, told in tenths, and its chances are held against what came', async () => {
    instead['GET /api/trials/1/judgment'] = { status: 200, body: withSection(judgment, answers['event figures'] as Section) }
    open('/study/2/judgment/1')
    const curves = within(await screen.findByRole('group', { name: 'Curves' }, { timeout: 8000 }))
    const value = (key: string) => event.figures.find((f) => f.figure.key === key)!.interval.value!.toFixed(3)
    const titles: [RegExp, RegExp][] = [
      [new RegExp(`Precision ?${value('averagePrecision')}`), /^To catch half, \d+ of 100 calls are right$/],
      [/Gains, 10% ?\d+/, /^The first tenth holds \d+ of 100/],
      [/Lift, 10% ?\d\.\d/, /^In the first tenth the event is \d\.\d times as frequent$/],
      [new RegExp(`KS ?${value('ks')}`), /^It parts both best at a cut-off of \d+%$/],
      [/ROC ?0\.\d{3}/, /^It ranks better than doing nothing$/],
    ]
    for (const [name, title] of titles) {
      await userEvent.click(curves.getByRole('button', { name }))
      expect(screen.getByRole('heading', { name: title })).toBeVisible()
    }
    expect(where()).not.toContain('curve')
    const tenths = within(screen.getByRole('table', { name: 'Tenths of the rows' })).getAllByRole('row')
    expect(tenths).toHaveLength(11)
    const first = event.tenths[0]!
    expect(tenths[1]).toHaveTextContent(`1${first.events}${(100 * first.rate).toFixed(1)}%`)
    expect(tenths[1]).toHaveTextContent(`${first.lift!.toFixed(2)}${(100 * (first.caught ?? 0)).toFixed(0)}%`)
    expect(screen.getByRole('heading', { name: /^The first \d tenths are above average$/ })).toBeVisible()
    expect(screen.getByRole('heading', { name: 'Its chances hold good' })).toBeVisible()
    clean()
  })

  it('of before has no tenths and no intervals of later, and is shown all the same', async () => {
    instead['GET /api/trials/1/judgment'] = { status: 200, body: withSection(judgment, { ...event, tenths: [] }) }
    open('/study/2/judgment/1')
    const figures = within(await screen.findByRole('table', { name: 'Figures' }, { timeout: 8000 }))
    expect(figures.getByRole('row', { name: /^KS/ })).toBeVisible()
    expect(screen.queryByRole('table', { name: 'Tenths of the rows' })).toBeNull()
    clean()
  })

  it('is judged group by group, by the column that is asked for', async () => {
    const groupwise = answers['GET /api/trials/1/groups'] as { groups: { name: string; events: number; rows: number }[] }
    const worse = ['no heat', 'part fitting', 'controls']
    instead['GET /api/trials/1/groups'] = { status: 200, body: { ...groupwise, worse } }
    open('/study/2/judgment/1')
    const groups = await screen.findByRole('table', { name: 'Figures by job_type' }, { timeout: 8000 })
    expect(screen.getByRole('heading', { name: '3 of 6 groups are judged worse than the others' })).toBeVisible()
    expect(within(groups).getByRole('row', { name: /^controls/ })).toHaveTextContent(
      `controls${groupwise.groups.find((g) => g.name === 'controls')!.rows}`,
    )
    expect(within(groups).getAllByRole('row').at(-1)).toHaveTextContent('All4,798')
    await userEvent.click(screen.getByRole('button', { name: 'Column: job_type' }))
    await userEvent.click(screen.getByRole('menuitem', { name: 'tenure' }))
    await waitFor(() => expect(sent.some((s) => s.path === '/api/trials/1/groups' && s.query.includes('by=tenure'))).toBe(true))
    instead['GET /api/trials/1/groups'] = { status: 409, body: { title: 'Trial 1 was fitted on other rows.', status: 409 } }
    await userEvent.click(screen.getByRole('button', { name: /^Column:/ }))
    await userEvent.click(screen.getByRole('menuitem', { name: 'slot' }))
    await says('Trial 1 was fitted on other rows.')
  })

  it('of many trees shows what it leans on and where its error was least', async () => {
    instead['GET /api/trials/1/judgment'] = { status: 200, body: withSection(judgment, answers.boost as Section) }
    open('/study/2/judgment/1')
    const importance = await screen.findByRole('table', { name: 'Importance' }, { timeout: 8000 })
    expect(within(importance).getAllByRole('row').length).toBeGreaterThan(10)
    await says(/columns do half of the work, \w+ most/)
    await says(/Least error near \d+ trees/)
    expect(screen.getByRole('img', { name: 'log loss by number of trees' })).toBeVisible()
  })
})

describe('a tree', () => {
  it('is read leaf by leaf, with a verdict on each', async () => {
    open('/study/2/reasons/tree?trial=9')
    await heading(/The tree/)
    const leaves = await screen.findByRole('table', { name: 'Leaves' }, { timeout: 8000 })
    expect(within(leaves).getAllByRole('row')).toHaveLength(1 + tree.tree.leaves.length)
    await says(`${tree.tree.leaves.length} leaves, ${tree.tree.leaves.filter((l) => l.verdict === 'Sound').length} sound.`)
    await says('rows that did not grow the tree')
    const first = within(leaves).getAllByRole('button')[0]!
    await userEvent.click(first)
    expect(first).toHaveAttribute('aria-pressed', 'true')
    await userEvent.click(await button('Take it elsewhere…'))
    expect(screen.getByRole('menuitem', { name: /condition of SQL/ })).toHaveAttribute('href', '/api/trials/9/tree/file?as=sql')
    await userEvent.keyboard('{Escape}')
    await userEvent.click(await button('Highest share first'))
    const shares = within(screen.getByRole('table', { name: 'Leaves' }))
      .getAllByRole('button')
      .map((b) => Number(/(\d+) in 100/.exec(b.textContent ?? '')?.[1] ?? -1))
    expect(shares).toEqual([...shares].sort((a, b) => b - a))
    await clean()
  })

  it('leads from a leaf to the records that end there', async () => {
    const node = tree.tree.leaves[0]!.node
    instead['GET /api/trials/9/tree/leaf'] = { status: 200, body: { node, total: 2345, numbers: [3, 8, 12] } }
    const page = open('/study/2/reasons/tree?trial=9')
    const leaves = await screen.findByRole('table', { name: 'Leaves' }, { timeout: 8000 })
    await userEvent.click(within(leaves).getAllByRole('button')[0]!)
    await says('2,345 open records end here. Open the first 3')
    expect(sent.find((s) => s.path === '/api/trials/9/tree/leaf')?.query).toBe(`?node=${node}`)
    expect(screen.getByRole('link', { name: 'Open the first 3' }).getAttribute('href')).toMatch(/rows\?only=3,8,12$/)
    page.unmount()
    instead['GET /api/trials/9/tree/leaf'] = { status: 409, body: { title: 'The table has changed since trial 9 was fitted.' } }
    open('/study/2/reasons/tree?trial=9')
    await userEvent.click(within(await screen.findByRole('table', { name: 'Leaves' }, { timeout: 8000 })).getAllByRole('button')[0]!)
    await says('The table has changed since trial 9 was fitted.')
    clean()
  })

  it('of a number has means for leaves, held against the mean of all', async () => {
    const leaves = tree.tree.leaves.map((l, i) => ({
      ...l,
      events: 0,
      share: i === 1 ? null : 50 + i,
      low: i === 1 ? null : 48 + i,
      high: 52.5 + i,
    }))
    const body = {
      ...tree,
      task: 'number',
      event: null,
      target: 'minutes_on_site',
      cutoff: null,
      tree: { ...tree.tree, leaves, events: 0, average: 51.2 },
    }
    instead['GET /api/trials/9/tree'] = { status: 200, body }
    open('/study/2/reasons/tree?trial=9')
    const lines = within(await screen.findByRole('table', { name: 'Leaves' }, { timeout: 8000 })).getAllByRole('row')
    expect(lines[1]).toHaveTextContent('5048 to 52.5')
    expect(lines[2]).toHaveTextContent('no row to judge by')
    await says('the mean of all is 51.2')
    await says('interval wider than half a standard deviation')
    await userEvent.click(screen.getByRole('button', { name: 'Highest mean first' }))
    expect(
      within(screen.getByRole('table', { name: 'Leaves' }))
        .getAllByRole('row')
        .at(-1),
    ).toHaveTextContent('no row to judge by')
    clean()
  })

  it('of several classes says which one each leaf names', async () => {
    const leaves = tree.tree.leaves.map((l, i) => ({ ...l, named: i % 2 ? 'leak' : 'noise' }))
    const body = { ...tree, task: 'several classes', event: null, cutoff: null, tree: { ...tree.tree, leaves, average: null } }
    instead['GET /api/trials/9/tree'] = { status: 200, body }
    open('/study/2/reasons/tree?trial=9')
    const lines = within(await screen.findByRole('table', { name: 'Leaves' }, { timeout: 8000 })).getAllByRole('row')
    expect(lines[1]).toHaveTextContent(/1“noise”: .* in 100/)
    await says('interval crosses the average share')
    clean()
  })

  it('that kept no row back says that its figures flatter it', async () => {
    instead['GET /api/trials/9/tree'] = { status: 200, body: { ...tree, tree: { ...tree.tree, judged: false } } }
    open('/study/2/reasons/tree?trial=9')
    await says('they flatter it')
    await userEvent.click(await button('Sentences only'))
    expect(await button('Show the questions')).toBeEnabled()
  })

  it('that is none is said, and one that is not there leads to the plan', async () => {
    instead['GET /api/trials/9/tree'] = { status: 404, body: { title: 'Trial 9 is no decision tree.', status: 404 } }
    const first = open('/study/2/reasons/tree?trial=9')
    await says('Trial 9 is no decision tree.')
    first.unmount()
    open('/study/2/reasons/tree')
    await waitFor(() => expect(screen.getByRole('link', { name: 'Plan a trial' })).toHaveAttribute('href', '/study/2/trials'))
  })
})
