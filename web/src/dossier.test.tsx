import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { beforeEach, describe, expect, it } from 'vitest'
import { button, clean, instead, open, request, says, standIn } from './harness'

standIn()

const section = (key: string, name: string, page: number | null) => ({
  key,
  name,
  title: name,
  on: page !== null,
  page,
  html: page === null ? '' : `<section><h2>${name} told</h2><p>Of <strong>100</strong> visits.</p></section>`,
})
const dossier = {
  pages: 9,
  sections: [section('short', 'In short', 1), section('trials', 'Trials', 4), section('logbook', 'Logbook', null)],
  comments: [
    { section: 'short', text: 'Ask whether it holds.', print: false, by: 'Mara Kell', at: '2026-11-30T09:00:00+00:00', quote: '' },
  ],
}

describe('the dossier', () => {
  beforeEach(() => {
    instead['GET /api/studies/2/dossier'] = { status: 200, body: dossier }
    instead['PUT /api/studies/2/dossier'] = { status: 200, body: { ...dossier, pages: 6 } }
  })

  it('shows what it tells, page by page, and is taken along', async () => {
    open('/study/2/decisions/dossier')
    await says('9 pages in 2 sections, written from the study as it stands')
    await says('1 comment, 0 to be printed.')
    expect(screen.getByRole('heading', { name: 'In short told' })).toBeVisible()
    expect(screen.getByRole('link', { name: 'Download PDF, 9 pages' })).toHaveAttribute('href', '/api/studies/2/dossier/file?format=pdf')
    await clean()
    await userEvent.click(await button('Logbook'))
    await says('Logbook is left out of the dossier.')
  })

  it('leaves a section out', async () => {
    open('/study/2/decisions/dossier')
    await userEvent.click(await screen.findByRole('checkbox', { name: 'Tell Trials' }))
    expect((await request('PUT', /dossier$/)).body).toEqual({
      off: ['logbook', 'trials'],
      comments: [{ section: 'short', text: 'Ask whether it holds.', print: false, quote: '' }],
    })
    await says('6 pages')
  })

  it('keeps what is said beside it, and prints it only when asked', async () => {
    open('/study/2/decisions/dossier')
    await userEvent.type(await screen.findByLabelText('What is to be said'), 'Heat pumps are new to us.')
    await userEvent.click(await button('Say it'))
    expect((await request('PUT', /dossier$/)).body).toMatchObject({
      comments: [{ text: 'Ask whether it holds.' }, { section: 'short', text: 'Heat pumps are new to us.', print: false }],
    })
  })

  it('is commented on word by word, by keyboard too, and its figures open their screen', async () => {
    const html = '<section><p>Of <a href="/study/2/judgment"><strong>100</strong></a> visits. They differ by 3.5 points. So.</p></section>'
    const body = { ...dossier, sections: [{ ...dossier.sections[0], html }, ...dossier.sections.slice(1)] }
    for (const method of ['GET', 'PUT']) instead[`${method} /api/studies/2/dossier`] = { status: 200, body }
    open('/study/2/decisions/dossier')
    const on = await screen.findByLabelText('Comment on')
    expect(
      within(on)
        .getAllByRole('option')
        .map((o) => o.textContent),
    ).toEqual(['In short, as a whole', 'Of 100 visits.', 'They differ by 3.5 points.'])
    await userEvent.selectOptions(on, 'They differ by 3.5 points.')
    await userEvent.type(screen.getByLabelText('What is to be said of these words'), 'By how many visits?')
    await userEvent.click(await button('Say it'))
    expect((await request('PUT', /dossier$/)).body).toMatchObject({
      comments: [{}, { section: 'short', text: 'By how many visits?', quote: 'They differ by 3.5 points.' }],
    })
    await clean()
    expect(screen.getByRole('link', { name: 'Take the study along' })).toHaveAttribute('href', '/api/studies/2/saved')
    await userEvent.click(screen.getByRole('link', { name: '100' }))
    await waitFor(() => expect(screen.queryByLabelText('Comment on')).toBeNull())
  })

  it('prints a comment that is to be printed', async () => {
    open('/study/2/decisions/dossier')
    await userEvent.click(await screen.findByRole('checkbox', { name: 'print in the dossier' }))
    expect((await request('PUT', /dossier$/)).body).toMatchObject({ comments: [{ print: true }] })
  })
})
