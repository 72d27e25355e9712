import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { answers, button, clean, heading, instead, job, open, request, says, sent, standIn } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

type Tree = { tree: { leaves: { node: number; verdict: string; share: number | null }[]; branches: unknown[]; judged: boolean } }
const tree = answers['GET /api/trials/9/tree'] as Tree
const judgment = answers['GET /api/trials/1/judgment'] as { trial: object }

describe('a trial', () => {
  it('is planned with settings of its learner, and sends only what was changed', async () => {
    instead['POST /api/studies/2/trials'] = { status: 202, body: job }
    instead['GET /api/jobs/31'] = { status: 200, body: job }
    open('/study/2/trials')
    await userEvent.click(await screen.findByRole('radio', { name: 'Gradient boosting' }, { timeout: 8000 }))
    const rate = screen.getByLabelText('Learning rate')
    expect(rate).toHaveValue('0.05')
    await userEvent.clear(rate)
    await userEvent.type(rate, '0,1{Enter}')
    expect(screen.queryByRole('button', { name: /For a number, make small/ })).toBeNull()
    await userEvent.click(screen.getByRole('button', { name: /Rare classes/ }))
    await userEvent.click(screen.getByRole('menuitem', { name: 'weighted up' }))
    // Another learner is looked at; what was set is kept.
    await userEvent.click(screen.getByRole('radio', { name: 'Random forest' }))
    await userEvent.click(screen.getByLabelText('Draw the cuts too'))
    await userEvent.click(screen.getByRole('radio', { name: 'Gradient boosting' }))
    expect(screen.getByLabelText('Learning rate')).toHaveValue('0.1')
    await userEvent.click(await button('Run this trial'))
    const post = await request('POST', '/api/studies/2/trials')
    expect(post.body).toMatchObject({ learner: 'boosting', settings: { rate: 0.1, balance: 'weighted up' } })
    await userEvent.click(screen.getByRole('button', { name: 'Set all 2 back as usual' }))
    expect(screen.getByLabelText('Learning rate')).toHaveValue('0.05')
  })

  it('says on the spot which setting was refused', async () => {
    instead['POST /api/studies/2/trials'] = {
      status: 422,
      body: { title: '"Questions in a row, at most" is a whole number from 0 to 60.', status: 422 },
    }
    open('/study/2/trials')
    await userEvent.click(await screen.findByRole('radio', { name: 'Decision tree' }, { timeout: 8000 }))
    await userEvent.clear(screen.getByLabelText('Questions in a row, at most'))
    await userEvent.type(screen.getByLabelText('Questions in a row, at most'), 'deep')
    await userEvent.click(await button('Run this trial'))
    await says('"Questions in a row, at most" is a whole number from 0 to 60.')
    expect(sent.find((s) => s.method === 'POST')?.body).toMatchObject({ settings: { depth: 'deep' } })
  })

  it('that chose its columns shows each step', async () => {
    const choice = [
      { action: 'start', column: null, p: null, aic: 595.9, columns: [] },
      { action: 'enter', column: 'days_ahead', p: null, aic: 566.6, training: 0.51, held: 0.52, columns: ['days_ahead'] },
      { action: 'stop', column: null, p: null, aic: 566.6, columns: [] },
    ]
    instead['GET /api/trials/1/judgment'] = { status: 200, body: { ...judgment, choice } }
    open('/study/2/judgment/1')
    const steps = await screen.findByRole('table', { name: 'Choice of columns' }, { timeout: 8000 })
    expect(within(steps).getAllByRole('row')[2]).toHaveTextContent('2days_ahead enters566.60.510.52days_ahead')
    await says('1 column was chosen in 3 steps')
  })

  it('of many trees shows what it leans on and where its error was least', async () => {
    instead['GET /api/trials/1/judgment'] = { status: 200, body: { ...judgment, coefficients: [], ...(answers.boost as object) } }
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
    await userEvent.click(await button('Highest share first'))
    const shares = within(screen.getByRole('table', { name: 'Leaves' }))
      .getAllByRole('button')
      .map((b) => Number(/(\d+) in 100/.exec(b.textContent ?? '')?.[1] ?? -1))
    expect(shares).toEqual([...shares].sort((a, b) => b - a))
    await clean()
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
