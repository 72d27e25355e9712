import '@testing-library/jest-dom/vitest'
import { cleanup, configure } from '@testing-library/react'
import { afterEach, expect } from 'vitest'
import { namelessSince, watchNames } from './named'

// Whatever dialog comes up in a test: a screen reader can name it, and everything in it that can be acted on.
watchNames()
afterEach(() => {
  cleanup()
  expect(namelessSince(), 'in a dialog or a menu something has no name').toEqual([])
})
// A slow machine is no failure: what never comes is still told, later.
configure({ asyncUtilTimeout: 15_000 })

/**
 * A style without the style sheets: resolving every rule for each element that a query passes took three quarters of all
 * the time of these tests. What sheets hide is looked at in the browser journeys; what is hidden by attributes or inline is seen here.
 */
const usual: Record<string, string> = { display: 'block', visibility: 'visible', pointerEvents: 'auto', 'pointer-events': 'auto' }
const resolved = window.getComputedStyle.bind(window)
const none = document.createElement('div').style

window.getComputedStyle = ((element: Element, pseudo?: string | null) => {
  if (pseudo) return resolved(element, pseudo)
  return new Proxy('style' in element ? (element.style as CSSStyleDeclaration) : none, {
    get(style, key) {
      if (key === 'getPropertyValue') return (name: string) => style.getPropertyValue(name) || usual[name] || ''
      const value: unknown = Reflect.get(style, key)
      return typeof value === 'function' ? value.bind(style) : value || (usual[String(key)] ?? '')
    },
  })
}) as typeof window.getComputedStyle
