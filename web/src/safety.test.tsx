import { screen, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { beforeEach, describe, expect, it } from 'vitest'
import { button, clean, instead, open, request, says, standIn } from './harness'

standIn()

const safety = {
  secondFactor: false,
  codesLeft: 0,
  places: [
    { hash: 'a1', address: '10.0.0.4', agent: 'This browser', began: '2026-11-30T08:00:00Z', seen: '2026-11-30T09:00:00Z', own: true },
    { hash: 'b2', address: '10.0.0.9', agent: 'Another one', began: '2026-11-29T08:00:00Z', seen: '2026-11-29T09:00:00Z', own: false },
  ],
}
const at = (body: unknown) => {
  instead['GET /api/me/safety'] = { status: 200, body }
}

describe('the safety of an account', () => {
  beforeEach(() => {
    at(safety)
    instead['GET /api/audit'] = {
      status: 200,
      body: [{ who: 'mara', what: 'signed in', address: '10.0.0.4', at: '2026-11-30T08:00:00Z' }],
    }
    instead['GET /api/health'] = {
      status: 200,
      body: {
        says: [],
        store: 'PostgreSQL',
        freeDiskMb: 20480,
        queueAgeSeconds: 0,
        workers: [
          { lanes: ['quick'], pid: 11, machine: 'one-a1' },
          { lanes: ['long'], pid: 12, machine: 'two-b2' },
        ],
      },
    }
    instead['GET /api/accounts'] = { status: 200, body: [] }
  })

  it('asks for a code from an app once it was shown', async () => {
    open('/people')
    await says('With your password alone.')
    instead['POST /api/me/second-factor'] = { status: 200, body: { secret: 'ABCDEFGHIJKLMNOP', link: 'otpauth://totp/x', codes: [] } }
    await userEvent.click(await button('Ask for a code from an app too'))
    await says('ABCD EFGH IJKL MNOP')
    await clean()
    expect(await button('Switch it on')).toBeDisabled()
    await userEvent.type(screen.getByLabelText('The code it shows now'), '123456')
    instead['POST /api/me/second-factor/confirm'] = { status: 200, body: { secret: '', link: '', codes: ['aaaaa-11111', 'bbbbb-22222'] } }
    at({ ...safety, secondFactor: true, codesLeft: 10 })
    await userEvent.click(await button('Switch it on'))
    expect((await request('POST', /confirm$/)).body).toEqual({ code: '123456', password: '' })
    await says('aaaaa-11111')
    await says('10 spare codes left')
  })

  it('switches it off with the password', async () => {
    at({ ...safety, secondFactor: true, codesLeft: 3 })
    instead['POST /api/me/second-factor/end'] = { status: 422, body: { title: 'The password is not right.', field: 'password' } }
    open('/people')
    await userEvent.type(await screen.findByLabelText('Your password'), 'no')
    await userEvent.click(await button('Switch it off'))
    await says('The password is not right.')
  })

  it('lists places and ends one, but not this one', async () => {
    open('/people')
    const places = await screen.findByRole('table', { name: 'Where you are signed in' })
    expect(within(places).getAllByRole('button')).toHaveLength(1)
    instead['DELETE /api/me/sessions/b2'] = { status: 204, body: null }
    await userEvent.click(within(places).getByRole('button', { name: 'Sign out' }))
    await request('DELETE', /sessions\/b2$/)
    await says('mara')
    await says('Kept in PostgreSQL; 2 workers on 2 machines; 20 GB free here. All is well.')
    expect(screen.getByRole('table', { name: 'Workers' })).toHaveTextContent('two-b2')
    expect(screen.getByRole('table', { name: 'What was done here' })).toHaveTextContent('signed in')
  })
})
