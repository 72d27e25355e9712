import { Button } from '@mui/material'
import type { Advice, Step } from '../../data/preparation'

/** Other orders of the same steps, each computed, with the way to take it. */
export function AdviceNotes({ advice, onTake, busy }: { advice: Advice[]; onTake: (steps: Step[]) => void; busy: boolean }) {
  return (
    <>
      {advice.slice(0, 4).map((a) => (
        <div key={a.says} className="note below-8">
          <p>{a.says}</p>
          <p className="do">
            <Button size="small" disabled={busy} onClick={() => onTake(a.steps as Step[])}>
              Do it that way
            </Button>
          </p>
        </div>
      ))}
    </>
  )
}
