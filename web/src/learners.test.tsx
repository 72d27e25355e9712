import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import type { Judgment, SectionOf } from './data/judgment'
import { answers, button, clean, instead, job, open, request, says, standIn, where } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

const judgment = answers['GET /api/trials/1/judgment'] as unknown as Judgment
const of = <K extends Judgment['sections'][number]['kind']>(name: string) =>
  (answers as unknown as Record<string, unknown>)[name] as SectionOf<K>
/** A trial's page that shows this part alone. */
const page = (section: Judgment['sections'][number], query = '') => {
  instead['GET /api/trials/1/judgment'] = { status: 200, body: { ...judgment, sections: [section] } }
  open(`/study/2/judgment/1${query}`)
}
const title = (name: string | RegExp) => screen.findByRole('heading', { level: 2, name })
const table = (name: string | RegExp) => screen.findByRole('table', { name })

describe('what a learner learned', () => {
  it('is curves that add up, the one that carries most first; another opens large', async () => {
    const section = of<'curves'>('curves')
    page(section)
    const first = section.curves[0]!
    await title(new RegExp(`^${first.column}`))
    expect(await button(new RegExp(`^${first.column}`))).toHaveAttribute('aria-pressed', 'true')
    const adds = await table(`What ${first.column} adds`)
    expect(within(adds).getAllByRole('row')).toHaveLength(1 + first.points.filter((p) => p.rows > 0).length + (first.missing ? 1 : 0))
    const other = section.curves[1]!
    await userEvent.click(await button(new RegExp(`^${other.column}`)))
    await waitFor(() => expect(where()).toContain(`curve=${other.column}`))
    await table(`What ${other.column} adds`)
    const pair = section.joint[0]!
    await userEvent.click(await button(new RegExp(`^${pair.first}, ${pair.second}`)))
    expect(await table(`What ${pair.first} and ${pair.second} add together`)).toBeVisible()
    expect(screen.getByText(/spread over bags/)).toBeInTheDocument()
    clean()
  })

  it('is a network whose nodes open their tables', async () => {
    const section = of<'network'>('network')
    page(section)
    const node = section.nodes.find((n) => n.parent != null)!
    const ledger = await table(`Table of ${node.column}`)
    expect(within(ledger).getAllByRole('row')).toHaveLength(1 + node.values.length)
    const other = section.nodes.find((n) => n !== node)!
    await userEvent.click(await button(other.column))
    await waitFor(() => expect(where()).toContain(`node=${other.column}`))
    expect(await table(`Table of ${other.column}`)).toBeVisible()
    clean()
  })

  it('is evidence for and against, the loudest first', async () => {
    const section = of<'evidence'>('evidence')
    page(section)
    const ledger = await table('Evidence')
    expect(within(ledger).getAllByRole('row').length).toBeLessThanOrEqual(17)
    expect(ledger).toHaveTextContent(/× \d/)
    if (section.evidence.length > 16) {
      await userEvent.click(await button(`All ${section.evidence.length} values`))
      await waitFor(() =>
        expect(within(screen.getByRole('table', { name: 'Evidence' })).getAllByRole('row')).toHaveLength(1 + section.evidence.length),
      )
    }
    clean()
  })

  it('is neighbors, of which the number that loses least was taken', async () => {
    const section = of<'neighbors'>('neighbors')
    page(section)
    await title(new RegExp(`The ${section.asked} records most like one answer`))
    const least = section.weighed.reduce((a, b) => (b.loss < a.loss ? b : a))
    expect(least.neighbors).toBe(section.asked)
    expect(await table('Numbers of neighbors')).toBeVisible()
  })

  it('is an error that fell epoch by epoch', async () => {
    page(of<'course'>('epochs'))
    await title(/^Least error near \d+ epoch/)
    expect(screen.getByRole('img', { name: /by number of epochs$/ })).toBeVisible()
  })

  it('is a curve of a number that bends', async () => {
    page({
      kind: 'bends',
      isOdds: true,
      bends: [{ column: 'days_ahead', knots: [1, 5, 12, 30], at: [0, 10, 20, 30], adds: [-1, 0, 0.5, 0.2], half: [0.3, 0, 0.2, 0.6] }],
    })
    await title('One number bends')
    await says('The band is the 95 % interval of each point.')
    expect(screen.getByRole('img', { name: /^Curve of days_ahead/ })).toBeVisible()
    clean()
  })

  it('is how much each trial of a blend counts', async () => {
    page({
      kind: 'blend',
      how: 'weights',
      members: [
        { trialId: 4, name: 'trial 2, additive model', weight: 0.7 },
        { trialId: 5, name: 'trial 3, random forest', weight: 0.3 },
        { trialId: 6, name: 'trial 4, decision tree', weight: 0 },
      ],
    })
    await title('2 of 3 trials count, trial 2, additive model most')
    expect(await table('Trials of the blend')).toHaveTextContent('trial 4, decision tree0.000')
  })
})

describe('trials ticked in the Standings', () => {
  it('blend, by a way that is chosen', async () => {
    instead['POST /api/studies/2/blends'] = { status: 202, body: { ...job, id: 77, subject: 12, state: 'waiting' } }
    open('/study/2/judgment')
    const boxes = await screen.findAllByRole('checkbox', { name: /trial/i })
    await userEvent.click(boxes[0]!)
    await userEvent.click(boxes[1]!)
    await userEvent.click(await button('Blend 2…'))
    const dialog = within(await screen.findByRole('dialog'))
    await userEvent.click(dialog.getByRole('button', { name: /^Blended by/ }))
    await userEvent.click(await screen.findByRole('menuitem', { name: /^their mean/ }))
    await userEvent.click(dialog.getByRole('button', { name: 'Blend' }))
    const body = (await request('POST', '/api/studies/2/blends')).body as { trials: number[]; how: string }
    expect([body.how, body.trials.length]).toEqual(['mean', 2])
    expect(await dialog.findByRole('button', { name: 'Weighing…' })).toBeDisabled()
  })
})
