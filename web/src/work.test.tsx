import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { answers, button, clean, heading, instead, job, open, request, says, sent, standIn, where } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

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
    // Four classes by the name of what came out, rather than a yes/no that is known beforehand.
    expect(put.body).toMatchObject({ column: 'outcome', task: 'several classes', tableId: 5 })
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
    open(
      `/study/2/preparation?step=${encodeURIComponent(JSON.stringify({ step: 'fill_missing', columns: ['contact_channel'], method: 'median' }))}`,
    )
    await says('Preview step 3. Nothing is applied yet.')
    await waitFor(() => expect(where()).toBe('/study/2/preparation'))
    expect(sent.some((s) => s.method === 'PUT')).toBe(false)
  })

  it('rank what goes with the target, and say what was left out', async () => {
    const relation = {
      alone: 0.63,
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
          { ...relation, column: 'tenure', alone: 0.51, low: 0.48, high: 0.54, adjusted: 0.7, says: '', lowest: null, highest: null },
          { ...relation, column: 'minutes', alone: 0.9, adjusted: null, late: true },
          { ...relation, column: 'visit_id', alone: null, leftOut: 'a key' },
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
    expect(rules).toHaveTextContent('job_type is part fitting and reminder_sent is no11620.0%14.7%2.3Held')
    expect(rules).toHaveTextContent('11.2%1.7Did not hold')
    clean()
  })

  it.each([
    {
      task: 'number',
      of: null,
      figures: { check: 41.5, checkLow: 39.2, checkHigh: 43.8, found: 42, foundLow: 40, foundHigh: 44, overall: 36.1, lift: null },
      says: 'rises: 32.4 up to 1, 41.2 above 16',
      ends: [32.4, 41.2],
      reads: ['Concordance', '32.4 to 41.2', 'reminder_sent is no11642.041.5+5.40Held'],
    },
    {
      task: 'several classes',
      of: 'leak',
      figures: {},
      says: '“leak” rises: 9.0% up to 1, 36.0% above 16',
      ends: [0.09, 0.36],
      reads: ['Mean AUC', '9.0% to 36.0%', '“leak”, where job_type'],
    },
  ])('say what goes with $task', async ({ task, of, figures, says: sentence, ends, reads }) => {
    const relation = { alone: 0.63, low: 0.6, high: 0.66, p: 0.0001, adjusted: 0.001, says: sentence, late: false, leftOut: null }
    const rule = { ...(found as unknown as { rules: object[] }).rules[0], of, ...figures }
    const body = { ...found, task, event: null, target: 'outcome', rules: [rule] }
    instead['GET /api/tables/5/findings'] = {
      status: 200,
      body: { ...body, relations: [{ ...relation, column: 'days_ahead', lowest: ends[0], highest: ends[1] }] },
    }
    instead['GET /api/studies/2'] = { status: 200, body: { ...(answers['GET /api/studies/2'] as object), task, event: null } }
    open('/study/2/table/5/goes-with')
    const ledger = await screen.findByRole('table', { name: /Columns by what they say/ })
    expect(ledger).toHaveTextContent(reads[0]!)
    expect(ledger).toHaveTextContent(sentence)
    expect(screen.getByRole('img', { name: reads[1]! })).toBeInTheDocument()
    expect(screen.getByRole('table', { name: 'Plain rules' })).toHaveTextContent(reads[2]!)
    expect(document.body).not.toHaveTextContent('“”')
    clean()
  })
})
