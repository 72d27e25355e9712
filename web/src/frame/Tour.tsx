import { Button } from '@mui/material'
import { useEffect, useLayoutEffect, useRef, useState } from 'react'

interface Stop {
  at: string
  says: string
  more: string
}

const STOPS: Stop[] = [
  {
    at: 'nav.thread, .thread',
    says: 'The thread runs through the work',
    more: 'In a study it has six stations, from the table to decisions. Keys 1 to 6 go to them; a number in brass waits for you.',
  },
  {
    at: '#main .sheet, #main',
    says: 'The sheet is where you read and decide',
    more: 'Underlined words in a sentence can be changed where they stand. Every figure has its interval and stands beside what doing nothing would score.',
  },
  {
    at: '.notes',
    says: 'The margin holds what deserves a word',
    more: 'Each note names what was found and what you can do about it. Key N opens it.',
  },
  {
    at: '.bar .find',
    says: 'Find goes anywhere',
    more: 'Studies, columns, trials and settings, by a part of their name. Key / opens it, ? lists all keys.',
  },
  {
    at: '.bar .pill, .bar > :nth-last-child(2)',
    says: 'Work runs beside you',
    more: 'Imports, trials and batches go on while you look elsewhere; here you see how far they are and stop them.',
  },
]
const SEEN = 'dokimos.tour'
const WIDE = 320

/** Whether the tour was taken or declined on this machine. */
export const tourSeen = (): boolean => localStorage.getItem(SEEN) !== null
export const rememberTour = (): void => localStorage.setItem(SEEN, 'seen')

/** Points at the real things, one after the other; it covers nothing, and can be left at any moment. */
export function Tour({ onClose }: { onClose: () => void }) {
  const [step, setStep] = useState(0)
  const [place, setPlace] = useState<{ top: number; left: number; box: DOMRect } | null>(null)
  const own = useRef<HTMLDivElement>(null)
  const stop = STOPS[step] ?? STOPS[0]!
  const leave = () => {
    rememberTour()
    onClose()
  }
  useLayoutEffect(() => {
    const look = () => {
      const box = document.querySelector(stop.at)?.getBoundingClientRect()
      if (!box) return setPlace(null)
      const right = box.right + 14 + WIDE < innerWidth
      setPlace({
        box,
        top: Math.max(
          8,
          Math.min(innerHeight - 190, right ? box.top + 40 : box.top > 240 ? box.top - 180 : Math.min(box.bottom + 12, box.top + 60)),
        ),
        left: right ? box.right + 14 : Math.max(8, Math.min(innerWidth - WIDE - 8, box.left - (box.left > innerWidth / 2 ? WIDE + 14 : 0))),
      })
    }
    look()
    addEventListener('resize', look)
    return () => removeEventListener('resize', look)
  }, [stop.at])
  useEffect(() => own.current?.focus(), [step])
  return (
    <>
      {place && (
        <div
          aria-hidden="true"
          className="tour-mark"
          style={{ top: place.box.top, left: place.box.left, width: place.box.width, height: place.box.height }}
        />
      )}
      <div
        ref={own}
        role="dialog"
        aria-label={`Tour, ${step + 1} of ${STOPS.length}`}
        tabIndex={-1}
        className="tour"
        style={{ width: WIDE, top: place?.top ?? 80, left: place?.left ?? 80 }}
        onKeyDown={(e) => {
          if (e.key === 'Escape') leave()
          e.stopPropagation()
        }}
      >
        <p className="soft small">
          {step + 1} of {STOPS.length}
        </p>
        <h2 className="fig-title">{stop.says}</h2>
        <p>{stop.more}</p>
        <p style={{ display: 'flex', gap: 8, marginTop: 10 }}>
          <Button size="small" onClick={leave}>
            Leave the tour
          </Button>
          <span style={{ flex: 1 }} />
          {step > 0 && (
            <Button size="small" onClick={() => setStep(step - 1)}>
              Back
            </Button>
          )}
          <Button
            size="small"
            variant="contained"
            color="primary"
            onClick={() => (step === STOPS.length - 1 ? leave() : setStep(step + 1))}
          >
            {step === STOPS.length - 1 ? 'Done' : 'Next'}
          </Button>
        </p>
      </div>
    </>
  )
}
