import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { answers, button, heading, instead, job, open, request, says, sent, standIn } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

const kept = { id: 4, host: 'db.example:5432', database: 'company', login: 'reader' }
const reading = {
  id: 12,
  fileName: 'company',
  size: 0,
  received: 0,
  dialect: { encoding: 'UTF-8', delimiter: ',', quote: '"', decimal: '.', header: true },
  names: ['id', 'km'],
  records: [['1', '12.50']],
  aboutRecords: 1000,
  remarks: [],
  container: 'database',
  parts: ['visits', 'old.visits'],
  part: 'visits',
  held: 6000,
  most: 1000,
}

describe('a database on a server', () => {
  it('says what is missing when no server is listed', async () => {
    instead['GET /api/connections'] = { status: 200, body: { hosts: [], connections: [] } }
    open('/study/2/import')
    await says('PostgreSQL databases can be read too, once whoever runs this installation lists their servers.')
    expect(screen.queryByRole('button', { name: 'Another database…' })).toBeNull()
  })

  it('is tried, kept, and says why when it cannot be reached', async () => {
    instead['GET /api/connections'] = { status: 200, body: { hosts: ['db.example:5432', 'old.example:5432'], connections: [] } }
    instead['POST /api/connections'] = { status: 422, body: { title: 'No connection to the database: password wrong.', status: 422 } }
    open('/study/2/import')
    await userEvent.click(await button('Another database…'))
    const form = screen.getByRole('form', { name: 'Another database' })
    const keep = within(form).getByRole('button', { name: 'Try and keep it' })
    expect(keep).toBeDisabled()
    await userEvent.click(within(form).getByRole('button', { name: 'Server: db.example:5432' }))
    await userEvent.click(screen.getByRole('menuitem', { name: 'old.example:5432' }))
    await userEvent.type(within(form).getByLabelText('Database'), 'company')
    await userEvent.type(within(form).getByLabelText('Read as'), 'reader')
    await userEvent.type(within(form).getByLabelText('Password'), 'wrong')
    await userEvent.click(keep)
    await says('No connection to the database: password wrong.')
    const post = await request('POST', '/api/connections')
    expect(post.body).toEqual({ host: 'old.example:5432', database: 'company', login: 'reader', password: 'wrong' })
    instead['POST /api/connections'] = { status: 201, body: kept }
    instead['GET /api/connections'] = { status: 200, body: { hosts: ['db.example:5432'], connections: [kept] } }
    await userEvent.click(keep)
    await button('Read from company on db.example:5432')
    expect(screen.queryByRole('form', { name: 'Another database' })).toBeNull()
  })

  it('is read like a file, so many records at most, and can be forgotten', async () => {
    instead['GET /api/connections'] = { status: 200, body: { hosts: ['db.example:5432'], connections: [kept] } }
    instead['POST /api/connections/4/upload'] = {
      status: 201,
      body: { id: 12, fileName: 'company', size: 0, received: 0, pieceSize: 8388608 },
    }
    instead['GET /api/uploads/12/reading'] = { status: 200, body: reading }
    instead['DELETE /api/connections/4'] = { status: 204, body: null }
    const { unmount } = open('/study/2/import')
    await userEvent.click(await button('Forget company on db.example:5432'))
    await request('DELETE', '/api/connections/4')
    await userEvent.click(await button('Read from company on db.example:5432'))
    await heading('Reading company')
    await says('It holds 6,000 records: the first 1,000 are taken, in the order they come.')
    const most = screen.getByLabelText('Records at most')
    await userEvent.clear(most)
    await userEvent.type(most, '25x00{Enter}')
    const asked = () => new URLSearchParams(sent.filter((s) => s.path.endsWith('/reading')).at(-1)?.query)
    await waitFor(() => expect(asked().get('most')).toBe('2500'))
    await userEvent.click(await button('Table: visits'))
    await userEvent.click(screen.getByRole('menuitem', { name: 'old.visits' }))
    await waitFor(() => expect([asked().get('part'), asked().get('most')]).toEqual(['old.visits', '2500']))
    await userEvent.click(screen.getByRole('button', { name: 'Import' }))
    const post = await request('POST', '/api/studies/2/tables')
    expect(post.body).toMatchObject({ uploadId: 12, part: 'visits', most: 1000 })
    unmount()
  })
})

describe('a large file', () => {
  it('shows its columns while it is read: from the beginning first, then from every record', async () => {
    const register = answers['GET /api/tables/5'] as { columns: { first: number | null; name: string }[] }
    const [one, two] = register.columns
    instead['GET /api/uploads/12/reading'] = { status: 200, body: { ...reading, container: null, parts: [], part: null, size: 9e7 } }
    instead['POST /api/studies/2/tables'] = { status: 202, body: job }
    instead['GET /api/jobs/31'] = { status: 200, body: job }
    instead['GET /api/tables/9'] = {
      status: 200,
      body: {
        ...register,
        id: 9,
        state: 'importing',
        columns: [
          { ...two, first: 28113 },
          { ...one, first: null },
        ],
      },
    }
    open('/study/2/import?upload=12')
    await userEvent.click(await button('Import'))
    const ledger = await screen.findByRole('table', { name: 'Columns so far' }, { timeout: 8000 })
    const lines = within(ledger).getAllByRole('row').slice(1)
    expect(lines).toHaveLength(2)
    expect(lines[0]).toHaveTextContent(one!.name)
    expect(lines[0]).toHaveTextContent('every record')
    expect(lines[1]).toHaveTextContent('the first 28,113 records so far')
    expect(screen.queryByRole('table', { name: 'The first records' })).toBeNull()
  })
})
