import { render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { IntervalMark } from './IntervalMark'
import { setKeysEnabled, useKeys } from './keys'
import { Shape } from './Shape'
import { Slot } from './Slot'
import { Thread } from './Thread'
import { Trouble } from './Trouble'

describe('Thread', () => {
  const link = (to: string, className: string, content: React.ReactNode, current: boolean) => (
    <a href={to} className={className} aria-current={current ? 'step' : undefined}>
      {content}
    </a>
  )
  const station = (number: number, share: number | null, state: 'done' | 'now' | 'todo' = 'done') => ({
    number,
    label: `Station ${number}`,
    to: `/${number}`,
    state,
    share,
  })

  it('has one filament for each tenth of the rows still in play', () => {
    const filaments = (share: number | null) => {
      const { container, unmount } = render(<Thread stations={[station(1, share), station(2, null)]} renderLink={link} />)
      const n = container.querySelectorAll('g[stroke="var(--ink)"] path').length
      unmount()
      return n
    }
    expect(filaments(1)).toBe(10)
    expect(filaments(0.5)).toBe(5)
    expect(filaments(0.42)).toBe(5)
    expect(filaments(null)).toBe(0)
  })

  it('is navigation that says where we are', () => {
    render(<Thread stations={[station(1, 1), station(2, null, 'now'), station(3, null, 'todo')]} renderLink={link} />)
    expect(screen.getByRole('navigation', { name: /thread/ })).toBeInTheDocument()
    expect(screen.getByRole('link', { current: 'step' })).toHaveTextContent('Station 2')
  })
})

describe('small marks', () => {
  it('keeps an interval inside its scale', () => {
    const { container } = render(<IntervalMark value={2} low={-5} high={9} scale={[0, 1]} width={100} />)
    const line = container.querySelector('line')!
    expect([line.getAttribute('x1'), line.getAttribute('x2')]).toEqual(['4', '96'])
  })

  it('draws nothing for nothing', () => {
    const { container } = render(<Shape bars={[]} />)
    expect(container.querySelectorAll('rect')).toHaveLength(0)
  })
})

describe('Slot', () => {
  it('opens its choices and hands back the chosen one', async () => {
    const change = vi.fn()
    render(
      <Slot
        label="Method"
        value="a"
        choices={[
          { value: 'a', label: 'median' },
          { value: 'b', label: 'mean', effect: 'the average' },
        ]}
        onChange={change}
      />,
    )
    await userEvent.click(screen.getByRole('button', { name: 'Method: median' }))
    await userEvent.click(screen.getByRole('menuitem', { name: /mean/ }))
    expect(change).toHaveBeenCalledWith('b')
  })
})

describe('Trouble', () => {
  it('says the sentence of the server, and one of its own when there is none', () => {
    const { rerender } = render(<Trouble error={new Error('The disk is full.')} />)
    expect(screen.getByRole('alert')).toHaveTextContent('The disk is full.')
    rerender(<Trouble error={{}} />)
    expect(screen.getByRole('alert')).toHaveTextContent('could not be reached')
    rerender(<Trouble error={null} />)
    expect(screen.queryByRole('alert')).toBeNull()
  })
})

describe('keys', () => {
  afterEach(() => setKeysEnabled(true))
  function Keyed({ act }: { act: () => void }) {
    useKeys({ n: act })
    return <input aria-label="field" />
  }

  it('act outside of fields only, and not when switched off', async () => {
    const act = vi.fn()
    render(<Keyed act={act} />)
    await userEvent.keyboard('n')
    expect(act).toHaveBeenCalledTimes(1)
    await userEvent.type(screen.getByLabelText('field'), 'n')
    expect(act).toHaveBeenCalledTimes(1)
    setKeysEnabled(false)
    ;(document.activeElement as HTMLElement).blur()
    await userEvent.keyboard('n')
    expect(act).toHaveBeenCalledTimes(1)
  })
})
