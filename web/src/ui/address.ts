import { useCallback } from 'react'
import { useSearchParams } from 'react-router'

/** What the address says about a screen, and a way to change some of it; null takes a word out. Back is not filled with every small step. */
export function useAddress(): [URLSearchParams, (change: Record<string, string | null>) => void] {
  const [params, setParams] = useSearchParams()
  const set = useCallback(
    (change: Record<string, string | null>) =>
      setParams(
        (before) => {
          const next = new URLSearchParams(before)
          for (const [name, value] of Object.entries(change)) {
            if (value === null) next.delete(name)
            else next.set(name, value)
          }
          return next
        },
        { replace: true },
      ),
    [setParams],
  )
  return [params, set]
}
