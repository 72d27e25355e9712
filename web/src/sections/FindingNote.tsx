import { Button, TextField } from '@mui/material'
import { type FormEvent, useState } from 'react'
import { Link } from 'react-router'
import { date, whole } from '../ui/format'
import { Trouble } from '../ui/Trouble'
import { type Column, useChangeColumn } from '../data/table'
import { type Finding, type Remedy, tone, useSettle } from '../data/finding'

type Props = { finding: Finding; columns: Column[]; studyId: number; tableId: number }

/** A finding with its evidence, the remedies that exist, and a way to settle it with a reason. */
export function FindingNote({ finding, columns, studyId, tableId }: Props) {
  const change = useChangeColumn()
  const settle = useSettle(tableId)
  const [asking, setAsking] = useState(false)
  const [reason, setReason] = useState('')

  function mend(remedy: Remedy) {
    const column = columns.find((c) => c.name === remedy.column)
    if (!column) return
    switch (remedy.do) {
      case 'set aside':
        return change.mutate({ column, change: { use: 'set aside' } })
      case 'key':
        return change.mutate({ column, change: { use: 'key' } })
      case 'known afterwards':
        return change.mutate({ column, change: { known: false } })
      case 'kind':
        return change.mutate({ column, change: { kind: remedy.to as Column['kind'] as 'number' } })
    }
  }
  function submit(event: FormEvent) {
    event.preventDefault()
    settle.mutate({ key: finding.key, reason }, { onSuccess: () => setAsking(false) })
  }

  if (finding.dismissed)
    return (
      <div className="note" style={{ marginBottom: 12, opacity: 0.75 }}>
        <p className="small">
          <b>{finding.sort}</b>, settled by {finding.dismissed.who} on {date(finding.dismissed.at)}: {finding.dismissed.reason}{' '}
          <Button size="small" variant="text" onClick={() => settle.mutate({ key: finding.key, reason: null })}>
            Open again
          </Button>
        </p>
      </div>
    )
  return (
    <div className="note" style={{ marginBottom: 14, borderLeftColor: finding.severity === 'high' ? 'var(--cinnabar)' : undefined }}>
      <h3 className={tone(finding.severity)}>{finding.sort}</h3>
      <p>{finding.sentence}</p>
      {finding.rows.length > 0 && (
        <p className="small soft">
          Records behind it:{' '}
          {finding.rows.slice(0, 5).map((n, i) => (
            <span key={n}>
              {i > 0 && ', '}
              <Link to={`/study/${studyId}/table/${tableId}/rows?from=${n}&row=${n}`}>{whole(n)}</Link>
            </span>
          ))}
          {finding.rows.length > 5 && ` and ${whole(finding.rows.length - 5)}${finding.rows.length === 200 ? ' or more' : ''} others`}
        </p>
      )}
      <Trouble error={change.error ?? settle.error} />
      {asking ? (
        <form onSubmit={submit} style={{ display: 'flex', flexDirection: 'column', gap: 6 }}>
          <TextField
            autoFocus
            label="Why it does not matter"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            slotProps={{ htmlInput: { maxLength: 300 } }}
          />
          <p className="do">
            <Button size="small" type="submit" disabled={reason.trim() === '' || settle.isPending}>
              Settle
            </Button>
            <Button size="small" onClick={() => setAsking(false)}>
              Leave open
            </Button>
          </p>
        </form>
      ) : (
        <p className="do">
          {finding.remedies.map((r) =>
            r.do === 'step' ? (
              <Button
                key={r.label}
                size="small"
                component={Link}
                to={`/study/${studyId}/preparation?step=${encodeURIComponent(JSON.stringify(r.step))}`}
              >
                {r.label}
              </Button>
            ) : (
              <Button key={r.label} size="small" disabled={change.isPending} onClick={() => mend(r)}>
                {r.label}
              </Button>
            ),
          )}
          <Button size="small" onClick={() => setAsking(true)}>
            Settle…
          </Button>
        </p>
      )}
    </div>
  )
}
