import { fireEvent, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { button, clean, heading, instead, job, open, request, says, sent, standIn, where } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

describe('importing', () => {
  const reading = {
    id: 12,
    fileName: 'march.csv',
    size: 4096,
    received: 4096,
    dialect: { encoding: 'UTF-8', delimiter: ',', quote: '"', decimal: '.', header: true, carriageReturns: false },
    names: ['visit_id', 'km;note'],
    records: [
      ['V1', '8,4;x'],
      ['V2', ''],
    ],
    aboutRecords: 200,
    remarks: [],
    container: null,
    parts: [],
    part: null,
  }

  it('shows how a file is read, follows corrections, and imports what was shown', async () => {
    instead['GET /api/uploads/12/reading'] = { status: 200, body: reading }
    instead['POST /api/studies/2/tables'] = { status: 202, body: job }
    instead['GET /api/jobs/31'] = { status: 200, body: job }
    open('/study/2/import?upload=12')
    await heading(/Reading march.csv/)
    await says('2 columns, about 200 records.')
    const sample = screen.getByRole('table', { name: 'The first records' })
    expect(
      within(sample)
        .getAllByRole('cell')
        .map((c) => c.textContent),
    ).toEqual(['1', 'V1', '8,4;x', '2', 'V2', '–'])
    instead['GET /api/uploads/12/reading'] = {
      status: 200,
      body: {
        ...reading,
        dialect: { ...reading.dialect, delimiter: ';' },
        names: ['visit_id,km', 'note'],
        remarks: ['Line 42 holds a letter that is not UTF-8; it will stand as �.'],
      },
    }
    await userEvent.click(await button('Delimiter: commas'))
    await userEvent.click(screen.getByRole('menuitem', { name: 'semicolons' }))
    await waitFor(() => expect(decodeURIComponent(sent.at(-1)?.query ?? '')).toContain('delimiter=;'))
    await screen.findByRole('columnheader', { name: 'note' })
    expect(screen.getByRole('note')).toHaveTextContent('Line 42 holds a letter that is not UTF-8')
    await userEvent.clear(screen.getByLabelText('Name of the table'))
    expect(screen.getByRole('button', { name: 'Import' })).toBeDisabled()
    await userEvent.type(screen.getByLabelText('Name of the table'), 'spring')
    await userEvent.click(screen.getByRole('button', { name: 'Import' }))
    const post = await request('POST', '/api/studies/2/tables')
    expect(post.body).toMatchObject({ uploadId: 12, name: 'spring', dialect: { delimiter: ';' } })
    await says('Importing: 25%. You can leave this page; it goes on.')
  })

  it('takes a table or a SELECT of a database, and keeps the sample when one is refused', async () => {
    const database = { ...reading, fileName: 'company.sqlite', container: 'database', parts: ['households', 'visits'], part: 'households' }
    instead['GET /api/examples'] = {
      status: 200,
      body: [{ name: 'company', fileName: 'company.sqlite', says: 'A simulated company database' }],
    }
    instead['POST /api/examples/company'] = {
      status: 201,
      body: { id: 12, received: 9, size: 9, pieceSize: 9, fileName: 'company.sqlite' },
    }
    instead['GET /api/uploads/12/reading'] = { status: 200, body: database }
    open('/study/2/import')
    await userEvent.click(await button('Take company.sqlite'))
    await heading(/Reading company.sqlite/)
    const asked = () => new URLSearchParams(sent.filter((s) => s.path.endsWith('/reading')).at(-1)?.query)
    await userEvent.click(await button('Table: households'))
    instead['GET /api/uploads/12/reading'] = { status: 200, body: { ...database, part: 'visits' } }
    await userEvent.click(screen.getByRole('menuitem', { name: 'visits' }))
    await waitFor(() => expect(asked().get('part')).toBe('visits'))
    await button('Table: visits')
    instead['GET /api/uploads/12/reading'] = { status: 422, body: { title: 'The database says: no such column: km.', status: 422 } }
    await userEvent.type(screen.getByLabelText('or what a SELECT gives'), 'SELECT km FROM visits')
    await userEvent.click(await button('Show its records'))
    await says('The database says: no such column: km.')
    expect(asked().get('part')).toBe('SELECT km FROM visits')
    expect(screen.getByRole('table', { name: 'The first records' })).toBeVisible()
  })

  it('takes corrections that are written, when they are left', async () => {
    const full = { ...reading.dialect, thousands: '', skip: 0, comment: '', missing: ['', 'NA', 'n/a'] }
    instead['GET /api/uploads/12/reading'] = { status: 200, body: { ...reading, dialect: full } }
    open('/study/2/import?upload=12')
    const asked = () => new URLSearchParams(sent.filter((s) => s.path.endsWith('/reading')).at(-1)?.query)
    const codes = await screen.findByLabelText('Marks for missing', {}, { timeout: 8000 })
    expect(codes).toHaveValue('NA, n/a')
    await userEvent.clear(codes)
    await userEvent.type(codes, '-99, k.A.{Enter}')
    await waitFor(() => expect(asked().get('missing')).toBe('-99,k.A.'))
    await userEvent.type(screen.getByLabelText('Lines to skip'), '{Backspace}a3')
    await userEvent.tab()
    await waitFor(() => expect(asked().get('skip')).toBe('3'))
    await userEvent.type(screen.getByLabelText('Comment mark'), '#')
    await userEvent.tab()
    await waitFor(() => expect(asked().get('comment')).toBe('#'))
    await userEvent.click(await button('Thousands mark: commas or nothing'))
    await userEvent.click(screen.getByRole('menuitem', { name: 'blanks' }))
    await waitFor(() => expect(asked().get('thousands')).toBe(' '))
    await userEvent.click(await button('Quote mark: double quotes'))
    await userEvent.click(screen.getByRole('menuitem', { name: 'apostrophes' }))
    await waitFor(() => expect(asked().get('quote')).toBe("'"))
    expect(asked().get('missing')).toBe('-99,k.A.')
  })

  it('goes to the Register when it is done, and says the sentence of the server when it failed', async () => {
    instead['GET /api/uploads/12/reading'] = { status: 200, body: reading }
    instead['POST /api/studies/2/tables'] = { status: 202, body: job }
    instead['GET /api/jobs/31'] = { status: 200, body: { ...job, state: 'failed', message: 'A quote opened in line 7 is never closed.' } }
    open('/study/2/import?upload=12')
    await userEvent.click(await button('Import'))
    expect(await screen.findByRole('alert')).toHaveTextContent('A quote opened in line 7')
    instead['GET /api/jobs/32'] = { status: 200, body: { ...job, id: 32, state: 'done' } }
    instead['POST /api/studies/2/tables'] = { status: 202, body: { ...job, id: 32 } }
    await userEvent.click(screen.getByRole('button', { name: 'Import' }))
    await waitFor(() => expect(where()).toBe('/study/2/table/9'))
  })

  it('teaches when no file is chosen, and says what is wrong with one that cannot be read', async () => {
    open('/study/2/import')
    await says('Drop a file on this sheet')
    clean()
    instead['GET /api/uploads/13/reading'] = { status: 422, body: { title: 'The file is empty: there is no line to read.', status: 422 } }
    document.body.innerHTML = ''
    open('/study/2/import?upload=13')
    expect(await screen.findByRole('alert', {}, { timeout: 8000 })).toHaveTextContent('The file is empty')
  })

  it('sends a file in pieces with their checksums', async () => {
    const bytes = Uint8Array.from([1, 2, 3, 4, 5, 6, 7, 8, 9, 10])
    instead['POST /api/uploads'] = { status: 201, body: { id: 12, fileName: 'a.csv', size: 10, received: 0, pieceSize: 4 } }
    // Nor does the checksum of the platform take the document's bytes: a stand-in that depends on them.
    vi.stubGlobal('crypto', {
      subtle: { digest: async (_: string, data: ArrayBuffer) => new Uint8Array(32).fill(new Uint8Array(data)[0]!).buffer },
    })
    let received = 0
    const plain = globalThis.fetch
    vi.stubGlobal('fetch', (input: RequestInfo | URL, init?: RequestInit) => {
      if (String(input).includes('/pieces')) {
        received = Math.min(10, received + 4)
        instead['PUT /api/uploads/12/pieces'] = { status: 200, body: { id: 12, received } }
      }
      return plain(input, init)
    })
    instead['GET /api/uploads/12/reading'] = { status: 200, body: reading }
    open('/study/2/import')
    // The document's own File cannot hand out its bytes here.
    const file = { name: 'a.csv', size: 10, slice: (a: number, b: number) => ({ arrayBuffer: async () => bytes.slice(a, b).buffer }) }
    fireEvent.change(await screen.findByTestId('import-file', {}, { timeout: 8000 }), { target: { files: [file] } })
    await heading(/Reading march.csv/)
    const pieces = sent.filter((s) => s.path.endsWith('/pieces'))
    expect(pieces.map((p) => p.query)).toEqual(['?offset=0', '?offset=4', '?offset=8'])
    expect(pieces[0]?.headers.get('Piece-Checksum')).toMatch(/^[0-9a-f]{64}$/)
    expect(pieces[0]?.headers.get('Piece-Checksum')).not.toBe(pieces[2]?.headers.get('Piece-Checksum'))
  })
})
