import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { answers, button, clean, heading, instead, open, request, says, sent, standIn, where } from './harness'
import { setKeysEnabled } from './ui/keys'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()
afterEach(() => setKeysEnabled(true))

describe('what is amiss with the installation', () => {
  it('is said on every page, and nothing where all is well', async () => {
    instead['GET /api/notices'] = {
      status: 200,
      body: { says: ['The disk is full or nearly so: free some space, and everything goes on.'] },
    }
    open('/study/2/logbook')
    expect(await screen.findByRole('alert', {}, { timeout: 8000 })).toHaveTextContent('The disk is full or nearly so')
    clean()
  })
  it('is silence where all is well', async () => {
    open('/study/2/logbook')
    await heading(/Logbook/)
    await waitFor(() => expect(sent.some((s) => s.path === '/api/notices')).toBe(true))
    expect(screen.queryByRole('alert')).toBeNull()
  })
})

describe('the keyboard', () => {
  it('goes to each station by its number and to the logbook', async () => {
    open('/study/2/logbook')
    await heading(/Logbook/)
    // The keys of the stations wait for the study.
    await screen.findByRole('link', { name: /Preparation/ }, { timeout: 8000 })
    for (const [key, path] of [
      ['2', 'preparation'],
      ['3', 'trials'],
      ['4', 'judgment'],
      ['6', 'decisions'],
      ['l', 'logbook'],
    ] as const) {
      await userEvent.keyboard(key)
      await waitFor(() => expect(where()).toContain(`/study/2/${path}`), { timeout: 8000 })
    }
  })

  it('opens finding, help and the margin notes', async () => {
    open('/study/2/preparation')
    await heading(/Preparation/)
    await userEvent.keyboard('n')
    expect(screen.getByRole('complementary', { name: 'Margin notes' })).toHaveTextContent('Nothing to note on this screen.')
    await userEvent.keyboard('n')
    await userEvent.keyboard('?')
    expect(await screen.findByRole('dialog')).toHaveTextContent(/[Kk]eys/)
    await userEvent.keyboard('{Escape}')
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    await userEvent.keyboard('/')
    expect(await screen.findByRole('combobox', { name: 'Find' })).toHaveFocus()
  })

  it('is silent while a field is written in', async () => {
    open('/study/2/table/5/rows')
    await heading(/Rows/)
    await userEvent.type(screen.getByLabelText(/Go to line/), '4')
    expect(where()).toBe('/study/2/table/5/rows')
  })
})

describe('finding', () => {
  it.each([
    ['nothing like it', null],
    ['days_ahead', /\/study\/2\/table\/5\?column=\d+/],
    ['trial 1', /\/study\/2\/judgment\/1/],
    ['logbook', /\/study\/2\/logbook/],
    ['nobody study', /\/study\/2/],
    ['station 3', /\/study\/2\/trials/],
  ])('%s', async (words, leads) => {
    open('/study/2/preparation')
    await userEvent.click(await button(/Find/))
    await userEvent.type(await screen.findByRole('combobox', { name: 'Find' }), words)
    if (leads === null) {
      expect(screen.getByRole('listbox')).toHaveTextContent('Nothing has a name like that here.')
      return
    }
    await waitFor(() => expect(screen.getAllByRole('option').length).toBeGreaterThan(0))
    expect(screen.getAllByRole('option')[0]).toHaveAttribute('aria-selected', 'true')
    await userEvent.keyboard('{Enter}')
    await waitFor(() => expect(where()).toMatch(leads))
  })

  it('walks the hits with the arrows', async () => {
    open('/study/2/preparation')
    await userEvent.click(await button(/Find/))
    const box = await screen.findByRole('combobox', { name: 'Find' })
    await userEvent.type(box, 'station{ArrowDown}{ArrowDown}{ArrowUp}')
    const hits = await screen.findAllByRole('option')
    expect(hits.map((h) => h.getAttribute('aria-selected')).indexOf('true')).toBe(1)
    expect(box).toHaveAttribute('aria-activedescendant', hits[1]!.id)
  })
})

describe('the bar', () => {
  it('changes the study', async () => {
    open('/study/2/preparation')
    await userEvent.click(await button('Nobody home'))
    const menu = await screen.findByRole('menu')
    expect(
      within(menu)
        .getAllByRole('menuitem')
        .map((m) => m.textContent),
    ).toContain('All studies')
    await userEvent.click(within(menu).getByRole('menuitem', { name: 'All studies' }))
    await waitFor(() => expect(where()).toBe('/'))
  })

  it('says that nothing runs', async () => {
    open('/')
    await userEvent.click(await button('Nothing running'))
    expect(await screen.findByRole('dialog', { name: 'Running work' })).toHaveTextContent('goes on when you leave the page')
  })

  it('signs out', async () => {
    instead['POST /api/session/end'] = { status: 204, body: null }
    open('/')
    await userEvent.click(await button(/account of Mara Kell/))
    expect(await screen.findByRole('menuitem', { name: 'People' })).toHaveAttribute('href', '/people')
    vi.stubGlobal('location', { ...location, origin: location.origin, reload: vi.fn() })
    await userEvent.click(screen.getByRole('menuitem', { name: 'Sign out' }))
    await waitFor(() => expect(sent.some((s) => s.path === '/api/session/end' && s.method === 'POST')).toBe(true))
  })
})

describe('people', () => {
  const account = { id: 1, login: 'mara', name: 'Mara Kell', owner: true, disabled: false }
  const accounts = [
    account,
    { id: 2, login: 'otto', name: 'Otto Venn', owner: false, disabled: false },
    { ...account, id: 3, login: 'gone', name: 'Gone Away', owner: false, disabled: true },
  ]

  it('lists accounts and members, invites by a link shown once, changes roles', async () => {
    instead['GET /api/accounts'] = { status: 200, body: accounts }
    instead['POST /api/invitations'] = { status: 201, body: { path: '/invited?code=abc', expiresAt: '2026-12-01T00:00:00+00:00' } }
    for (const study of answers['GET /api/studies'] as { id: number }[])
      instead[`GET /api/studies/${study.id}/members`] = { status: 200, body: [{ login: 'otto', name: 'Otto Venn', role: 'reader' }] }
    instead['PUT /api/studies/2/members'] = { status: 200, body: [{ login: 'otto', name: 'Otto Venn', role: 'editor' }] }
    open('/people')
    await heading(/People/)
    await says('3 accounts')
    const table = screen.getByRole('table', { name: 'Accounts' })
    expect(within(table).queryByRole('button', { name: 'Disable Mara Kell' })).toBeNull()
    expect(within(table).queryByRole('button', { name: 'Disable Gone Away' })).toBeNull()
    await userEvent.click(within(table).getByRole('button', { name: 'Disable Otto Venn' }))
    await request('POST', '/api/accounts/2/disable')
    await userEvent.click(screen.getByRole('button', { name: 'Invite by link' }))
    await says('/invited?code=abc')
    await says('good until 1 Dec 2026')
    const roles = await screen.findAllByRole('button', { name: 'Role of Otto Venn: reader' })
    await userEvent.click(roles.at(-1)!)
    await userEvent.click(screen.getByRole('menuitem', { name: /editor/ }))
    const put = await request('PUT', /\/members$/)
    expect(put.body).toEqual({ login: 'otto', role: 'editor' })
    clean()
  })

  it('says that nobody signs in by that name', async () => {
    instead['GET /api/me/safety'] = { status: 200, body: { secondFactor: false, codesLeft: 0, places: [] } }
    instead['GET /api/audit'] = { status: 200, body: [] }
    instead['GET /api/accounts'] = { status: 200, body: accounts }
    for (const study of answers['GET /api/studies'] as { id: number }[]) {
      instead[`GET /api/studies/${study.id}/members`] = { status: 200, body: [] }
      instead[`PUT /api/studies/${study.id}/members`] = { status: 422, body: { title: 'Nobody signs in as nina.', status: 422 } }
    }
    open('/people')
    const fields = await screen.findAllByLabelText('Add by sign-in name', {}, { timeout: 8000 })
    await userEvent.type(fields[0]!, 'nina{Enter}')
    expect(await screen.findByRole('alert')).toHaveTextContent('Nobody signs in as nina.')
  })
})

describe('rows', () => {
  const asked = () => sent.filter((s) => s.path === '/api/tables/5/rows').at(-1)?.query ?? ''

  it('turns pages, goes to a line, sorts and comes back to the order of the file', async () => {
    open('/study/2/table/5/rows')
    await heading(/Rows/)
    expect(await button('Earlier')).toBeDisabled()
    await userEvent.click(await button('Later'))
    await waitFor(() => expect(asked()).toContain('offset=100'))
    await userEvent.type(screen.getByLabelText(/Go to line/), '4,321{Enter}')
    await waitFor(() => expect(asked()).toContain('offset=4320'))
    await userEvent.type(screen.getByLabelText(/Go to line/), '99999999{Enter}')
    await waitFor(() => expect(where()).toContain('from=6000'))
    await userEvent.click((await screen.findAllByRole('columnheader', { name: /days_ahead/ }))[0]!.querySelector('button')!)
    await waitFor(() => expect(asked()).toContain('sort=days_ahead'))
    await says('sorted by days_ahead, smallest first')
    await userEvent.click(await button('In the order of the file'))
    await waitFor(() => expect(where()).toBe('/study/2/table/5/rows'))
  })

  it('opens one record in full', async () => {
    const first = (answers['GET /api/tables/5/rows'] as { rows: { number: number }[] }).rows[0]!.number
    open(`/study/2/table/5/rows?row=${first}`)
    const panel = await screen.findByRole('region', { name: `Record ${first}` }, { timeout: 8000 })
    expect(panel).toHaveTextContent('visit_id')
    await userEvent.click(within(panel).getByRole('button', { name: 'Close' }))
    await waitFor(() => expect(where()).toBe('/study/2/table/5/rows'))
  })
})
