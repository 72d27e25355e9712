import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it } from 'vitest'
import type { Approval, Service } from './data/work'
import { button, clean, instead, open, request, says, standIn } from './harness'

standIn()

const approval = {
  id: 5,
  number: 1,
  trialId: 5,
  trialNumber: 1,
  title: 'Gradient boosting with a name that is much too long for its column',
  by: 'Mara Kell',
  sentence: 'Ranks best on rows it had not seen.',
  limits: 'Commercial boilers.',
  again: '2027-03-01',
  due: false,
  rule: 'refuse',
  cutoff: 0.15,
  evidence: {},
  atRisk: ['tenure = tenant: 40 in 100 caught of its events, 61 in 100 of all others'],
  stamp: 'abcdef0123456789',
  withdrawn: null,
  at: '2026-11-30T09:00:00+00:00',
} as unknown as Approval

const version = (number: number, state: string) => ({
  number,
  approvalId: 4 + number,
  title: 'Gradient boosting',
  by: 'Mara Kell',
  at: '2026-11-30T09:00:00+00:00',
  value: 0.735,
  measure: 'AUC',
  calls: 800,
  state,
})

const service = {
  id: 3,
  name: 'return-visits',
  path: '/serve/return-visits',
  version: 1,
  paused: false,
  since: '2026-11-30T09:00:00+00:00',
  says: 'It answers: 800 calls, half within 7 ms. reminder_sent has moved since training.',
  versions: [version(2, 'rests'), version(1, 'answers')],
  tokens: [
    {
      id: 9,
      caller: 'Online booking',
      tail: '7Q2X',
      expires: null,
      perMinute: 600,
      perDay: 600,
      reasons: true,
      calls: 571,
      mostADay: 571,
      lastAt: null,
      revoked: false,
    },
  ],
  days: [{ day: '2026-11-30', version: 1, calls: 800, records: 800, refused: 2, half: 7, most: 15 }],
  columns: [
    { column: 'reminder_sent', index: 0.4, records: 800, says: 'yes: 62 in 100 then, 49 now' },
    { column: 'slot', index: 0.01, records: 800, says: 'as then' },
  ],
  half: 7,
  most: 15,
  example: { days_ahead: 7, slot: '10-13' },
  fields: [
    { name: 'days_ahead', kind: 'number', values: [] },
    { name: 'slot', kind: 'category', values: ['08-10', '10-13'] },
  ],
  keepDays: 0,
  examples: [
    { language: 'curl', code: 'curl -X POST {host}/serve/return-visits' },
    { language: 'Python', code: 'urllib.request' },
  ],
} as unknown as Service

const shown = (approvals: Approval[], services: Service[]) => {
  instead['GET /api/studies/2/approvals'] = { status: 200, body: approvals }
  instead['GET /api/studies/2/services'] = { status: 200, body: services }
}

describe('a service', () => {
  it('begins with an approval by name', async () => {
    shown([], [])
    instead['POST /api/trials/1/approvals'] = { status: 201, body: approval }
    open('/study/2/decisions/service')
    await says('No model is approved for use. What is scored until then is a draft.')
    await userEvent.click((await screen.findAllByRole('button', { name: 'Approve a model…' }))[0]!)
    const dialog = within(await screen.findByRole('dialog'))
    expect(dialog.getByRole('button', { name: 'Approve' })).toBeDisabled()
    await userEvent.type(dialog.getByLabelText('Why it may be used'), 'Better than calling everybody.')
    await userEvent.type(dialog.getByLabelText('What it is not to be used for'), 'Commercial boilers.')
    await userEvent.clear(dialog.getByLabelText('Called from this chance on'))
    await userEvent.type(dialog.getByLabelText('Called from this chance on'), '0.15')
    await clean()
    await userEvent.click(dialog.getByRole('button', { name: 'Approve' }))
    const sent = await request('POST', /approvals$/)
    expect(sent.body).toMatchObject({
      sentence: 'Better than calling everybody.',
      limits: 'Commercial boilers.',
      rule: 'refuse',
      cutoff: 0.15,
    })
  })

  it('is opened under a name once a model is approved', async () => {
    shown([approval], [])
    instead['POST /api/studies/2/services'] = { status: 409, body: { title: 'There is a service named x already.', status: 409 } }
    open('/study/2/decisions/service')
    await says('A model is approved; no service answers with it yet.')
    await userEvent.type(await screen.findByLabelText('Name of the service'), 'x')
    await userEvent.click(await button('Open it'))
    await says('There is a service named x already.')
    expect((await request('POST', '/api/studies/2/services')).body).toEqual({ name: 'x', approvalId: 5 })
  })

  it('shows versions, callers, calls and what moved, and switches', async () => {
    shown([{ ...approval, id: 6, number: 2 } as Approval, approval], [service])
    instead['PATCH /api/services/3'] = { status: 200, body: service }
    open('/study/2/decisions/service')
    await says('It answers: 800 calls, half within 7 ms. reminder_sent has moved since training.')
    await says('Version 1 answers; another rests')
    await says('reminder_sent moved since training')
    await says('571 of 600')
    await says('A group at risk: tenure = tenant: 40 in 100 caught of its events')
    expect(screen.getByText('571 of 600')).toHaveClass('brass')
    await clean()
    await userEvent.click(await button('Switch to version 2'))
    expect((await request('PATCH', '/api/services/3')).body).toEqual({ approvalId: 6 })
    await userEvent.click(await button('Language: curl'))
    await userEvent.click(screen.getByRole('menuitem', { name: 'Python' }))
    await says('urllib.request')
  })

  it('hands out a token, shown once', async () => {
    shown([approval], [service])
    instead['POST /api/services/3/tokens'] = { status: 201, body: { token: service.tokens[0], shown: 'dk_secret' } }
    open('/study/2/decisions/service')
    await userEvent.click(await button('New token…'))
    await userEvent.type(screen.getByLabelText('Who calls'), 'Night batch')
    await userEvent.click(await button('Make it'))
    await says('Copy it now: it is shown this once')
    await says('dk_secret')
    expect((await request('POST', '/api/services/3/tokens')).body).toMatchObject({ caller: 'Night batch', perDay: 20000, reasons: true })
  })

  it('asks one version or two with a record of any values', async () => {
    shown([approval], [service])
    const answer = (v: number, chance: number) => ({
      version: v,
      milliseconds: 8.1,
      answer: {
        chance,
        chance_low: 0.44,
        chance_high: 0.71,
        call: true,
        confidence: 'fair',
        remarks: ['slot "noon" was never seen in training.'],
        because: [{ column: 'days_ahead', value: '30', points: -5.4 }],
        version: v,
      },
    })
    instead['POST /api/services/3/try'] = {
      status: 200,
      body: [answer(1, 0.58), { version: 2, milliseconds: 2, answer: { refused: 'slot was not given.', version: 2 } }],
    }
    open('/study/2/decisions/service')
    instead['GET /api/services/3/records/20'] = { status: 200, body: { days_ahead: 3, slot: '08-10' } }
    const days = await screen.findByLabelText('days_ahead')
    await userEvent.type(screen.getByLabelText('Number of the record'), '20{Enter}')
    await waitFor(() => expect(days).toHaveValue('3'))
    await userEvent.clear(days)
    await userEvent.type(days, '30{Enter}')
    await userEvent.clear(screen.getByLabelText('slot'))
    await userEvent.type(screen.getByLabelText('slot'), 'noon{Enter}')
    await userEvent.click(await button('Ask 1 and 2'))
    await says('58 in 100')
    await says('slot "noon" was never seen in training.')
    await says('Version 2 refuses it')
    await says('slot was not given.')
    expect((await request('POST', '/api/services/3/try')).body).toEqual({ record: { days_ahead: 30, slot: 'noon' }, versions: [1, 2] })
  })

  it('withdraws an approval with a reason only', async () => {
    shown([approval], [service])
    instead['POST /api/approvals/5/withdraw'] = { status: 200, body: approval }
    open('/study/2/decisions/service')
    await userEvent.click(await button('Withdraw…'))
    expect(await button('Withdraw it')).toBeDisabled()
    await userEvent.type(screen.getByLabelText('Why it is withdrawn'), 'Worn.')
    await userEvent.click(await button('Withdraw it'))
    expect((await request('POST', '/api/approvals/5/withdraw')).body).toEqual({ why: 'Worn.' })
  })
})

describe('a model that leaves', () => {
  const away = {
    forms: [
      { form: 'sql-postgresql', title: 'SQL for PostgreSQL', within: 1e-9 },
      { form: 'onnx', title: 'ONNX', within: 1e-5 },
    ],
    cannot: [],
    draft: true,
    company: ['bookings', 'visits'],
    inside: [] as unknown[],
    inputs: ['days_ahead', 'slot'],
    taken: [
      {
        id: 1,
        form: 'onnx',
        title: 'ONNX',
        fileName: 'trial-1-draft.onnx',
        size: 199057,
        says: 'Run by an independent ONNX runtime on 372 records.',
        records: 372,
        largest: 1e-8,
        made: { real: 200, 'with a missing value': 16 },
        draft: true,
        by: 'Mara Kell',
        at: '2026-11-30T09:00:00+00:00',
      },
    ],
  }
  const at = (body: unknown) => {
    for (const id of [1, 2]) instead[`GET /api/trials/${id}/take-away`] = { status: 200, body }
  }

  it('is proven, kept with its proof, and says that it is a draft', async () => {
    at(away)
    instead['GET /api/connections'] = {
      status: 200,
      body: { hosts: ['db:5432'], connections: [{ id: 2, host: 'db:5432', database: 'company', login: 'reader' }] },
    }
    open('/study/2/decisions/away')
    await says('It leaves with its preparation in 2 forms; each is run by somebody else before it is handed out.')
    expect(await screen.findByRole('link', { name: 'trial-1-draft.onnx' })).toHaveAttribute('href', '/api/taken/1/file')
    await says('200 real, 16 with a missing value')
    await clean()
    await userEvent.type(screen.getByLabelText('Table or query to score'), 'visits')
    await userEvent.type(screen.getByLabelText('New table'), 'visits_scored')
    await userEvent.type(screen.getByLabelText('Columns carried along'), 'id, day')
    const press = await button('Score it there')
    for (const id of [1, 2])
      instead[`POST /api/trials/${id}/inside`] = {
        status: 202,
        body: { id: 9, kind: 'inside', subject: 1, state: 'waiting' },
      }
    const scored = {
      id: 1,
      place: 'company at db:5432',
      from: 'visits',
      into: 'visits_scored',
      draft: true,
      by: 'Mara Kell',
      at: '2026-11-30T09:00:00+00:00',
    }
    const running = { ...scored, state: 'running', rows: 0, seconds: 0, says: '' }
    const done = { ...scored, state: 'done', rows: 1200, seconds: 1.5, says: 'Its answers are the same.' }
    const failed = { ...running, id: 2, state: 'failed', into: 'visits_again', says: 'The database says: no. Nothing was written.' }
    at({ ...away, inside: [running] })
    await userEvent.click(press)
    await says('visits_scored is being written, a draft')
    at({ ...away, inside: [failed, done] })
    await userEvent.click(press)
    await says('visits_again was not written, a draft')
    await says('1,200 records in visits_scored, a draft')
    expect((await request('POST', /inside$/)).body).toEqual({
      connectionId: 2,
      from: 'visits',
      into: 'visits_scored',
      keys: ['id', 'day'],
    })
  })

  it('scores in the company database with no server at hand', async () => {
    at({ ...away, taken: [] })
    open('/study/2/decisions/away')
    await says('the company database (simulated)')
    await userEvent.type(await screen.findByLabelText('New table'), 'bookings_scored')
    for (const id of [1, 2]) instead[`POST /api/trials/${id}/inside`] = { status: 202, body: { id: 9, kind: 'inside', state: 'waiting' } }
    await userEvent.click(await button('Score it there'))
    expect((await request('POST', /inside$/)).body).toEqual({ connectionId: 0, from: 'bookings', into: 'bookings_scored', keys: [] })
  })

  it('says before why it cannot', async () => {
    at({ ...away, cannot: ['A model of this kind answers by what no formula holds; ask it over its service instead.'], taken: [] })
    open('/study/2/decisions/away')
    await says('This model cannot be written out.')
    await says('A model of this kind answers by what no formula holds; ask it over its service instead.')
    expect(screen.queryByRole('button', { name: 'Prove and take' })).toBeNull()
  })
})
