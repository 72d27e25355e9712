import { fireEvent, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { answers, button, clean, heading, instead, open, request, says, sent, standIn, where } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

const job = {
  id: 31,
  studyId: 2,
  studyName: 'Nobody home',
  kind: 'import',
  subject: 9,
  title: 'Reading march.csv',
  state: 'running',
  share: 0.25,
  secondsLeft: 3,
  seconds: 1,
  message: null,
  soFar: null,
}

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
      body: { ...reading, dialect: { ...reading.dialect, delimiter: ';' }, names: ['visit_id,km', 'note'] },
    }
    await userEvent.click(await button('Delimiter: commas'))
    await userEvent.click(screen.getByRole('menuitem', { name: 'semicolons' }))
    await waitFor(() => expect(decodeURIComponent(sent.at(-1)?.query ?? '')).toContain('delimiter=;'))
    await screen.findByRole('columnheader', { name: 'note' })
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

describe('a new study', () => {
  it('is begun with its question and opens', async () => {
    instead['POST /api/studies'] = { status: 201, body: { ...(answers['GET /api/studies/2'] as object), id: 2, tables: [], tableId: null } }
    open('/')
    await userEvent.click(await button('New study…'))
    const dialog = await screen.findByRole('dialog')
    for (const field of within(dialog).getAllByRole('textbox')) await userEvent.type(field, 'Who comes back?')
    await userEvent.click(within(dialog).getAllByRole('button').at(-1)!)
    const post = await request('POST', '/api/studies')
    expect(post.body).toMatchObject({ question: 'Who comes back?' })
    expect(post.headers.get('Idempotency-Key')).toBeTruthy()
    await waitFor(() => expect(where()).toMatch(/^\/study\/2/))
  })

  it('is deleted with a way back', async () => {
    instead['DELETE /api/studies/2'] = { status: 204, body: null }
    open('/')
    await userEvent.click(await button('Delete Nobody home'))
    await request('DELETE', '/api/studies/2')
    await says('It can be brought back for 30 days.')
    await userEvent.click(screen.getByRole('button', { name: 'Bring back' }))
    await request('POST', '/api/studies/2/return')
  })
})

describe('the target', () => {
  it('is chosen in a sentence that says what follows', async () => {
    const study = answers['GET /api/studies/2'] as object
    instead['GET /api/studies/2'] = { status: 200, body: { ...study, target: null, event: null, trials: [] } }
    const columns = (answers['GET /api/tables/5'] as { columns: { id: number; name: string; kind: string }[] }).columns
    const answer = columns.filter((c) => c.kind === 'yes/no').at(-1)!
    instead[`GET /api/columns/${answer.id}`] = {
      status: 200,
      body: {
        ...(answers['GET /api/columns/84'] as object),
        summary: {
          type: 'text',
          top: [
            { value: 'no', count: 5000, share: 0.83 },
            { value: 'yes', count: 1000, share: 0.17 },
          ],
        },
      },
    }
    open('/study/2/table/5')
    await userEvent.click(await button('Choose target…'))
    const dialog = await screen.findByRole('dialog')
    expect(dialog).toHaveTextContent('A fifth of the rows is sealed for the final examination')
    await waitFor(() => expect(within(dialog).getByRole('button', { name: 'Choose and seal' })).toBeEnabled())
    instead['PUT /api/studies/2/target'] = { status: 422, body: { title: 'At least ten of either kind are needed.', status: 422 } }
    await userEvent.click(within(dialog).getByRole('button', { name: 'Choose and seal' }))
    const put = await request('PUT', '/api/studies/2/target')
    expect(put.body).toMatchObject({ column: answer.name, tableId: 5 })
    expect(await within(dialog).findByRole('alert')).toHaveTextContent('At least ten of either kind')
  })
})

describe('scoring', () => {
  it('matches columns by hand and starts with what was matched', async () => {
    const match = answers['POST /api/studies/2/match'] as {
      lines: { asked: string; found: string | null; how: string }[]
      columns: string[]
    }
    const first = match.lines[0]!
    instead['POST /api/studies/2/match'] = {
      status: 200,
      body: {
        ...match,
        columns: [...match.columns, 'other_name'],
        problems: [`${first.asked} is not in this table`],
        lines: [{ ...first, found: null, how: 'not there', problem: 'not there' }, ...match.lines.slice(1)],
      },
    }
    open('/study/2/decisions?trial=1&table=5&cutoff=0.3')
    await says(`${match.lines.length - 1} of ${match.lines.length} columns found`)
    await says('1 remark; none stops the run')
    await userEvent.click(await button(`${first.asked} is found in: choose…`))
    await userEvent.click(screen.getByRole('menuitem', { name: 'other_name' }))
    await waitFor(() =>
      expect(sent.filter((s) => s.path.endsWith('/match')).at(-1)?.body).toMatchObject({ matching: { [first.asked]: 'other_name' } }),
    )
    instead['POST /api/studies/2/scorings'] = { status: 202, body: { ...job, id: 33, kind: 'scoring', subject: 1 } }
    instead['GET /api/jobs/33'] = { status: 200, body: { ...job, id: 33, state: 'cancelled' } }
    await userEvent.click(await button(/^Score [\d,]+ records/))
    const post = await request('POST', '/api/studies/2/scorings')
    expect(post.body).toMatchObject({ trialId: 1, tableId: 5, cutoff: 0.3, matching: { [first.asked]: 'other_name' } })
    expect(await screen.findByRole('alert')).toHaveTextContent('The scoring was cancelled. Nothing was changed.')
  })

  it('lists, filters, searches and sorts on the server', async () => {
    open('/study/2/decisions/1')
    await heading(/scored/)
    const asked = () => decodeURIComponent(sent.filter((s) => s.path === '/api/scorings/1/rows').at(-1)?.query ?? '')
    await waitFor(() => expect(asked()).toContain('which='))
    await userEvent.click(await screen.findByRole('tab', { name: /Left alone/ }))
    await waitFor(() => expect(asked()).toContain('which=left'))
    const box = screen.getByRole('textbox', { name: /Search|Find|hold/i })
    await userEvent.type(box, 'Sedge')
    await waitFor(() => expect(asked()).toContain('search=Sedge'), { timeout: 4000 })
  })

  it('says that a batch was cancelled', async () => {
    instead['GET /api/scorings/1'] = { status: 200, body: { ...(answers['GET /api/scorings/1'] as object), state: 'cancelled' } }
    open('/study/2/decisions/1')
    expect(await screen.findByRole('alert', {}, { timeout: 8000 })).toHaveTextContent('The scoring was cancelled.')
  })
})

describe('findings', () => {
  type Found = { findings: Record<string, unknown>[]; relations: Record<string, unknown>[] }
  const found = answers['GET /api/tables/5/findings'] as Found
  const columns = (answers['GET /api/tables/5'] as { columns: { id: number; name: string; version: number }[] }).columns
  const leak = {
    key: 'leak suspicion: reminder_sent',
    sort: 'leak suspicion',
    severity: 'high',
    short: 'gives it away',
    columns: ['reminder_sent'],
    sentence: 'reminder_sent alone ranks outcome with an AUC of 1.00. Was it known when the decision is made?',
    rows: [12, 99, 340, 341, 342, 343, 344],
    remedies: [
      { do: 'known afterwards', column: 'reminder_sent', to: null, label: 'Known only afterwards' },
      { do: 'set aside', column: 'reminder_sent', to: null, label: 'Set reminder_sent aside' },
    ],
    dismissed: null,
  }
  const twins = {
    ...leak,
    key: 'duplicate rows: ',
    sort: 'duplicate rows',
    short: 'duplicate rows',
    severity: 'medium',
    columns: [],
    sentence: '9 records repeat.',
    remedies: [],
  }
  const show = (...more: object[]) => {
    instead['GET /api/tables/5/findings'] = { status: 200, body: { ...found, findings: [...more, ...found.findings] } }
  }

  it('stand beside their columns, narrow the Register, and the pressing ones stand in the margin', async () => {
    show(leak, twins)
    open('/study/2/table/5')
    await says(/columns?: \d+ carr/)
    const line = (await screen.findByText('gives it away')).closest('tr')!
    expect(line).toHaveTextContent('reminder_sent')
    expect(screen.getByRole('complementary', { name: 'Margin notes' })).toHaveTextContent('2')
    await userEvent.click(screen.getByRole('tab', { name: /With findings/ }))
    await waitFor(() => expect(where()).toContain('narrow=findings'))
    const shown = screen.getAllByRole('row').map((r) => r.textContent)
    expect(shown.some((r) => r?.includes('job_type'))).toBe(found.findings.some((f) => (f.columns as string[]).includes('job_type')))
    await userEvent.keyboard('n')
    expect(screen.getByRole('complementary', { name: 'Margin notes' })).toHaveTextContent('9 records repeat.')
    clean()
  })

  it('are mended from where they are said', async () => {
    show(leak)
    const column = columns.find((c) => c.name === 'reminder_sent')!
    instead[`GET /api/columns/${column.id}`] = {
      status: 200,
      body: {
        ...(answers['GET /api/columns/84'] as object),
        column: { ...((answers['GET /api/columns/84'] as { column: object }).column as object), ...column },
      },
    }
    open(`/study/2/table/5?column=${column.id}`)
    const mend = await screen.findByRole('button', { name: 'Known only afterwards' }, { timeout: 8000 })
    expect(screen.getByRole('link', { name: '340' })).toHaveAttribute('href', '/study/2/table/5/rows?from=340&row=340')
    await says('and 2 others')
    await userEvent.click(mend)
    const patch = await request('PATCH', `/api/columns/${column.id}`)
    expect(patch.body).toEqual({ known: false })
    expect(patch.headers.get('If-Match')).toBe(String(column.version))
  })

  it('are settled with a reason, and opened again', async () => {
    show(leak)
    open('/study/2/table/5')
    await screen.findByText('gives it away', {}, { timeout: 8000 })
    await userEvent.keyboard('n')
    await userEvent.click(await button('Settle…'))
    expect(await button('Settle')).toBeDisabled()
    await userEvent.type(screen.getByLabelText('Why it does not matter'), 'It is asked before.')
    const settled = { ...leak, dismissed: { reason: 'It is asked before.', who: 'Mara Kell', at: '2026-11-23T10:00:00+00:00' } }
    instead['POST /api/tables/5/findings/settle'] = { status: 200, body: { ...found, findings: [settled] } }
    await userEvent.click(await button('Settle'))
    expect((await request('POST', '/api/tables/5/findings/settle')).body).toEqual({ key: leak.key, reason: 'It is asked before.' })
    await waitFor(() => expect(screen.queryByText('gives it away')).toBeNull())
  })

  it('lead to a drafted step that fills', async () => {
    open('/study/2/preparation?fill=contact_channel')
    await says('Preview step 3. Nothing is applied yet.')
    await waitFor(() => expect(where()).toBe('/study/2/preparation'))
    expect(sent.some((s) => s.method === 'PUT')).toBe(false)
  })

  it('rank what goes with the target, and say what was left out', async () => {
    const relation = {
      auc: 0.63,
      low: 0.6,
      high: 0.66,
      p: 0.0001,
      adjusted: 0.001,
      says: 'rises: 9.1% up to 1, 35.5% above 16',
      lowest: 0.09,
      highest: 0.36,
      late: false,
      leftOut: null,
    }
    instead['GET /api/tables/5/findings'] = {
      status: 200,
      body: {
        ...found,
        target: 'outcome',
        event: 'no access',
        relations: [
          { ...relation, column: 'days_ahead' },
          { ...relation, column: 'tenure', auc: 0.51, low: 0.48, high: 0.54, adjusted: 0.7, says: '', lowest: null, highest: null },
          { ...relation, column: 'minutes', auc: 0.9, adjusted: null, late: true },
          { ...relation, column: 'visit_id', auc: null, leftOut: 'a key' },
        ],
      },
    }
    open('/study/2/table/5/goes-with')
    await heading(/What goes with outcome/)
    await says('Only days_ahead says something alone;')
    await says('1 of 2 candidates says something alone.')
    const ledger = screen.getByRole('table', { name: /Columns by what they say/ })
    expect(ledger).not.toHaveTextContent('tenure')
    await userEvent.click(screen.getByRole('button', { name: 'show them' }))
    await waitFor(() => expect(ledger).toHaveTextContent('tenure'))
    expect(screen.getByRole('table', { name: 'Left out' })).toHaveTextContent('minutesknown too late, 0.90visit_ida key')
    expect(screen.getByRole('img', { name: '9.0% to 36.0%' })).toBeInTheDocument()
    await says('1 of 2 plain rules held on records they had not seen')
    const rules = screen.getByRole('table', { name: 'Plain rules' })
    expect(rules).toHaveTextContent('job_type is part fitting and days_ahead is over 919847.1%47.3%2.8Held')
    expect(rules).toHaveTextContent('21.5%1.3Did not hold')
    clean()
  })
})

describe('the rows', () => {
  it('are narrowed by a sentence whose words are changed in place', async () => {
    const asks = [
      ['boiler_age', 'is missing'],
      ['days_ahead', 'is over', '9'],
    ]
    const page = answers['GET /api/tables/5/rows'] as { total: number }
    instead['GET /api/tables/5/rows'] = {
      status: 200,
      body: {
        ...page,
        total: 253,
        without: [1244, 1175],
        sealed: 0,
        share: { event: 'yes', hits: 57, judged: 206, value: 0.277, low: 0.22, high: 0.341, overall: 0.165 },
      },
    }
    open(`/study/2/table/5/rows?where=${encodeURIComponent(JSON.stringify(asks))}`)
    await says('27.7%, 22.0% to 34.1%, against 16.5% of all')
    await says('253 of 6,000')
    const asked = () => new URLSearchParams(sent.filter((s) => s.path.endsWith('/rows')).at(-1)!.query)
    expect(JSON.parse(asked().get('where')!)).toEqual(asks)
    await userEvent.click(screen.getByRole('button', { name: 'Joined by: and' }))
    await userEvent.click(screen.getByRole('menuitem', { name: /or.*one is enough/ }))
    await waitFor(() => expect(asked().get('any')).toBe('true'))
    await userEvent.click(screen.getByRole('button', { name: 'Relation 2: is over' }))
    await userEvent.click(screen.getByRole('menuitem', { name: 'is between' }))
    await waitFor(() => expect(JSON.parse(asked().get('where')!)[1]).toEqual(['days_ahead', 'is between', '9', '9']))
    await userEvent.click(screen.getByRole('button', { name: 'Value 2: 9 and 9' }))
    await userEvent.clear(screen.getByLabelText('To'))
    await userEvent.type(screen.getByLabelText('To'), '20{Enter}')
    await waitFor(() => expect(JSON.parse(asked().get('where')!)[1]).toEqual(['days_ahead', 'is between', '9', '20']))
    await userEvent.click(screen.getByRole('button', { name: /without days_ahead, 1,175/ }))
    await waitFor(() => expect(JSON.parse(asked().get('where')!)).toEqual([['boiler_age', 'is missing']]))
    await userEvent.click(screen.getByRole('button', { name: 'Add a condition: and…' }))
    await userEvent.click(screen.getByRole('menuitem', { name: /^job_type/ }))
    await waitFor(() => expect(JSON.parse(asked().get('where')!)[1].slice(0, 2)).toEqual(['job_type', 'is']))
    await userEvent.click(screen.getByRole('button', { name: 'Clear' }))
    await waitFor(() => expect(asked().has('where')).toBe(false))
    clean()
  })

  it('are searched, shown with chosen columns, and say when none answers', async () => {
    open('/study/2/table/5/rows')
    await userEvent.type(await screen.findByLabelText('Text in any column', {}, { timeout: 8000 }), 'gate{Enter}')
    const asked = () => new URLSearchParams(sent.filter((s) => s.path.endsWith('/rows')).at(-1)!.query)
    await waitFor(() => expect(asked().get('search')).toBe('gate'))
    await userEvent.click(screen.getByRole('button', { name: 'Choose columns…' }))
    await userEvent.click(await screen.findByLabelText('job_type'))
    await waitFor(() => expect(JSON.parse(asked().get('columns')!)).not.toContain('job_type'))
    await userEvent.keyboard('{Escape}')
    instead['GET /api/tables/5/rows'] = { status: 200, body: { ...(answers['GET /api/tables/5/rows'] as object), total: 0, rows: [] } }
    await userEvent.clear(screen.getByLabelText('Text in any column'))
    await userEvent.type(screen.getByLabelText('Text in any column'), 'nobody{Enter}')
    await says('No record answers that')
    instead['GET /api/tables/5/rows'] = { status: 422, body: { title: 'tenure is never "squatter".', status: 422, field: 'where' } }
    await userEvent.click(screen.getByRole('button', { name: 'Clear' }))
    await says('tenure is never "squatter".')
  })
})

describe('the pictures', () => {
  it('lead from a pair to its drawing, and from a part of a picture to the records behind it', async () => {
    open('/study/2/table/5/pictures')
    const pairs = await screen.findByRole('table', { name: 'Strongest pairs' }, { timeout: 8000 })
    await userEvent.click(within(pairs).getAllByRole('row')[1]!)
    await userEvent.click(await button('Draw them'))
    await waitFor(() => expect(where()).toMatch(/show=two&x=\w+&y=\w+/))
    await userEvent.click(await button('As a table'))
    await userEvent.click((await screen.findAllByRole('button', { name: 'Records behind it' }))[0]!)
    await waitFor(() =>
      expect(decodeURIComponent(where()!).replaceAll('+', ' ')).toMatch(/rows\?where=\[\["\w+","is between","2025-01-01","2025-01-31"\]/),
    )
  })

  it('draw tiles, and open the records behind one', async () => {
    const told = { judged: 40, share: 0.25, low: 0.15, high: 0.4 }
    const pair = {
      first: 'a',
      second: 'b',
      measure: "Cramér's V",
      strength: 0.4,
      low: 0.3,
      high: 0.5,
      p: 0.0001,
      pearson: null,
      n: 300,
      adjusted: 1,
    }
    instead['GET /api/tables/5/pictures/two'] = {
      status: 200,
      body: {
        form: 'mosaic',
        x: 'job_type',
        y: 'outcome',
        pair,
        records: 300,
        parts: ['p', 'q'].flatMap((x) => ['k', 'l'].map((y) => ({ x, y, records: 75, expected: 75, ...told }))),
      },
    }
    open('/study/2/table/5/pictures?show=two&x=job_type&y=outcome')
    await says("outcome differs by job_type: Cramér's V 0.40")
    await says('Width and height are shares of the records; 300 records where both are present.')
    fireEvent.click([...document.querySelectorAll('svg title')].find((t) => t.textContent?.startsWith('p, k'))!.parentElement!)
    await waitFor(() => expect(decodeURIComponent(where()!).replaceAll('+', ' ')).toContain('[["job_type","is","p"],["outcome","is","k"]]'))
  })

  it('say so when a column is not there any more', async () => {
    instead['GET /api/tables/5/pictures/two'] = { status: 422, body: { title: 'There is no column gone.', status: 422, field: 'x' } }
    open('/study/2/table/5/pictures?show=two&x=gone&y=outcome')
    await says('There is no column gone.')
    await says('Could not be drawn')
  })
})

describe('many columns', () => {
  it('are narrowed, chosen, looked at and changed together', async () => {
    const columns = (answers['GET /api/tables/5'] as { columns: { id: number; name: string; version: number; kind: string }[] }).columns
    const numbers = columns.filter((c) => c.kind === 'number')
    open('/study/2/table/5')
    await userEvent.click(await screen.findByRole('button', { name: 'Kind: any' }, { timeout: 8000 }))
    await userEvent.click(screen.getByRole('menuitem', { name: 'number' }))
    await userEvent.click(await button(`Choose all ${numbers.length}`))
    await userEvent.click(screen.getByLabelText(`Choose ${numbers[1]!.name}`))
    await userEvent.click(screen.getByLabelText(`Choose ${numbers[1]!.name}`))
    await userEvent.click(await button(`Change ${numbers.length}…`))
    await userEvent.click(await button('Kind: stays as it is'))
    await userEvent.click(screen.getByRole('menuitem', { name: /becomes date/ }))
    const effect = (misfits: number) =>
      numbers.map((c) => ({ id: c.id, name: c.name, cells: 6000, misfits, examples: ['12', '17'], refused: null }))
    instead['POST /api/tables/5/columns'] = { status: 200, body: { applied: false, columns: effect(5700) } }
    await userEvent.click(await button('See what it does'))
    await says('11,400 cells in 2 columns would not fit and count as missing; their text is kept.')
    await says('“12”, “17”')
    instead['POST /api/tables/5/columns'] = { status: 200, body: { applied: true, columns: effect(5700) } }
    await userEvent.click(await button('Change 2 columns'))
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    const posts = sent
      .filter((s) => s.path === '/api/tables/5/columns')
      .map((s) => s.body as { preview?: boolean; kind: string; versions: object })
    expect(posts.map((p) => [p.preview ?? false, p.kind])).toEqual([
      [true, 'date'],
      [false, 'date'],
    ])
    expect(posts[1]!.versions).toEqual(Object.fromEntries(numbers.map((c) => [String(c.id), c.version])))
    expect(await button('Change chosen…')).toBeDisabled()
  })
})

describe('a column in full', () => {
  it('is drawn larger with its own bins and scale, its frequent values and the records at its ends', async () => {
    const column = (answers['GET /api/tables/5'] as { columns: { id: number; name: string }[] }).columns.find(
      (c) => c.name === 'days_ahead',
    )!
    open(`/study/2/table/5?column=${column.id}`)
    await userEvent.click(await button('Larger'))
    const asked = () => new URLSearchParams(sent.filter((s) => s.path === `/api/columns/${column.id}`).at(-1)!.query)
    await userEvent.click(await screen.findByRole('switch', { name: /logarithmic scale/ }, { timeout: 8000 }))
    await waitFor(() => expect(asked().get('log')).toBe('true'))
    fireEvent.change(screen.getByRole('slider', { name: 'Number of bins' }), { target: { value: 12 } })
    await waitFor(() => expect(asked().get('bins')).toBe('12'))
    const ends = await screen.findByRole('table', { name: 'Highest records' })
    await userEvent.click(within(ends).getAllByRole('link')[0]!)
    await waitFor(() => expect(where()).toMatch(/rows\?only=\d+$/))
    clean()
  })
})

describe('thresholds', () => {
  it('are set for the study, back to usual in one step, and numbers only', async () => {
    open('/study/2/table/5?narrow=findings')
    await userEvent.click(await button('Thresholds…'))
    const missing = await screen.findByLabelText('A column lacks at least this share of its cells', {}, { timeout: 8000 })
    await userEvent.clear(missing)
    await userEvent.type(missing, 'much')
    await says('Each threshold is a number from 0 on.')
    expect(screen.getByRole('button', { name: 'Look again' })).toBeDisabled()
    await userEvent.click(screen.getByRole('button', { name: 'All as usual' }))
    await userEvent.clear(missing)
    await userEvent.type(missing, '0.1')
    instead['PUT /api/studies/2/thresholds'] = { status: 200, body: answers['GET /api/studies/2/thresholds'] }
    await userEvent.click(screen.getByRole('button', { name: 'Look again' }))
    expect((await request('PUT', '/api/studies/2/thresholds')).body).toEqual({ values: { missing_share: 0.1, skewness: 2 } })
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
  })
})

describe('a table made from others', () => {
  it('is looked at first, named, and made', async () => {
    const main = answers['GET /api/tables/5'] as { name: string; columns: { name: string }[] }
    const other = {
      ...main,
      id: 9,
      name: 'households',
      columns: main.columns.filter((c) => ['visit_id', 'job_type', 'boiler_age'].includes(c.name)),
    }
    instead['GET /api/studies/2/tables'] = {
      status: 200,
      body: [
        { ...main, columns: [] },
        { ...other, columns: [] },
      ],
    }
    instead['GET /api/tables/9'] = { status: 200, body: other }
    open('/study/2/table/5')
    await userEvent.click(await button('Combine…'))
    await userEvent.click(await button('Take a column: which columns?'))
    await userEvent.click(await screen.findByRole('menuitem', { name: /boiler_age/ }))
    instead['POST /api/studies/2/combinations'] = {
      status: 200,
      body: {
        sentence: 'looks up boiler_age',
        toll: { rowsBefore: 6000, rowsAfter: 6000, columnsBefore: 8, columnsAfter: 9, unmatched: 12, keyless: 1, multiplied: 2 },
        names: ['visit_id', 'boiler_age'],
        records: [['V1', null]],
      },
    }
    await userEvent.click(await button('See what it gives'))
    await says(
      '6,000 × 8 → 6,000 × 9. 12 records find no match: their new cells are missing. 1 record has no key. 2 keys stand more than once',
    )
    expect(screen.getByRole('button', { name: 'Make it' })).toBeDisabled()
    await userEvent.type(screen.getByLabelText('Name of the table'), 'visits with ages')
    instead['POST /api/studies/2/combinations'] = { status: 202, body: { ...job, subject: 9 } }
    await userEvent.click(screen.getByRole('button', { name: 'Make it' }))
    await waitFor(() => expect(where()).toBe('/study/2/table/9'))
    expect(sent.filter((s) => s.method === 'POST').map((s) => s.body)).toEqual([
      {
        tableId: 5,
        otherId: 9,
        recipe: { recipe: 'look up', key: 'visit_id', otherKey: 'visit_id', columns: ['boiler_age'] },
        name: '',
        preview: true,
      },
      {
        tableId: 5,
        otherId: 9,
        recipe: { recipe: 'look up', key: 'visit_id', otherKey: 'visit_id', columns: ['boiler_age'] },
        name: 'visits with ages',
        preview: false,
      },
    ])
  })

  it('gathers what a sentence says', async () => {
    instead['GET /api/studies/2/tables'] = { status: 200, body: [] }
    open('/study/2/table/5')
    await userEvent.click(await button('Combine…'))
    await says('needs a second table in this study')
    await userEvent.click(await button('What: Look up columns'))
    await userEvent.click(screen.getByRole('menuitem', { name: /Gather records/ }))
    for (const figure of ['the mean of', 'the share of records where', 'the latest']) {
      await userEvent.click(await button('Gather more: and…'))
      await userEvent.click(screen.getByRole('menuitem', { name: figure }))
    }
    instead['POST /api/studies/2/combinations'] = { status: 422, body: { title: 'There is no column gone.', status: 422, field: 'recipe' } }
    await userEvent.click(await button('See what it gives'))
    await says('There is no column gone.')
    const { recipe } = (await request('POST', '/api/studies/2/combinations')).body as {
      recipe: { figures: { how: string; column?: string }[] }
    }
    expect(recipe.figures.map((f) => f.how)).toEqual(['count', 'mean', 'share', 'latest'])
    expect(recipe.figures[2]).toMatchObject({ how: 'share', value: expect.any(String) as string })
  })
})
