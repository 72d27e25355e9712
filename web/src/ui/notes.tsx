import { createContext, type ReactNode, useContext, useEffect } from 'react'

type Notes = { count: number; content: ReactNode }

export const NotesContext = createContext<(notes: Notes) => void>(() => undefined)

/** Puts what a screen noticed into the margin; it goes when the screen goes. */
export function useNotes(count: number, content: ReactNode, key: string): void {
  const set = useContext(NotesContext)
  useEffect(() => {
    set({ count, content })
    return () => set({ count: 0, content: null })
    // The content is new at every drawing; the key says when it means something else.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [set, count, key])
}
