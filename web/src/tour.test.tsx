import { screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { beforeEach, describe, expect, it } from 'vitest'
import { button, clean, open, says, standIn } from './harness'

standIn()

describe('the tour', () => {
  beforeEach(() => localStorage.removeItem('dokimos.tour'))

  it('is offered at home once, and can be declined', async () => {
    open('/')
    await says('New here?')
    await userEvent.click(await button('Not now'))
    expect(screen.queryByText(/New here/)).toBeNull()
    expect(localStorage.getItem('dokimos.tour')).toBe('seen')
  })

  it('points at one thing after the other, by keyboard, and goes back', async () => {
    open('/')
    await userEvent.click(await button('A tour in five steps'))
    expect(await screen.findByRole('dialog', { name: 'Tour, 1 of 5' })).toHaveFocus()
    for (const [at, what] of [
      [2, 'The sheet is where you read and decide'],
      [3, 'The margin holds what deserves a word'],
      [4, 'Find goes anywhere'],
      [5, 'Work runs beside you'],
    ] as const) {
      await userEvent.click(await button('Next'))
      expect(await screen.findByRole('dialog', { name: `Tour, ${at} of 5` })).toHaveTextContent(what)
    }
    await userEvent.click(await button('Back'))
    await says('Find goes anywhere')
    await clean()
    await userEvent.keyboard('{Escape}')
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    expect(screen.queryByText(/New here/)).toBeNull()
  })

  it('is taken again from the menu behind the initials', async () => {
    localStorage.setItem('dokimos.tour', 'seen')
    open('/study/2/table')
    await userEvent.click(await screen.findByRole('button', { name: /account of/ }))
    await userEvent.click(await screen.findByRole('menuitem', { name: 'A short tour' }))
    await says('The thread runs through the work')
    await userEvent.click(await button('Leave the tour'))
    await waitFor(() => expect(screen.queryByText('The thread runs through the work')).toBeNull())
  })
})
