import { ThemeProvider } from '@mui/material/styles'
import { fireEvent, render, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { describe, expect, it, vi } from 'vitest'
import type { Condition } from './data/conditions'
import { answers, button, clean, heading, instead, job, open, request, says, sent, standIn, where } from './harness'
import { Where } from './sections/Where'
import { Tables } from './sections/Tables'
import type { SectionOf } from './data/judgment'
import { theme } from './ui/theme'

vi.mock('./ui/echarts', () => ({
  start: () => ({ setOption: () => undefined, on: () => undefined, resize: () => undefined, dispose: () => undefined }),
}))
standIn()

describe('a sentence of conditions', () => {
  const asks = [
    { kind: 'number', relations: ['is at least', 'is under', 'is between', 'is missing'] },
    { kind: 'category', relations: ['is', 'is not', 'is one of', 'is missing'] },
    { kind: 'date', relations: ['is at least', 'is between'] },
    { kind: 'text', relations: ['contains', 'is one of'] },
  ]
  const columns = [
    { name: 'age', kind: 'number', top: [], bins: [1, 2, 3].map((v) => ({ low: v * 10.12345, high: (v + 1) * 10.12345, count: 5 })) },
    {
      name: 'make',
      kind: 'category',
      bins: [],
      top: [
        { value: 'Orrin', count: 7 },
        { value: 'Vale', count: 0 },
      ],
    },
    { name: 'day', kind: 'date', top: [], bins: [{ low: 1767225600, high: 1769904000, count: 3 }] },
    { name: 'note', kind: 'text', top: [], bins: [] },
  ]
  function Asked({ start, log }: { start: Condition[]; log: (c: Condition[], any: boolean) => void }) {
    const [[conditions, any], set] = useState<[Condition[], boolean]>([start, false])
    return (
      <ThemeProvider theme={theme}>
        <Where
          table={{ columns, asks } as never}
          conditions={conditions}
          any={any}
          onChange={(c, a) => {
            log(c, a)
            set([c, a])
          }}
        />
      </ThemeProvider>
    )
  }
  function ask(...start: Condition[]) {
    const log = vi.fn<(c: Condition[], any: boolean) => void>()
    render(<Asked start={start} log={log} />)
    return () => log.mock.lastCall
  }
  const slot = async (name: string, choice: string) => {
    await userEvent.click(screen.getByRole('button', { name }))
    await userEvent.click(screen.getByRole('menuitem', { name: new RegExp(`^${choice}`) }))
  }

  it.each<[string, Condition]>([
    ['age', ['age', 'is at least', '20.2']],
    ['make', ['make', 'is', 'Orrin']],
    ['day', ['day', 'is at least', '2026-01-01']],
    ['note', ['note', 'is present']],
  ])('begins with a value that exists: %s', async (name, wanted) => {
    const last = ask()
    await slot('Add a condition: choose a column…', name)
    expect(last()).toEqual([[wanted], false])
  })

  it('keeps the values a relation takes, and as many as it takes', async () => {
    const last = ask(['age', 'is at least', '20'])
    await slot('Relation 1: is at least', 'is between')
    expect(last()![0]).toEqual([['age', 'is between', '20', '20']])
    await slot('Relation 1: is between', 'is missing')
    expect(last()![0]).toEqual([['age', 'is missing']])
    expect(screen.queryByRole('button', { name: /^Value 1/ })).toBeNull()
    await slot('Column 1: age', 'make')
    expect(last()![0]).toEqual([['make', 'is', 'Orrin']])
    await slot('Value 1: Orrin', 'Vale')
    await slot('Relation 1: is', 'is one of')
    expect(last()![0]).toEqual([['make', 'is one of', 'Vale']])
  })

  it('takes both ends of a stretch, and nothing where one is empty', async () => {
    const last = ask(['age', 'is between', '20', '30'])
    await userEvent.click(screen.getByRole('button', { name: 'Value 1: 20 and 30' }))
    await userEvent.clear(screen.getByLabelText('To'))
    await userEvent.click(screen.getByRole('button', { name: 'Show these' }))
    expect(last()).toBeUndefined()
    await userEvent.click(screen.getByRole('button', { name: 'Value 1: 20 and 30' }))
    await userEvent.clear(screen.getByLabelText('From'))
    await userEvent.type(screen.getByLabelText('From'), ' 12 {Enter}')
    expect(last()![0]).toEqual([['age', 'is between', '12', '30']])
  })

  it('takes several values by ticking, or one a line where none are known', async () => {
    const last = ask(['make', 'is one of', 'Orrin'], ['note', 'is one of', 'late'])
    await userEvent.click(screen.getByRole('button', { name: 'Value 1: Orrin' }))
    await userEvent.click(screen.getByLabelText(/^Vale/))
    await userEvent.click(screen.getByLabelText(/^Orrin/))
    await userEvent.click(screen.getByRole('button', { name: 'Show these' }))
    expect(last()![0][0]).toEqual(['make', 'is one of', 'Vale'])
    await userEvent.click(await screen.findByRole('button', { name: 'Value 2: late' }))
    const box = await screen.findByLabelText('One value a line')
    await userEvent.clear(box)
    await userEvent.type(box, 'late{Enter}{Enter}  no key ')
    await userEvent.click(screen.getByRole('button', { name: 'Show these' }))
    expect(last()![0][1]).toEqual(['note', 'is one of', 'late', 'no key'])
    await slot('Joined by: and', 'or')
    expect(last()![1]).toBe(true)
  })
})

describe('tables that a model shows of itself', () => {
  it('write each cell in the form of its column, with its interval where it has one', () => {
    const section = {
      type: 'tables',
      tables: [
        {
          title: 'Weights',
          says: 'What each value adds.',
          columns: [
            { title: 'Value', form: 'text' },
            { title: 'Share', form: 'share' },
            { title: 'Mean', form: 'number' },
          ],
          rows: [
            [
              { text: 'north', value: null, low: null, high: null },
              { text: null, value: 0.25, low: 0.2, high: 0.3 },
              { text: null, value: 12.5, low: null, high: null },
            ],
            [
              { text: 'a very long name', value: null, low: null, high: null },
              { text: null, value: null, low: null, high: null },
              { text: null, value: -3, low: -4, high: -2 },
            ],
          ],
        },
      ],
    } as unknown as SectionOf<'tables'>
    render(<Tables section={section} />)
    const table = screen.getByRole('table', { name: 'Weights' })
    expect(
      within(table)
        .getAllByRole('row')
        .slice(1)
        .map((r) =>
          within(r)
            .getAllByRole('cell')
            .map((c) => c.textContent),
        ),
    ).toEqual([
      ['north', '25.0%, 20.0% to 30.0%', '12.5'],
      ['a very long name', '–', '−3, −4 to −2'],
    ])
  })
})

describe('a new study', () => {
  it('is begun by dropping a file: sent in pieces, named after it, and read on', async () => {
    instead['POST /api/uploads'] = { status: 201, body: { id: 12, fileName: 'spring visits.csv', size: 4, received: 4, pieceSize: 1000 } }
    instead['POST /api/studies'] = { status: 409, body: { title: 'There is a study of this name already.', status: 409 } }
    open('/')
    const line = await screen.findByText('Drop a file here to begin a study', {}, { timeout: 8000 })
    const sheet = line.closest('.sheet')!
    fireEvent.dragOver(sheet)
    fireEvent.dragLeave(sheet)
    fireEvent.drop(sheet, { dataTransfer: { files: [] } })
    expect(screen.queryByRole('dialog')).toBeNull()
    fireEvent.drop(sheet, { dataTransfer: { files: [new File(['a,b\n'], 'spring visits.csv', { type: 'text/csv' })] } })
    const dialog = within(await screen.findByRole('dialog'))
    expect(dialog.getByText('spring visits.csv')).toBeVisible()
    expect(dialog.getByRole('textbox', { name: /Short name/ })).toHaveValue('spring visits')
    await userEvent.type(dialog.getByLabelText(/Which question/), 'Who is late?')
    await userEvent.click(dialog.getByRole('button', { name: 'Read the file' }))
    // What was written stays when the server refuses.
    await says('There is a study of this name already.')
    expect(dialog.getByRole('button', { name: 'Read the file' })).toBeEnabled()
    expect(dialog.getByLabelText(/Which question/)).toHaveValue('Who is late?')
    instead['POST /api/studies'] = { status: 201, body: { ...(answers['GET /api/studies/2'] as object), id: 2 } }
    await userEvent.click(dialog.getByRole('button', { name: 'Read the file' }))
    await waitFor(() => expect(where()).toBe('/study/2/import?upload=12'))
    expect(sent.filter((s) => s.method === 'POST' && s.path === '/api/studies').map((s) => s.body)).toEqual(
      Array(2).fill({ name: 'spring visits', question: 'Who is late?' }),
    )
  })
})

describe('variants', () => {
  const variants = (answers['GET /api/studies/2/preparation'] as { variants: object[] }).variants
  const asking = async (item: RegExp) => {
    open('/study/2/preparation')
    await userEvent.click(await button('Variants…'))
    await userEvent.click(screen.getByRole('menuitem', { name: item }))
    return within(await screen.findByRole('dialog'))
  }

  it('are copied under what sets them apart', async () => {
    instead['POST /api/studies/2/variants'] = { status: 201, body: { ...variants[0], id: 9, letter: 'B', name: 'No notes' } }
    const dialog = await asking(/^New variant from A/)
    expect(dialog.getByRole('button', { name: 'Make the variant' })).toBeDisabled()
    await userEvent.type(dialog.getByLabelText('Name'), '  No notes {Enter}')
    expect((await request('POST', '/api/studies/2/variants')).body).toMatchObject({ name: 'No notes' })
  })

  it('are renamed, and nothing is sent where the name stays', async () => {
    const dialog = await asking(/^Rename A/)
    await userEvent.click(dialog.getByRole('button', { name: 'Rename it' }))
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    expect(sent.some((s) => s.method === 'PUT')).toBe(false)
    await userEvent.click(await button('Variants…'))
    await userEvent.click(screen.getByRole('menuitem', { name: /^Rename A/ }))
    const again = within(await screen.findByRole('dialog'))
    await userEvent.clear(again.getByLabelText('Name'))
    await userEvent.type(again.getByLabelText('Name'), 'Lean{Enter}')
    const put = await request('PUT', '/api/variants/2')
    expect(put.body).toEqual({ name: 'Lean' })
    expect(put.headers.get('If-Match')).not.toBeNull()
  })

  it('that stand alone are neither compared nor discarded; the steps can be saved', async () => {
    open('/study/2/preparation')
    await userEvent.click(await button('Variants…'))
    const off = (name: RegExp) => screen.getByRole('menuitem', { name }).getAttribute('aria-disabled')
    expect([off(/^Compare/), off(/^Discard A/), off(/^Rename A/)]).toEqual(
      variants.length > 1 ? [null, null, null] : ['true', 'true', null],
    )
    expect(screen.getByRole('menuitem', { name: 'Save the steps as JSON' })).toHaveAttribute('href', '/api/variants/2/file')
  })

  it('are discarded only when it was said twice, and one that a trial uses is kept', async () => {
    const second = { ...variants[0], id: 9, letter: 'B', name: 'No notes' }
    const both = { ...(answers['GET /api/studies/2/preparation'] as object), variants: [variants[0], second] }
    instead['GET /api/studies/2/preparation'] = { status: 200, body: both }
    instead['DELETE /api/variants/2'] = { status: 409, body: { title: 'Trial 1 was made with variant A: it is kept.', status: 409 } }
    const dialog = await asking(/^Discard A/)
    expect(screen.getByRole('dialog')).toHaveTextContent('cannot be brought back')
    await userEvent.click(dialog.getByRole('button', { name: 'Keep it' }))
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    expect(sent.some((s) => s.method === 'DELETE')).toBe(false)
    await userEvent.click(await button('Variants…'))
    await userEvent.click(screen.getByRole('menuitem', { name: /^Discard A/ }))
    await userEvent.click(within(await screen.findByRole('dialog')).getByRole('button', { name: 'Discard it' }))
    await request('DELETE', '/api/variants/2')
    await says('Trial 1 was made with variant A: it is kept.')
    clean()
  })
})

describe('a scored list', () => {
  it('is narrowed, searched and sorted by what stands in the address', async () => {
    open('/study/2/decisions/1')
    await heading(/visits, scored/)
    await userEvent.click(await screen.findByRole('tab', { name: /^Left alone/ }))
    await waitFor(() => expect(where()).toContain('which=left'))
    await userEvent.type(screen.getByLabelText('Search in all columns'), 'V1')
    await waitFor(() => expect(where()).toContain('search=V1'))
    await waitFor(() =>
      expect(sent.some((s) => s.path.endsWith('/rows') && /which=left/.test(s.query) && /search=V1/.test(s.query))).toBe(true),
    )
    await userEvent.click(screen.getByRole('tab', { name: /^All/ }))
    await waitFor(() => expect(where()).not.toContain('which'))
  })

  it('is downloaded with the columns that were ticked, all digits, and how sure', async () => {
    open('/study/2/decisions/1')
    await userEvent.click(await button('Download list…'))
    const dialog = within(await screen.findByRole('dialog'))
    await userEvent.click(dialog.getByRole('button', { name: 'All columns' }))
    expect(dialog.getByRole('link', { name: 'Download' }).getAttribute('href')!.split('carry').length - 1).toBe(25)
    await userEvent.click(dialog.getByRole('button', { name: 'None' }))
    await userEvent.click(dialog.getByRole('checkbox', { name: 'slot' }))
    await userEvent.click(dialog.getByRole('checkbox', { name: /^All digits of chances/ }))
    await userEvent.click(dialog.getByRole('checkbox', { name: /^How sure: the share that came/ }))
    const link = dialog.getByRole('link', { name: 'Download' })
    expect(link).toHaveAttribute('href', '/api/scorings/1/file?full=1&sure=1&carry%5B%5D=slot')
    link.addEventListener('click', (e) => e.preventDefault())
    await userEvent.click(link)
    // What was carried along once is carried along by the list, too.
    await waitFor(() => expect(where()).toContain('columns=slot'))
  })

  it.each([
    ['failed', 'The scoring did not finish. The table and the model are as they were; score again.'],
    ['cancelled', 'The scoring was cancelled.'],
    ['waiting', 'the scored records'],
  ])('that is %s says so, and offers nothing to take', async (state, text) => {
    instead['GET /api/scorings/1'] = { status: 200, body: { ...(answers['GET /api/scorings/1'] as object), state } }
    open('/study/2/decisions/1')
    await says(text)
    expect(screen.getByRole('button', { name: 'Download list…' })).toBeDisabled()
    expect(sent.some((s) => s.path.endsWith('/rows'))).toBe(false)
    clean()
  })

  it('in which nothing is found says what was looked for', async () => {
    instead['GET /api/scorings/1/rows'] = { status: 200, body: { total: 0, offset: 0, names: [], rows: [] } }
    open('/study/2/decisions/1?search=nobody')
    await says('No record here holds “nobody”.')
  })
})

describe('a table that was combined', () => {
  it('says how it was made, and follows its combination with newer records', async () => {
    const made = { tableId: 5, sourceId: 1, sourceName: 'visits', otherName: 'households', sentence: 'joins visits and households' }
    const table = { rows: 900, columns: 25, edition: 1, state: 'ready' }
    instead['GET /api/studies/2/combinations'] = { status: 200, body: [made] }
    instead['GET /api/studies/2/tables'] = {
      status: 200,
      body: [
        { ...table, id: 5, name: 'visits and households' },
        { ...table, id: 1, name: 'visits' },
        { ...table, id: 7, name: 'still read', state: 'importing' },
        { ...table, id: 8, name: 'visits_recent' },
      ],
    }
    instead['POST /api/tables/5/follow'] = { status: 422, body: { title: 'visits_recent has no column household_id.', status: 422 } }
    open('/study/2/table/5')
    await heading(/Register/)
    await userEvent.keyboard('n')
    await says('Made from visits and households')
    await says('The combination joins visits and households.')
    expect(screen.queryByRole('button', { name: 'Follow it' })).toBeNull()
    await userEvent.click(await button(/^Follow with/))
    // Neither the table itself, nor the one it was made from, nor one that is not read yet.
    expect(screen.getAllByRole('menuitem')).toHaveLength(1)
    await userEvent.click(screen.getByRole('menuitem', { name: /^visits_recent/ }))
    await userEvent.click(await button('Follow it'))
    expect((await request('POST', '/api/tables/5/follow')).body).toEqual({
      tableId: 8,
      name: 'visits, from visits_recent',
      preview: false,
    })
    await says('visits_recent has no column household_id.')
    instead['POST /api/tables/5/follow'] = { status: 202, body: { ...job, subject: 12 } }
    await userEvent.click(await button('Follow it'))
    await waitFor(() => expect(where()).toBe('/study/2/table/12'))
  })
})
