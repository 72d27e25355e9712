import { useMediaQuery } from '@mui/material'
import { type RefObject, useLayoutEffect, useState } from 'react'

/** How wide an element is drawn, in CSS pixels, kept up to date; null where nothing can be measured. */
export function useWidth(ref: RefObject<HTMLElement | null>): number | null {
  const [width, setWidth] = useState<number | null>(null)
  useLayoutEffect(() => {
    const element = ref.current
    if (!element) return
    const measure = () => setWidth(element.clientWidth || null)
    measure()
    if (typeof ResizeObserver === 'undefined') return
    const observer = new ResizeObserver(measure)
    observer.observe(element)
    return () => observer.disconnect()
  }, [ref])
  return width
}

/** Whether the screen has room to spare: findings are told in full there, and pictures are larger. */
export const useRoomy = () => useMediaQuery('(min-width: 1600px)', { noSsr: true })

/** So many times larger pictures are drawn where there is room. */
export const LARGER = 1.4
