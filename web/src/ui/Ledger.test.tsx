import { render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { describe, expect, it, vi } from 'vitest'
import { Ledger } from './Ledger'

type Row = { id: number; name: string }
const rows: Row[] = ['one', 'two', 'three'].map((name, id) => ({ id, name }))

function Example({ onOpen, onSort, list = rows }: { onOpen?: (r: Row) => void; onSort?: (key: string) => void; list?: Row[] }) {
  const [selected, setSelected] = useState<number | null>(null)
  return (
    <Ledger
      label="Example"
      rows={list}
      rowKey={(r) => r.id}
      selected={selected}
      onSelect={(r) => setSelected(r.id)}
      onOpen={onOpen}
      onSort={onSort}
      sort={{ key: 'name', descending: true }}
      lineNumber={(_, i) => i + 1}
      columns={[{ key: 'name', title: 'Name', sortable: true, cell: (r) => r.name }]}
    />
  )
}

const selectedRow = () => screen.getAllByRole('row').find((r) => r.getAttribute('aria-selected') === 'true')

describe('Ledger', () => {
  it('moves with J, K and the arrows and opens with Enter', async () => {
    const opened = vi.fn()
    render(<Example onOpen={opened} />)
    await userEvent.click(screen.getByText('one'))
    selectedRow()?.focus()
    await userEvent.keyboard('j')
    expect(selectedRow()).toHaveTextContent('two')
    selectedRow()?.focus()
    await userEvent.keyboard('{ArrowDown}')
    expect(selectedRow()).toHaveTextContent('three')
    selectedRow()?.focus()
    await userEvent.keyboard('j')
    expect(selectedRow()).toHaveTextContent('three')
    await userEvent.keyboard('k')
    expect(selectedRow()).toHaveTextContent('two')
    selectedRow()?.focus()
    await userEvent.keyboard('{Enter}')
    expect(opened).toHaveBeenCalledWith(rows[1])
  })

  it('sorts by its headings and says how it is sorted', async () => {
    const sorted = vi.fn()
    render(<Example onSort={sorted} />)
    expect(screen.getByRole('columnheader', { name: /Name/ })).toHaveAttribute('aria-sort', 'descending')
    await userEvent.click(screen.getByRole('button', { name: /Name/ }))
    expect(sorted).toHaveBeenCalledWith('name')
  })

  it('draws only a part of a long list', () => {
    render(<Example list={Array.from({ length: 5000 }, (_, id) => ({ id, name: `row ${id}` }))} />)
    expect(screen.getAllByRole('row').length).toBeLessThan(200)
  })
})

describe('a column of figures', () => {
  it.each([
    [['12', '7'], 60],
    [['1,000,000,000', '7'], 112.8],
    [['−0.000001', '10,123'], 82.4],
  ])('is as wide as its widest one: %j', (figures, width) => {
    render(
      <Ledger
        label="Figures"
        rows={figures}
        rowKey={(r) => r}
        columns={[
          { key: 'n', title: 'n', number: true, width: 60, cell: (r) => <b>{r}</b> },
          { key: 't', title: 't', width: 60, cell: (r) => r },
        ]}
      />,
    )
    const [own, other] = screen.getAllByRole('columnheader')
    expect(parseFloat(own!.style.width)).toBeCloseTo(width, 1)
    expect(other!.style.width).toBe('60px')
  })

  it.each([
    [900, ['Name', 'Read', 'Figure', 'Fails'], []],
    [420, ['Name', 'Read', 'Figure'], ['Fails 7']],
    [330, ['Name', 'Figure'], ['read by three', 'Fails 7']],
    [60, ['Name', 'Figure'], ['read by three', 'Fails 7']],
  ])('at %d pixels what may give way does, in its order, and is said on a second line', (width, heads, under) => {
    const before = Object.getOwnPropertyDescriptor(HTMLElement.prototype, 'clientWidth')
    Object.defineProperty(HTMLElement.prototype, 'clientWidth', { configurable: true, value: width })
    try {
      render(
        <Ledger
          label="Narrow"
          rows={[rows[2]!]}
          rowKey={(r) => r.id}
          columns={[
            { key: 'name', title: 'Name', least: 200, cell: () => 'trial' },
            { key: 'read', title: 'Read', width: 80, gives: 2, said: (r) => `read by ${r.name}`, cell: (r) => r.name },
            { key: 'figure', title: 'Figure', number: true, width: 100, cell: () => '0.735' },
            { key: 'fails', title: 'Fails', number: true, width: 90, gives: 1, cell: () => 7 },
          ]}
          footer={(isShown) => (
            <tr>
              <td>{['name', 'read', 'figure', 'fails'].filter(isShown).length}</td>
            </tr>
          )}
        />,
      )
      expect(screen.getAllByRole('columnheader').map((h) => h.textContent)).toEqual(heads)
      expect([...document.querySelectorAll('.under > span')].map((s) => s.textContent)).toEqual(under)
      expect(screen.getAllByRole('cell').at(-1)).toHaveTextContent(String(heads.length))
    } finally {
      if (before) Object.defineProperty(HTMLElement.prototype, 'clientWidth', before)
      else delete (HTMLElement.prototype as { clientWidth?: number }).clientWidth
    }
  })
})
