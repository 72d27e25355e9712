import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import type { View } from './api/client'
import { answers, button, clean, heading, instead, job, open, request, says, standIn, where } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

describe('a guided search', () => {
  const guided = answers.guided as View<'GuidedView'>

  it('starts with one press, with sensible answers', async () => {
    instead['POST /api/studies/2/guided'] = { status: 202, body: { ...job, kind: 'guided', subject: 4 } }
    instead['GET /api/guided/4'] = { status: 200, body: guided }
    open('/study/2/trials')
    await userEvent.click(await button('Deadline: 10 minutes'))
    await userEvent.click(screen.getByRole('menuitem', { name: '30 minutes' }))
    await userEvent.click(await screen.findByText(/It may use/))
    await userEvent.click(screen.getByLabelText('May use Random forest'))
    await userEvent.click(await button('Start the guided search, 30 min'))
    expect((await request('POST', '/api/studies/2/guided')).body).toEqual({
      variantId: 2,
      minutes: 30,
      tries: null,
      reading: 30,
      without: ['forest'],
      seed: 2026,
    })
    await waitFor(() => expect(where()).toBe('/study/2/trials/guided/4'))
  })

  it('says what was tried, kept and thrown away, and what it hands over', async () => {
    instead['GET /api/guided/4'] = { status: 200, body: guided }
    open('/study/2/trials/guided/4')
    await heading(/Guided search/)
    await says(new RegExp(`${guided.finals[0]!.title} scores [\\d.]+ ± [\\d.]+ on [\\d,]+ rows that no choice had read`))
    const finals = within(screen.getByRole('table', { name: 'Best of each learner' })).getAllByRole('row')
    expect(finals).toHaveLength(1 + guided.finals.length)
    const ideas = within(screen.getByRole('table', { name: 'Made features' })).getAllByRole('row')
    expect(ideas).toHaveLength(1 + guided.ideas.length)
    expect(within(screen.getByRole('list', { name: 'Stages' })).getAllByRole('listitem')).toHaveLength(5)
    expect(screen.getByRole('img', { name: /^Tries by rung/ })).toBeVisible()
    await says(guided.command)
    expect(screen.getByRole('link', { name: 'See its finalists' })).toHaveAttribute('href', '/study/2/judgment')
    clean()
  })

  it('under way can be stopped and its best kept; before the first try it cannot', async () => {
    const running = { ...guided, state: 'running', stage: 'rung 1', finals: [], jobId: 31, minutes: 10 }
    instead['GET /api/guided/4'] = { status: 200, body: { ...running, tries: [], ideas: [], rungs: [] } }
    instead['POST /api/searches/4/keep'] = { status: 202, body: job }
    const first = open('/study/2/trials/guided/4')
    await says('What can be made of the columns is weighed first')
    expect(screen.queryByRole('button', { name: 'Stop and keep the best' })).toBeNull()
    first.unmount()
    instead['GET /api/guided/4'] = { status: 200, body: running }
    open('/study/2/trials/guided/4')
    await says(/of 10 min gone/)
    await userEvent.click(await button('Stop and keep the best'))
    await request('POST', '/api/searches/4/keep')
    clean()
  })
})

describe('a trial’s page', () => {
  it('draws a learning curve when asked, and says only what its interval holds', async () => {
    instead['POST /api/trials/1/curve'] = { status: 202, body: job }
    const first = open('/study/2/judgment/1')
    await userEvent.click(await button('Draw the learning curve'))
    await request('POST', '/api/trials/1/curve')
    first.unmount()
    instead['GET /api/trials/1/curve'] = { status: 200, body: { ...(answers.curve as object), says: null } }
    open('/study/2/judgment/1')
    expect(await screen.findByRole('heading', { name: 'Whether more records would help cannot be told' }, { timeout: 8000 })).toBeVisible()
    expect(screen.getByRole('img', { name: /^10% of the rows: / })).toBeVisible()
    clean()
  })

  it('leaves out columns that carry nothing, and trains again', async () => {
    instead['POST /api/trials/1/reduce'] = { status: 202, body: { ...job, kind: 'trial', title: 'Trial 9' } }
    instead['GET /api/jobs/31'] = { status: 200, body: { ...job, kind: 'trial', title: 'Trial 9', state: 'done', subject: 12 } }
    open('/study/2/judgment/1')
    const gestures = await screen.findAllByRole('button', { name: /^Leave out \d+ columns? and train again/ }, { timeout: 8000 })
    await userEvent.click(gestures.find((g) => g.closest('section')?.textContent.includes('shuffled'))!)
    const dialog = within(screen.getByRole('dialog'))
    const first = dialog.getAllByRole('checkbox')[0]!
    await userEvent.click(first)
    await userEvent.click(dialog.getByRole('button', { name: /^Train without/ }))
    const body = (await request('POST', '/api/trials/1/reduce')).body as { columns: string[] }
    expect(body.columns).not.toContain(first.id.replace('goes-', ''))
    expect(await screen.findByRole('link', { name: 'See both side by side' })).toHaveAttribute(
      'href',
      '/study/2/judgment/beside?trials=1,12',
    )
  })

  it('proposes calibration where chances do not hold, and shows what it did', async () => {
    const page = answers['GET /api/trials/1/judgment'] as View<'JudgmentView'>
    const event = answers['event figures'] as { calibration: { rateLow: number; rateHigh: number }[] }
    const off = event.calibration.map((b) => ({ ...b, mean: b.rateHigh + 0.05 }))
    const sections = [{ ...event, calibration: off }, ...page.sections.slice(1)]
    instead['GET /api/trials/1/judgment'] = { status: 200, body: { ...page, sections } }
    const first = open('/study/2/judgment/1')
    await heading(/Logistic regression/)
    await userEvent.keyboard('n')
    expect(await screen.findByRole('link', { name: 'Try it calibrated' })).toHaveAttribute(
      'href',
      '/study/2/trials?learner=logistic&calibration=whichever does better',
    )
    first.unmount()
    const ways = [
      { way: 'as they come', logLoss: 0.24 },
      { way: 'isotonic', logLoss: 0.231 },
    ]
    const calibrated = { kind: 'calibrated', asked: 'whichever does better', way: 'isotonic', ways, before: event.calibration }
    instead['GET /api/trials/1/judgment'] = {
      status: 200,
      body: { ...page, trial: { ...page.trial, calibration: 'whichever does better' }, sections: [event, calibrated] },
    }
    open('/study/2/judgment/1')
    await says('Chances are calibrated by isotonic')
    const table = within(screen.getByRole('table', { name: 'Ways to calibrate' })).getAllByRole('row')
    expect(table[1]).toHaveTextContent('as they come0.2400+0.0090')
    expect(screen.queryByRole('link', { name: 'Try it calibrated' })).toBeNull()
    await says('rings: before calibration')
  })
})
