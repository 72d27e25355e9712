import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { answers, clean, heading, instead, open, sent, standIn } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

describe('screens drawn from real answers', () => {
  it.each([
    ['/', /Studies/, ['Which visits will find nobody at home?', 'a first trial']],
    ['/study/2/table/5', /Register/, ['days_ahead', 'all distinct', '1 in 5 missing', 'Known only after 1']],
    ['/study/2/table/5/rows', /Rows/, ['V100001', '1 to 100 of 6,000']],
    [
      '/study/2/table/5/pictures',
      /Pictures/,
      ['7 pictures, each says what it found', 'Strongest pairs', 'leans furthest right', 'pairs are clear of chance'],
    ],
    ['/study/2/table/5/pictures?show=missing', /Pictures/, ['records are complete', 'Missing more often where', 'boiler_make is']],
    ['/study/2/table/5/pictures?show=apart', /Pictures/, ['stand apart in', 'Beyond fences', 'travel_km']],
    ['/study/2/table/5/pictures?show=lopsided', /Pictures/, ['skewness', 'No category has values with under 1%']],
    ['/study/2/table/5/pictures?show=repeats', /Pictures/, ['every column', 'No record repeats another']],
    ['/study/2/table/5/pictures?show=network', /Pictures/, ['are linked at 0.20 or more', 'Linked from 0.20']],
    ['/study/2/table/5/pictures?show=two', /Pictures/, ['Over time', 'Draw visit_date against']],
    ['/study/2/preparation', /Preparation/, ['Set columns aside', '21 to', '2 of', 'contact_channel']],
    ['/study/2/trials', /Plan trials/, ['5 folds, 2 times', 'Logistic regression', '1,200 sealed']],
    ['/study/2/judgment', /Standings/, ['leader', 'Do nothing: the same chance for all', '−0.1']],
    [
      '/study/2/judgment/1',
      /Logistic regression, \d+ columns/,
      ['Accuracy is the wrong figure here', 'called in vain', 'Odds ratio', ' to '],
    ],
    [
      '/study/2/reasons?trial=1&record=3',
      /Record 3/,
      ['The average, to begin with', 'Sums, and the chance', 'V100003', 'What if', 'Reach another answer'],
    ],
    ['/study/2/decisions?trial=1&table=5', /Score visits/, ['columns found', 'These are the records the model was fitted on']],
    ['/study/2/decisions/1', /visits, scored/, ['Left alone', 'the download holds all']],
    ['/study/2/logbook', /Logbook/, ['Trial 1, logistic regression on variant A: AUC', '1,200 rows sealed']],
  ])('%s', async (path, title, says) => {
    open(path)
    await heading(title)
    for (const text of says) await waitFor(() => expect(document.body.textContent).toContain(text), { timeout: 8000 })
    clean()
  })
})

describe('what screens send', () => {
  it('changes a kind with the version it was shown', async () => {
    const column = (answers['GET /api/tables/5'] as { columns: { id: number; name: string; version: number }[] }).columns.find(
      (c) => c.name === 'days_ahead',
    )!
    open(`/study/2/table/5?column=${column.id}`)
    await userEvent.click(await screen.findByRole('button', { name: 'Kind: number' }, { timeout: 8000 }))
    const newer = { ...column, kind: 'text', version: column.version + 3 }
    instead[`PATCH /api/columns/${column.id}`] = { status: 412, body: { title: 'Somebody has changed this.', status: 412, current: newer } }
    await userEvent.click(screen.getByRole('menuitem', { name: /category/ }))
    const patches = () => sent.filter((s) => s.method === 'PATCH').map((s) => [s.body, s.headers.get('If-Match')])
    await waitFor(() => expect(patches()).toEqual([[{ kind: 'category' }, String(column.version)]]))
    const both = await screen.findByRole('table', { name: 'Two versions' })
    expect(
      within(both)
        .getAllByRole('cell')
        .map((c) => c.textContent),
    ).toEqual(['Kind', 'category', 'text'])
    instead[`PATCH /api/columns/${column.id}`] = { status: 200, body: { ...newer, kind: 'category' } }
    await userEvent.click(screen.getByRole('button', { name: 'Save yours over it' }))
    await waitFor(() => expect(patches()[1]).toEqual([{ kind: 'category' }, String(newer.version)]))
    await waitFor(() => expect(screen.queryByRole('table', { name: 'Two versions' })).toBeNull())
  })

  it('shows both lists of steps when somebody was quicker, and can keep the stored one', async () => {
    const stored = (answers['GET /api/studies/2/preparation'] as { variants: { version: number; steps: object[] }[] }).variants[0]!
    const current = { ...stored, version: 9, steps: stored.steps.slice(0, 1) }
    instead['PUT /api/variants/2'] = { status: 412, body: { title: 'Somebody has changed this.', status: 412, current } }
    open('/study/2/preparation')
    await userEvent.click(await screen.findByRole('button', { name: 'Switch off step 2' }, { timeout: 8000 }))
    const both = await screen.findByRole('table', { name: 'Two versions' }, { timeout: 8000 })
    expect(within(both).getAllByRole('row')).toHaveLength(3)
    expect(both).toHaveTextContent(/Step 2Fill missing: .*switched off–/)
    await userEvent.click(screen.getByRole('button', { name: 'Keep the stored one' }))
    await waitFor(() => expect(screen.queryByRole('table', { name: 'Two versions' })).toBeNull())
    expect(sent.filter((s) => s.method === 'PUT')).toHaveLength(1)
  })

  it('lists deleted studies until they are gone, and brings them back', async () => {
    instead['GET /api/studies/deleted'] = {
      status: 200,
      body: [{ id: 7, name: 'Old', question: 'Who moved away?', deletedAt: '2026-11-20T10:00:00+00:00', daysLeft: 27 }],
    }
    open('/')
    const section = await screen.findByRole('region', { name: 'Deleted studies' }, { timeout: 8000 })
    expect(section).toHaveTextContent('1 deleted study can be brought back')
    expect(section).toHaveTextContent('kept for 27 more days')
    await userEvent.click(within(section).getByRole('button', { name: 'Bring back Old' }))
    await waitFor(() => expect(sent.some((s) => s.method === 'POST' && s.path === '/api/studies/7/return')).toBe(true))
  })

  it('tells of running work how far it is, what it has reached, and cancels it', async () => {
    const job = { id: 4, studyId: 2, studyName: 'Visits', kind: 'trial', subject: 1, state: 'running', seconds: 5, message: null }
    instead['GET /api/jobs'] = {
      status: 200,
      body: [
        { ...job, title: 'Trial 3', share: 0.4, secondsLeft: 8, soFar: { name: 'AUC', value: 0.7421, parts: 4 } },
        { ...job, id: 5, title: 'Trial 2', share: 0.2, secondsLeft: null, soFar: { name: 'AUC', value: 0.7, parts: 1 } },
        { ...job, id: 3, title: 'Import', state: 'failed', share: 1, secondsLeft: null, soFar: null, message: 'The disk is full.' },
      ],
    }
    open('/')
    const pill = await screen.findByRole('button', { name: /2 running/ }, { timeout: 8000 })
    expect(pill).toHaveTextContent('2 running 40%8 s leftbest AUC 0.742')
    await userEvent.click(pill)
    const list = await screen.findByRole('dialog')
    expect(list).toHaveTextContent('AUC 0.742 so far, the mean of 4 parts')
    expect(list).toHaveTextContent('AUC 0.700 so far, from one part')
    expect(list).toHaveTextContent('could not be doneThe disk is full.')
    await userEvent.click(within(list).getAllByRole('button', { name: 'Cancel' })[0]!)
    await waitFor(() => expect(sent.some((s) => s.method === 'POST' && s.path === '/api/jobs/4/cancel')).toBe(true))
  })

  it('previews a step before it is applied and sends all steps then', async () => {
    open('/study/2/preparation')
    await userEvent.click(await screen.findByRole('button', { name: 'Fill these…' }, { timeout: 8000 }))
    const toll = await screen.findByRole('table', { name: 'Toll' }, { timeout: 8000 })
    expect(within(toll).getByText('none lost')).toBeInTheDocument()
    expect(sent.some((s) => s.method === 'PUT')).toBe(false)
    await userEvent.click(screen.getByRole('button', { name: 'Apply step 3' }))
    const put = await waitFor(() => sent.find((s) => s.method === 'PUT') ?? Promise.reject(new Error('nothing was sent')))
    const steps = (put.body as { steps: { step: string; columns: string[]; note?: string }[] }).steps
    expect(steps.map((s) => s.step)).toEqual(['set_aside', 'fill_missing', 'fill_missing'])
    expect(steps[2]?.columns).toEqual(['contact_channel'])
    expect(steps[0]?.note).toContain('near copy')
  })

  it('takes a step back and again with the keys, wherever the focus is', async () => {
    const stored = answers['GET /api/studies/2/preparation'] as { variants: object[] }
    instead['PUT /api/variants/2'] = { status: 200, body: stored.variants[0] }
    const puts = () => sent.filter((s) => s.method === 'PUT').map((s) => (s.body as { steps: { step: string }[] }).steps.map((t) => t.step))
    open('/study/2/preparation')
    await userEvent.click(await screen.findByRole('button', { name: 'Remove step 2' }, { timeout: 8000 }))
    await waitFor(() => expect(screen.getByRole('button', { name: 'Undo' })).toBeEnabled())
    ;(document.activeElement as HTMLElement).blur()
    expect(document.body).toHaveFocus()
    await userEvent.keyboard('{Control>}z{/Control}')
    await waitFor(() => expect(puts()).toEqual([['set_aside'], ['set_aside', 'fill_missing']]))
    await waitFor(() => expect(screen.getByRole('button', { name: 'Redo' })).toBeEnabled())
    await userEvent.keyboard('{Control>}{Shift>}z{/Shift}{/Control}')
    await waitFor(() => expect(puts()).toHaveLength(3))
  })

  it('starts a trial once, with a key', async () => {
    open('/study/2/trials')
    instead['POST /api/studies/2/trials'] = { status: 409, body: { title: 'No column is left as an input.', status: 409 } }
    const run = await screen.findByRole('button', { name: 'Run this trial' }, { timeout: 8000 })
    await waitFor(() => expect(run).toBeEnabled())
    await userEvent.click(run)
    const post = await waitFor(
      () => sent.find((s) => s.path.endsWith('/trials') && s.method === 'POST') ?? Promise.reject(new Error('nothing was sent')),
    )
    expect(post.body).toMatchObject({ learner: 'logistic' })
    expect(post.headers.get('Idempotency-Key')).toBeTruthy()
    expect(await screen.findByText(/No column is left as an input/)).toBeInTheDocument()
  })

  it('asks before the seal is opened', async () => {
    open('/study/2/judgment/1')
    await userEvent.click(await screen.findByRole('button', { name: 'Open the seal…' }, { timeout: 8000 }))
    const dialog = await screen.findByRole('dialog')
    expect(dialog).toHaveTextContent('1,200 sealed rows are the final examination')
    expect(sent.some((s) => s.path.endsWith('/seal'))).toBe(false)
    await userEvent.click(within(dialog).getByRole('button', { name: 'Keep it closed' }))
    expect(sent.some((s) => s.path.endsWith('/seal'))).toBe(false)
  })

  it.each(['abc', '-1', '7', '', 'NaN', '0'])('a cut-off of “%s” in the address is read as the usual one', async (asked) => {
    open(`/study/2/judgment/1?cutoff=${asked}`)
    const slider = await screen.findByRole('slider', { name: 'Cut-off' }, { timeout: 8000 })
    const usual = (answers['GET /api/trials/1/judgment'] as { cutoff: number }).cutoff
    expect(slider).toHaveAttribute('aria-valuenow', String(Math.round(100 * usual)))
  })

  it('follows the cut-off in the address', async () => {
    open('/study/2/judgment/1?cutoff=0.5')
    await heading(/Logistic regression/)
    await waitFor(() => expect(document.body.textContent).toContain('At a cut-off of 50% it catches'))
  })
})

describe('when things are not as they should be', () => {
  it('asks to sign in, and says why it did not work', async () => {
    instead['GET /api/session'] = { status: 401, body: { title: 'Sign in first.', status: 401 } }
    instead['POST /api/sign-in'] = {
      status: 401,
      body: { title: 'The name or the password is not right.', status: 401, field: 'password' },
    }
    open('/')
    await userEvent.click(await screen.findByRole('button', { name: 'Sign in' }, { timeout: 8000 }))
    expect(await screen.findByRole('alert')).toHaveTextContent('The name or the password is not right.')
    expect(sent.find((s) => s.path === '/api/sign-in')?.body).toMatchObject({ login: 'mara', password: 'ember-walk' })
  })

  it('makes the owner’s account with the code on a new installation', async () => {
    instead['GET /api/session'] = { status: 401, body: { title: 'Sign in first.', status: 401 } }
    instead['GET /api/setup'] = { status: 200, body: { needsOwner: true, demo: false } }
    instead['POST /api/setup'] = {
      status: 422,
      body: { title: 'This is not the code that the server printed.', status: 422, field: 'code' },
    }
    open('/')
    await userEvent.type(await screen.findByLabelText(/One-time code/, {}, { timeout: 8000 }), 'ABC')
    await userEvent.type(screen.getByLabelText(/Your name/), 'Bo Ss')
    await userEvent.type(screen.getByLabelText(/Sign-in name/), 'boss')
    await userEvent.type(screen.getByLabelText(/Password/), 'a-long-password')
    await userEvent.click(screen.getByRole('button', { name: 'Make the account' }))
    expect(await screen.findByRole('alert')).toHaveTextContent('This is not the code')
    expect(sent.find((s) => s.path === '/api/setup' && s.method === 'POST')?.body).toEqual({
      code: 'ABC',
      name: 'Bo Ss',
      login: 'boss',
      password: 'a-long-password',
    })
  })

  it('says what failed beside the thing, and tries again', async () => {
    instead['GET /api/studies/2/logbook'] = {
      status: 500,
      body: { title: 'Something went wrong that should not have. Nothing was changed.', status: 500 },
    }
    open('/study/2/logbook')
    expect(await screen.findByRole('alert', {}, { timeout: 8000 })).toHaveTextContent('Nothing was changed')
    delete instead['GET /api/studies/2/logbook']
    await userEvent.click(screen.getByRole('button', { name: 'Try again' }))
    await waitFor(() => expect(document.body.textContent).toContain('Imported visits.csv'))
  })

  it('teaches where there is nothing yet', async () => {
    const study = answers['GET /api/studies/2'] as object
    instead['GET /api/studies/2'] = { status: 200, body: { ...study, tableId: null, tables: [], trials: [], target: null, rows: 0 } }
    instead['GET /api/studies/2/trials'] = {
      status: 200,
      body: { trials: [], baselineAuc: 0.5, baseRate: null, folds: 0, repeats: 0, sealedRows: 0, sealOpenings: 0 },
    }
    open('/study/2/table')
    expect(await screen.findByText('A study begins with a table of past cases', {}, { timeout: 8000 })).toBeInTheDocument()
    clean()
  })
})
