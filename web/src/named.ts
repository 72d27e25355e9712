import { expect } from 'vitest'

const ROLES = ['button', 'tab', 'menuitem', 'option', 'slider', 'switch', 'combobox'].map((role) => `[role=${role}]`)
const ACTED_ON = ['button', 'a[href]', 'input:not([type=hidden])', 'select', 'textarea', ...ROLES].join(', ')

/** Dialogs, menus and what can be acted on in them that a screen reader could not name, in the tests since last asked. */
const nameless = new Set<string>()
const looked = new WeakSet<Element>()

function look() {
  for (const dialog of document.querySelectorAll('[role=dialog], [role=menu], [role=listbox]')) {
    for (const element of [dialog, ...dialog.querySelectorAll(ACTED_ON)]) {
      if (looked.has(element) || element.closest('[aria-hidden=true]')) continue
      looked.add(element)
      // A list of choices is named by what it belongs to.
      if (element.getAttribute('role') === 'menu' || element.getAttribute('role') === 'listbox') continue
      try {
        expect(element).toHaveAccessibleName()
      } catch {
        nameless.add(`${dialog.textContent.slice(0, 40)}: ${element.outerHTML.slice(0, 160)}`)
      }
    }
  }
}

/** Looks at every dialog that comes up, at what is added to it, and at its menus, once each. */
export function watchNames() {
  let due = false
  new MutationObserver(() => {
    if (due) return
    due = true
    setTimeout(() => {
      due = false
      look()
    }, 0)
  }).observe(document.body, { childList: true, subtree: true })
}

export function namelessSince(): string[] {
  const found = [...nameless]
  nameless.clear()
  return found
}
