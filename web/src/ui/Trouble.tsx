import { Button } from '@mui/material'

/** What happened, what was kept and what to do, beside the thing concerned. */
export function Trouble({ error, onRetry, known = false }: { error: unknown; onRetry?: () => void; known?: boolean }) {
  if (!error) return null
  // What cannot be shown as things stand is no mishap: the sentence alone says why.
  if (known && error instanceof Error && 'status' in error && error.status === 409) return <p className="soft">{error.message}</p>
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
