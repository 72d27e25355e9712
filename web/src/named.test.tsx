import { render } from '@testing-library/react'
import { expect, it } from 'vitest'
import { namelessSince } from './named'

it('finds a dialog without a name and what in it has none, and nothing beside', async () => {
  render(
    <>
      <div role="dialog">
        <button type="button">Close</button>
        <input />
        <label>
          Records <input />
        </label>
        <button type="button" aria-label="Leave it" />
      </div>
      <div role="dialog" aria-label="Well named">
        <select aria-label="How" />
      </div>
      <button type="button" />
    </>,
  )
  await new Promise((done) => setTimeout(done, 20))
  const found = namelessSince()
  expect(found).toHaveLength(2)
  expect(found[0]).toContain('role="dialog"')
  expect(found[1]).toContain('<input>')
})
