import { useState } from 'react'

/** A value that counts when it is left or confirmed: what is half written stays here. */
export function useWritten(value: string, onDone: (value: string) => void) {
  const [text, setText] = useState<string | null>(null)
  const done = () => {
    if (text !== null && text !== value) onDone(text)
    setText(null)
  }
  return { text: text ?? value, writing: text !== null, write: setText, done }
}
