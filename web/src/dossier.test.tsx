import { screen } from '@testing-library/react'
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
  comments: [{ section: 'short', text: 'Ask whether it holds.', print: false, by: 'Mara Kell', at: '2026-11-30T09:00:00+00:00' }],
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
      comments: [{ section: 'short', text: 'Ask whether it holds.', print: false }],
    })
    await says('6 pages')
  })

  it('keeps what is said beside it, and prints it only when asked', async () => {
    open('/study/2/decisions/dossier')
    await userEvent.type(await screen.findByLabelText('Comment on In short'), 'Heat pumps are new to us.')
    await userEvent.click(await button('Say it'))
    expect((await request('PUT', /dossier$/)).body).toMatchObject({
      comments: [{ text: 'Ask whether it holds.' }, { section: 'short', text: 'Heat pumps are new to us.', print: false }],
    })
  })

  it('follows the file of another study and says what differs', async () => {
    instead['POST /api/studies/2/replay'] = { status: 200, body: { says: ['The records of visits are others.'] } }
    open('/study/2/decisions/dossier')
    const file = new File(['{"schema": "dokimos-study/1"}'], 'a.study.json', { type: 'application/json' })
    await userEvent.upload(await screen.findByLabelText(/Follow a study/), file)
    expect((await request('POST', /replay$/)).body).toEqual({ file: '{"schema": "dokimos-study/1"}' })
    await says('The records of visits are others.')
    expect(screen.getByRole('link', { name: 'Take the study along' })).toHaveAttribute('href', '/api/studies/2/saved')
  })

  it('prints a comment that is to be printed', async () => {
    open('/study/2/decisions/dossier')
    await userEvent.click(await screen.findByRole('checkbox', { name: 'print in the dossier' }))
    expect((await request('PUT', /dossier$/)).body).toMatchObject({ comments: [{ print: true }] })
  })
})
