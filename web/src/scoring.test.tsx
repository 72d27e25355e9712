import { screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { answers, button, instead, job, open, request, says, sent, standIn } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

describe('records that lack what a combination gave', () => {
  const match = answers['POST /api/studies/2/match'] as { tableId: number; lines: { found: string | null }[] }
  const combination = {
    made: 41,
    name: 'visits with households',
    sentence: 'looks up tenure where household_id is its id',
    toll: { rowsBefore: 400, rowsAfter: 400, columnsBefore: 8, columnsAfter: 9, unmatched: 1, keyless: 3, multiplied: 0 },
    ready: null as number | null,
  }
  const lacking = { ...match, lines: [{ ...match.lines[0]!, found: null, how: 'not there' }, ...match.lines.slice(1)] }

  it('follow it first, and are matched anew once that is made', async () => {
    instead['POST /api/studies/2/match'] = { status: 200, body: { ...lacking, combination } }
    instead['POST /api/tables/41/follow'] = { status: 422, body: { title: 'There is a table of that name already.', status: 422 } }
    open('/study/2/decisions')
    await says('as visits with households: it looks up tenure where household_id is its id.')
    await says('it gives 400 records; 1 record finds no match, 3 records have no key.')
    await userEvent.click(await button('Follow it first'))
    await says('There is a table of that name already.')
    instead['POST /api/tables/41/follow'] = { status: 202, body: job }
    instead['GET /api/jobs/31'] = { status: 200, body: { ...job, kind: 'combine', state: 'done', subject: 52 } }
    instead['POST /api/studies/2/match'] = { status: 200, body: { ...match, tableId: 52, combination: null } }
    await userEvent.click(await button('Follow it first'))
    await vi.waitFor(() => expect(sent.at(-1)?.body).toMatchObject({ tableId: 52 }), 8000)
    expect((await request('POST', '/api/tables/41/follow')).body).toMatchObject({ tableId: match.tableId, preview: false })
    await says(`All ${match.lines.length} columns found`)
    expect(screen.queryByText(/made by a combination/)).toBeNull()
  })

  it('take what was made before', async () => {
    instead['POST /api/studies/2/match'] = { status: 200, body: { ...lacking, combination: { ...combination, ready: 60 } } }
    open('/study/2/decisions')
    await userEvent.click(await button('Take what was made before'))
    await vi.waitFor(() => expect(sent.at(-1)?.body).toMatchObject({ tableId: 60 }), 8000)
    expect(sent.some((s) => s.path.endsWith('/follow'))).toBe(false)
  })
})
