import { useEffect } from 'react'

const STORE = 'dokimos.keys'

export function keysEnabled(): boolean {
  return localStorage.getItem(STORE) !== 'off'
}

export function setKeysEnabled(on: boolean): void {
  localStorage.setItem(STORE, on ? 'on' : 'off')
}

/** Single-letter keys, silent in fields, in dialogs, with a modifier, and when switched off. */
export function useKeys(keys: Record<string, () => void>): void {
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented || !keysEnabled()) return
      if (
        event.target instanceof Element &&
        event.target.closest(
          'input:not([type=radio]):not([type=checkbox]), textarea, select, [contenteditable], [role=dialog], [role=menu], [role=slider]',
        )
      )
        return
      const act = keys[event.key] ?? keys[event.key.toLowerCase()]
      if (!act) return
      event.preventDefault()
      act()
    }
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  }, [keys])
}
