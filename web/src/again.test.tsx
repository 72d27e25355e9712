import { screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it } from 'vitest'
import { button, clean, instead, open, request, says, standIn } from './harness'

standIn()

const view = {
  name: 'Return visits',
  sources: [
    { name: 'visits', rows: 6000, state: 'same', made: '', lacking: [] },
    { name: 'households', rows: 4112, state: 'missing', made: '', lacking: [] },
    { name: 'with households', rows: 6000, state: 'made here', made: 'looked up in households by household_id', lacking: [] },
  ],
  same: 2,
  waiting: 3,
  sameLists: 0,
  waitingLists: 1,
  differs: [] as string[],
  not: ['One approval is told in the file and not done again.'],
}
const at = (body: unknown, status = 200) => {
  instead['GET /api/studies/2/replay'] = { status, body }
}
const file = () => new File(['{"schema": "dokimos-study/1"}'], 'a.study.json', { type: 'application/json' })

describe('a study done again', () => {
  it('says which tables are to be imported and how far it is', async () => {
    at({ ...view, same: 0 })
    open('/study/2/again')
    await says('households is to be imported under that name.')
    await says('0 trials the same to the last bit, 3 to come; 0 batches and lists the same, 1 to come.')
    await says('is made here, from the others')
    expect(screen.getByRole('link', { name: 'Import it' })).toHaveAttribute('href', '/study/2/import')
    await clean()
    instead['POST /api/studies/2/replay'] = { status: 200, body: view }
    await userEvent.click(await button('Do it again'))
    expect((await request('POST', /studies\/2\/replay$/)).body).toEqual({ file: '' })
  })

  it('says where it parts from what was found before', async () => {
    const differs = ['Trial 3 parts at the records, the target or the split: 0.71 instead of 0.72.']
    at({ ...view, sources: view.sources.slice(0, 1), waiting: 0, waitingLists: 0, differs })
    open('/study/2/again')
    await says('It is done, and parts from what was found before.')
    await says(differs[0] ?? '')
    await says('One approval is told in the file and not done again.')
  })

  it('follows a file, and says so where a study follows none', async () => {
    at({ title: 'This study follows no file.', status: 404 }, 404)
    open('/study/2/again')
    await says('This study follows no file')
    await clean()
    instead['POST /api/studies/2/replay'] = { status: 200, body: view }
    await userEvent.upload(await screen.findByLabelText('Choose a file…'), file())
    expect((await request('POST', /studies\/2\/replay$/)).body).toEqual({ file: '{"schema": "dokimos-study/1"}' })
  })

  it('begins as a study of its own from the home page', async () => {
    at({ ...view, same: 0 })
    instead['POST /api/studies/replay'] = { status: 201, body: { studyId: 2 } }
    open('/')
    await userEvent.upload(await screen.findByLabelText('From a study’s file…'), file())
    await says('from the file of Return visits')
  })
})
