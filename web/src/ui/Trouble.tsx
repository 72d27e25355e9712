import { Button } from '@mui/material'

/** What happened, what was kept and what to do, beside the thing concerned. */
export function Trouble({ error, onRetry }: { error: unknown; onRetry?: () => void }) {
  if (!error) return null
  const sentence = error instanceof Error && error.message !== '' ? error.message : 'The server could not be reached. Nothing was changed.'
  return (
    <div className="problem" role="alert">
      <b>Not done.</b> {sentence}{' '}
      {onRetry && (
        <Button size="small" onClick={onRetry}>
          Try again
        </Button>
      )}
    </div>
  )
}

/** A line that says something is on its way; quiet for the first moments. */
export function Loading({ what }: { what: string }) {
  return (
    <p className="soft" role="status" style={{ padding: 16 }}>
      Reading {what} …
    </p>
  )
}
