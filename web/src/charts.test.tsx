import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Two } from './data/picture'
import { answers, button, clean, heading, instead, open, says, standIn, where } from './harness'

type Series = { type: string; data: unknown[]; renderItem?: (p: { dataIndex: number }, api: object) => unknown }
type Option = {
  tooltip?: { trigger?: string; formatter?: (item: unknown) => string }
  xAxis?: { data?: unknown[]; axisLabel?: { formatter?: (v: number) => string } }
  yAxis?: unknown
  series: Series[]
}
type Drawn = { option: Option | null; click: ((event: object) => void) | null }
const charts = vi.hoisted(() => [] as Drawn[])
vi.mock('./ui/echarts', () => ({
  start: () => {
    const chart: Drawn = { option: null, click: null }
    charts.push(chart)
    return {
      setOption: (o: Option) => (chart.option = o),
      on: (_: string, f: (event: object) => void) => (chart.click = f),
      resize: () => undefined,
      dispose: () => undefined,
    }
  },
}))
standIn()
beforeEach(() => void charts.splice(0))

const PROGRAM = /NaN|undefined|null|Infinity|\[object/

/** No number of a drawing is none: one of them and the browser leaves the whole thing out. */
function finite(thing: unknown, at: string): void {
  if (typeof thing === 'number') expect(Number.isFinite(thing), at).toBe(true)
  else if (Array.isArray(thing)) thing.forEach((t, i) => finite(t, `${at}[${i}]`))
  else if (thing !== null && typeof thing === 'object') for (const [k, v] of Object.entries(thing)) finite(v, `${at}.${k}`)
}

/** Everything a chart would do while it is looked at: each point drawn, and told when it is pointed at. */
function lookAtAll(option: Option): string[] {
  const told: string[] = []
  option.series.forEach((series, seriesIndex) => {
    finite(series.data, `series ${seriesIndex}`)
    series.data.forEach((row, dataIndex) => {
      const values = Array.isArray(row) ? (row as number[]) : [dataIndex, row as number]
      const api = { value: (i: number) => values[i] ?? NaN, coord: (p: number[]) => p.map((v) => 40 + 3 * v), size: () => [9, 9] }
      if (series.renderItem && values.every((v) => typeof v !== 'number' || Number.isFinite(v)) && !values.includes(null as never))
        finite(series.renderItem({ dataIndex }, api), `series ${seriesIndex}, ${dataIndex}`)
      const item = { dataIndex, seriesIndex, name: 'a name', data: row, dataType: series.type === 'graph' ? 'node' : undefined }
      const formatter = option.tooltip?.formatter
      if (formatter) told.push(formatter(option.tooltip?.trigger === 'axis' ? [item] : item))
    })
  })
  return told
}

const chart = async () =>
  await waitFor(() => {
    const last = charts.filter((c) => c.option !== null).at(-1)
    if (!last) throw new Error('nothing was drawn')
    return last
  })

const judged = { judged: 40, share: 0.25, low: 0.15, high: 0.4 }
const hardly = { judged: 3, share: 1, low: 0.3, high: 1 }
const none = { judged: 0, share: null, low: null, high: null }
const pair = (more: object = {}) => ({
  first: 'travel_km',
  second: 'quoted_cost',
  measure: 'rank correlation',
  strength: 0.42,
  low: 0.4,
  high: 0.44,
  p: 0,
  pearson: 0.4,
  n: 6000,
  adjusted: 0,
  ...more,
})
const two = (of: object) => ({ x: 'travel_km', y: 'quoted_cost', records: 300, pair: pair(), ...of }) as unknown as Two

describe('two columns', () => {
  const box = (value: string, apart: { row: number; value: number }[], of: object) => ({
    value,
    records: 60,
    low: 1,
    q1: 2,
    median: 3,
    q3: 5,
    high: 9,
    beyond: apart.length,
    apart,
    ...of,
  })
  const period = (from: string, to: string, of: string | null, value: number, of2: object = judged) => ({
    from,
    to,
    period: 'month',
    records: 90,
    of,
    value,
    valueLow: value - 0.1,
    valueHigh: value + 0.1,
    ...of2,
  })
  it.each<[string, Two, string[], string]>([
    [
      'points, of which each opens its record',
      two({
        form: 'points',
        parts: [
          { row: 6, x: 1.5, y: 2, event: true },
          { row: 9, x: -4, y: 0, event: false },
          { row: 11, x: 0, y: 7, event: null },
        ],
      }),
      ['Record 7: 1.5, 2', 'Record 10: -4, 0', 'Record 12: 0, 7'],
      'only=7',
    ],
    [
      'density, of which each part opens its records',
      two({
        form: 'density',
        parts: [
          { x: 0, x2: 5, y: 0, y2: 10, fromX: -2, toX: 5, fromY: 0, toY: 10, records: 900, ...judged },
          { x: 5, x2: 10, y: 0, y2: 10, fromX: 5, toX: 800, fromY: 0, toY: 10, records: 1, ...hardly },
        ],
      }),
      ['900 records, 25.0% (15.0% to 40.0%)', '800, quoted_cost 0 to 10'],
      '[["travel_km","is between","-2","5"],["quoted_cost","is between","0","10"]]',
    ],
    [
      'boxes, of which each opens the records with its value',
      two({ form: 'boxes', parts: [box('north', [{ row: 4, value: 40 }], judged), box('a very long name of a depot', [], none)] }),
      ['north: 60 records, median 3, middle half 2 to 5, 25.0%', 'a very long name of a depot: 60 records'],
      '[["travel_km","is","north"]]',
    ],
    [
      'a line of means over time, of which each point opens its period',
      two({ form: 'line', parts: [period('2025-01-01', '2025-01-31', null, 12), period('2025-02-01', '2025-02-28', null, 14)] }),
      ['1 Jan 2025 to 31 Jan 2025: 12 (11.9 to 12.1), 90 records', '28 Feb 2025: 14 ('],
      '[["travel_km","is between","2025-01-01","2025-01-31"]]',
    ],
    [
      'a line of shares for each value',
      two({
        form: 'line',
        parts: [
          period('2025-01-01', '2025-01-31', 'gas', 0.25),
          period('2025-01-01', '2025-01-31', 'oil', 0.75, none),
          period('2025-02-01', '2025-02-28', 'gas', 0.3),
          period('2025-02-01', '2025-02-28', 'oil', 0.7),
        ],
      }),
      ['gas 25.0% (15.0% to 35.0%)', 'oil 75.0% (65.0% to 85.0%)'],
      '["quoted_cost","is","gas"]',
    ],
  ])('are drawn as %s', async (_, body, tells, leads) => {
    instead['GET /api/tables/5/pictures/two'] = { status: 200, body }
    open('/study/2/table/5/pictures?show=two&x=travel_km&y=quoted_cost')
    await says('The larger travel_km, the larger quoted_cost: rank correlation 0.42')
    await says(/Rank correlation 0.42 ± 0.02, Pearson 0.40|Rank correlation 0.42, 0.40 to 0.44, Pearson 0.40/)
    const drawn = await chart()
    const told = lookAtAll(drawn.option!)
    for (const t of tells) expect(told.map((s) => s.replace('−', '-')).join('\n')).toContain(t.replace('−', '-'))
    expect(told.join('\n')).not.toMatch(PROGRAM)
    // The table behind the picture has a line for each part, and the same way to its records.
    await userEvent.click(await button('As a table'))
    const table = within(screen.getByRole('region', { name: 'The figures as a table' }))
    expect(table.getAllByRole('row')).toHaveLength(1 + body.parts.length)
    expect(table.getByRole('table').textContent).not.toMatch(PROGRAM)
    drawn.click!({ dataIndex: 0, seriesIndex: 0 })
    await waitFor(() => expect(decodeURIComponent(where()!).replaceAll('+', ' ')).toContain(leads))
  })

  it('open the one record beyond the fences of a box that was pressed', async () => {
    const parts = [
      box('north', [{ row: 4, value: 40 }], judged),
      box(
        'south',
        [
          { row: 7, value: 50 },
          { row: 8, value: 51 },
        ],
        judged,
      ),
    ]
    instead['GET /api/tables/5/pictures/two'] = { status: 200, body: two({ form: 'boxes', parts }) }
    open('/study/2/table/5/pictures?show=two&x=travel_km&y=quoted_cost')
    const drawn = await chart()
    const beyond = drawn.option!.series[1]!
    expect(beyond.data).toEqual([
      [0, 40],
      [1, 50],
      [1, 51],
    ])
    expect(lookAtAll(drawn.option!)).toContain('Record 9: 51')
    drawn.click!({ dataIndex: 2, seriesIndex: 1 })
    await waitFor(() => expect(where()).toContain('only=9'))
  })

  it('leave gray what too few are known of, and a part that is pressed beside everything does nothing', async () => {
    const parts = [
      { x: 0, x2: 5, y: 0, y2: 10, fromX: 0, toX: 5, fromY: 0, toY: 10, records: 20, ...hardly },
      { x: 5, x2: 9, y: 0, y2: 10, fromX: 5, toX: 9, fromY: 0, toY: 10, records: 20, ...judged },
    ]
    instead['GET /api/tables/5/pictures/two'] = { status: 200, body: two({ form: 'density', parts }) }
    open('/study/2/table/5/pictures?show=two&x=travel_km&y=quoted_cost')
    const drawn = await chart()
    const api = { value: () => 0, coord: (p: number[]) => p, size: () => [1, 1] }
    const fill = (i: number) => (drawn.option!.series[0]!.renderItem!({ dataIndex: i }, api) as { style: { fill: string } }).style.fill
    expect(fill(0)).toBe('#B9AF9B')
    expect(fill(1)).toMatch(/^rgb\(/)
    const before = where()
    drawn.click!({ dataIndex: 99 })
    expect(where()).toBe(before)
  })

  it.each([
    [{ strength: -0.42, low: -0.5, high: -0.3 }, 'The larger travel_km, the smaller quoted_cost: rank correlation −0.42'],
    [{ strength: 0.01, p: 0.4, adjusted: 1 }, 'travel_km and quoted_cost do not clearly go together'],
    [{ measure: 'correlation ratio', strength: 0.3, pearson: null }, 'quoted_cost differs by travel_km: correlation ratio 0.30'],
  ])('say what they are together: %o', async (of, title) => {
    const parts = [{ row: 6, x: 1.5, y: 2, event: true }]
    instead['GET /api/tables/5/pictures/two'] = { status: 200, body: two({ form: 'points', parts, pair: pair(of) }) }
    open('/study/2/table/5/pictures?show=two&x=travel_km&y=quoted_cost')
    await says(title)
    clean()
  })
})

describe('one column', () => {
  const detail = answers['GET /api/columns/84'] as { column: object; parts: object[]; summary: object }
  it('is drawn with the share of the event over it, and each bar told', async () => {
    open('/study/2/table/5?column=84')
    const drawn = await chart()
    expect(drawn.option!.series).toHaveLength(3)
    const told = lookAtAll(drawn.option!)
    expect(told[0]).toMatch(/^0 to under 2: 1,614 records, \d+\.\d% \(\d+\.\d% to \d+\.\d%\) “no access”$/)
    expect(told.join('\n')).not.toMatch(PROGRAM)
    drawn.click!({ dataIndex: 0, seriesIndex: 0 })
    const link = await screen.findByRole('link', { name: 'Records behind it' })
    // The first bin holds everything below it, too.
    expect(decodeURIComponent(link.getAttribute('href')!.replaceAll('+', ' '))).toContain('where=[["days_ahead","is under","2"]]')
    drawn.click!({ dataIndex: detail.parts.length - 1, seriesIndex: 0 })
    await waitFor(() =>
      expect(decodeURIComponent(screen.getByRole('link', { name: 'Records behind it' }).getAttribute('href')!)).toMatch(
        /where=\[\["days_ahead","is[+ ]at[+ ]least","\d+"\]\]/,
      ),
    )
    drawn.click!({ dataIndex: 2, seriesIndex: 0 })
    await waitFor(() =>
      expect(decodeURIComponent(screen.getByRole('link', { name: 'Records behind it' }).getAttribute('href')!)).toMatch(
        /\["days_ahead","is[+ ]at[+ ]least","4"\],\["days_ahead","is[+ ]under","6"\]/,
      ),
    )
  })

  it('of a large table says which of its records its values are told of, and takes shares of these', async () => {
    const more = answers['GET /api/columns/84/more'] as { values: { count: number }[] }
    instead['GET /api/columns/84/more'] = { status: 200, body: { ...more, looked: 2 * more.values[0]!.count } }
    open('/study/2/table/5?column=84&wide=1')
    await says(/Told of 1,820 of the 6,000 records, evenly spread\./)
    const values = within(await screen.findByRole('table', { name: 'Most frequent values' }))
    expect(values.getAllByRole('row')[1]).toHaveTextContent(/910\s*50(\.0)?%/)
  })

  const bar = (label: string, low: number | null, high: number | null, more: object = {}) => ({
    label,
    low,
    high,
    count: 12,
    judged: 0,
    events: null,
    share: null,
    shareLow: null,
    shareHigh: null,
    ...more,
  })
  it.each([
    [
      'a date',
      { kind: 'date', misfits: 0 },
      [bar('2026-01-01', 1767225600, 1769904000), bar('2026-02-01', 1769904000, 1772323200)],
      { type: 'number', min: 1767225600, max: 1772323200, median: 1769904000 },
      ['1 Jan 2026: 12 records', 'first', '1 Mar 2026'],
      '[["days_ahead","is between","2026-01-01","2026-01-31"]]',
    ],
    [
      'a category',
      { kind: 'category', misfits: 0 },
      [bar('gas', null, null), bar('a rather long name', null, null)],
      { type: 'text', top: [{ value: 'a rather long name', count: 12 }] },
      ['gas: 12 records', 'a rather long n…'],
      '[["days_ahead","is","gas"]]',
    ],
    [
      'a number with cells that do not fit',
      { kind: 'number', misfits: 2, missing: 2, missingShare: 0.01, sealed: 30 },
      [bar('0', 0, 5), bar('5', 5, 10)],
      { type: 'number', median: 4, mean: 4.5, q1: 2, q3: 6, p05: 0, p95: 9, min: 0, max: 10, sd: 2, skewness_G1: 0.5 },
      ['2 cells do not fit this kind', 'Row 4: “n/a”', '30, not in these figures', '2 (1.0%)'],
      '[["days_ahead","is under","5"]]',
    ],
  ])('that is %s, without a target, says what it holds', async (_, column, parts, summary, tells, leads) => {
    instead['GET /api/columns/84'] = {
      status: 200,
      body: {
        ...detail,
        column: { ...detail.column, ...column },
        parts,
        summary,
        misfits: [[3, 'n/a']],
        overall: null,
        event: null,
        headline: null,
      },
    }
    open('/study/2/table/5?column=84')
    await says('How days_ahead is spread')
    const drawn = await chart()
    expect(drawn.option!.series).toHaveLength(1)
    const told = lookAtAll(drawn.option!)
    expect(told).toHaveLength(parts.length)
    expect(told.join('\n')).not.toMatch(PROGRAM)
    drawn.click!({ dataIndex: 0, seriesIndex: 0 })
    for (const t of tells) await says(t)
    const link = await screen.findByRole('link', { name: 'Records behind it' })
    expect(decodeURIComponent(link.getAttribute('href')!.replaceAll('+', ' '))).toContain(leads)
    clean()
  })
})

describe('columns on a ring', () => {
  it('are joined where they go together strongly enough, and a line leads to both', async () => {
    open('/study/2/table/5/pictures?show=network&from=0.3')
    await says(/are linked at 0.30 or more/)
    const drawn = await chart()
    const [ring] = drawn.option!.series as (Series & { links: { source: string; target: string; lineStyle: { width: number } }[] })[]
    expect(ring!.links.length).toBeGreaterThan(0)
    finite(ring!.links, 'links')
    const first = ring!.links[0]!
    const tell = drawn.option!.tooltip!.formatter!
    expect(tell({ dataType: 'edge', dataIndex: 0, name: '' })).toContain(`${first.source} with ${first.target}: `)
    expect(tell({ dataType: 'node', dataIndex: 0, name: 'outcome' })).toBe('outcome')
    expect(tell({ dataType: 'edge', dataIndex: 999, name: 'gone' })).toBe('gone')
    await userEvent.click(await button('As a table'))
    expect(screen.getAllByRole('button', { name: 'Draw them' })).toHaveLength(ring!.links.length)
    drawn.click!({ dataIndex: 0 })
    await waitFor(() => expect(where()).toMatch(new RegExp(`show=two.*&x=${first.source}&y=${first.target}`)))
  })
})

describe('curves of a trial', () => {
  it('have a mark that tells its cut-off, whichever is drawn', async () => {
    open('/study/2/judgment/1')
    await heading(/Logistic regression/)
    const drawn = await chart()
    const told = lookAtAll(drawn.option!)
    expect(told.length).toBeGreaterThan(10)
    expect(told.join('\n')).not.toMatch(PROGRAM)
    const axis = drawn.option!.xAxis!.axisLabel!.formatter!
    expect([0, 0.5, 1].map(axis)).toEqual(['0', '50', '100'])
  })

  it('of a number stand beside each other without a hole', async () => {
    instead['GET /api/trials/1/judgment'] = { status: 200, body: answers.number }
    open('/study/2/judgment/1')
    const pictures = (await screen.findAllByRole('button', { name: 'As a table' })).length
    expect(pictures).toBe(2)
    // Each is looked at by itself: shown as its table, which has no holes, and as a picture again.
    for (let i = 0; i < pictures; ++i) {
      await userEvent.click(screen.getAllByRole('button', { name: 'As a table' })[i]!)
      const table = await screen.findByRole('region', { name: 'The figures as a table' })
      expect(within(table).getAllByRole('row').length).toBeGreaterThan(5)
      expect(table.textContent).not.toMatch(PROGRAM)
      const before = charts.length
      await userEvent.click(await button('As a picture'))
      await waitFor(() => expect(charts.slice(before).some((c) => c.option !== null)).toBe(true))
      lookAtAll(charts.slice(before).find((c) => c.option !== null)!.option!)
    }
  })
})

describe('a picture', () => {
  it('can be kept as figures and as a drawing, with its quotes kept apart', async () => {
    const made: { name: string; blob: Blob }[] = []
    let last: Blob | null = null
    vi.stubGlobal('URL', Object.assign(URL, { createObjectURL: (b: Blob) => ((last = b), 'blob:x'), revokeObjectURL: () => undefined }))
    const click = vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
      made.push({ name: this.download, blob: last! })
    })
    instead['GET /api/tables/5/pictures/two'] = {
      status: 200,
      body: two({ form: 'mosaic', parts: [{ x: 'a "b", c', y: 'k', records: 75, expected: 75, ...judged }] }),
    }
    open('/study/2/table/5/pictures?show=two&x=travel_km&y=quoted_cost')
    await says('Width and height are shares of the records')
    await userEvent.click((await screen.findAllByRole('button', { name: 'Save' })).at(-1)!)
    await userEvent.click(screen.getByRole('menuitem', { name: 'CSV figures' }))
    await userEvent.click(screen.getAllByRole('button', { name: 'Save' }).at(-1)!)
    await userEvent.click(screen.getByRole('menuitem', { name: 'SVG drawing' }))
    expect(made.map((m) => m.name)).toEqual(['travel_km-and-quoted_cost.csv', 'travel_km-and-quoted_cost.svg'])
    const lines = (await made[0]!.blob.text()).split('\r\n')
    expect(lines).toHaveLength(2)
    expect(lines[1]).toMatch(/^"a ""b"", c","k","75"/)
    expect(await made[1]!.blob.text()).toMatch(/^<svg/)
    // Where figures are shown as a table there is no drawing to keep.
    await userEvent.click(screen.getAllByRole('button', { name: 'As a table' }).at(-1)!)
    await userEvent.click(screen.getAllByRole('button', { name: 'Save' }).at(-1)!)
    expect(screen.getAllByRole('menuitem').map((m) => m.textContent)).toEqual(['CSV figures'])
    click.mockRestore()
  })

  it('says how it is read, and goes back to itself', async () => {
    open('/study/2/table/5/pictures?show=two')
    await userEvent.click((await screen.findAllByRole('button', { name: 'How to read this' })).at(-1)!)
    const dialog = await screen.findByRole('dialog')
    expect(dialog).toHaveTextContent('The mean of a number, or the share of a value, in each period')
    await userEvent.click(within(dialog).getByRole('button', { name: 'Close' }))
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    await userEvent.click(await button('As a table'))
    await userEvent.click(await button('As a picture'))
    expect(screen.queryByRole('region', { name: 'The figures as a table' })).toBeNull()
  })
})
