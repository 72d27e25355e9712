import { fireEvent, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { answers, button, clean, instead, job, open, request, says, sent, standIn, where } from './harness'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

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
    const lines = answers['GET /api/studies/2/thresholds'] as { name: string; usual: number }[]
    const usual = Object.fromEntries(lines.map((l) => [l.name, l.usual]))
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
    expect((await request('PUT', '/api/studies/2/thresholds')).body).toEqual({
      values: { ...usual, missing_share: 0.1 },
    })
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
        combination: { kind: 'look up', key: 'visit_id', otherKey: 'visit_id', columns: ['boiler_age'] },
        name: '',
        preview: true,
      },
      {
        tableId: 5,
        otherId: 9,
        combination: { kind: 'look up', key: 'visit_id', otherKey: 'visit_id', columns: ['boiler_age'] },
        name: 'visits with ages',
        preview: false,
      },
    ])
  })

  it('draws some of the records by chance', async () => {
    instead['GET /api/studies/2/tables'] = { status: 200, body: [] }
    open('/study/2/table/5?combine=draw')
    await says('by chance')
    const dialog = screen.getByRole('dialog')
    const many = within(dialog).getByLabelText('How many records')
    expect(many).toHaveValue('3000')
    for (const odd of ['', '0', 'all', '-5', '2.5']) {
      await userEvent.clear(many)
      if (odd !== '') await userEvent.type(many, odd)
      expect(await button('See what it gives')).toBeDisabled()
    }
    await userEvent.clear(many)
    await userEvent.type(many, '1,500')
    await userEvent.clear(within(dialog).getByLabelText('Seed'))
    await userEvent.type(within(dialog).getByLabelText('Seed'), '7')
    instead['POST /api/studies/2/combinations'] = {
      status: 200,
      body: {
        sentence: 'draws 1,500 records by chance, with seed 7',
        toll: { rowsBefore: 6000, rowsAfter: 1500, columnsBefore: 8, columnsAfter: 8, unmatched: 0, keyless: 0, multiplied: 0 },
        names: ['visit_id', 'boiler_age'],
        records: [['V4', '12']],
      },
    }
    await userEvent.click(await button('See what it gives'))
    await says('6,000 × 8 → 1,500 × 8. 25.0% of the records, each as likely as any other.')
    expect((await request('POST', '/api/studies/2/combinations')).body).toEqual({
      tableId: 5,
      otherId: null,
      combination: { kind: 'draw', records: 1500, seed: 7 },
      name: '',
      preview: true,
    })
    // A seed of another draw no longer stands beside what was looked at.
    await userEvent.type(within(dialog).getByLabelText('Seed'), '1')
    expect(within(dialog).queryByLabelText('Name of the table')).toBeNull()
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
    instead['POST /api/studies/2/combinations'] = {
      status: 422,
      body: { title: 'There is no column gone.', status: 422, field: 'combination' },
    }
    await userEvent.click(await button('See what it gives'))
    await says('There is no column gone.')
    const { combination } = (await request('POST', '/api/studies/2/combinations')).body as {
      combination: { figures: { how: string; column?: string }[] }
    }
    expect(combination.figures.map((f) => f.how)).toEqual(['count', 'mean', 'share', 'latest'])
    expect(combination.figures[2]).toMatchObject({ how: 'share', value: expect.any(String) as string })
  })
})
