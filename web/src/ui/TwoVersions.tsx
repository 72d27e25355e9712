import { Button } from '@mui/material'

type Props = { rows: { name: string; mine: string; stored: string }[]; busy: boolean; onMine: () => void; onStored: () => void }

/** A change that met a newer version: both side by side, and the choice between them. Nothing is lost before it is made. */
export function TwoVersions({ rows, busy, onMine, onStored }: Props) {
  return (
    <div className="problem" role="alert">
      <p>
        <b>Somebody changed this in the meantime.</b> Yours is not saved yet.
      </p>
      <table className="ledger" aria-label="Two versions" style={{ margin: '8px 0', tableLayout: 'fixed' }}>
        <thead>
          <tr>
            <th style={{ width: 64 }} />
            <th>Yours</th>
            <th>Stored now</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.name}>
              <td className="soft">{r.name}</td>
              {[r.mine, r.stored].map((v, i) => (
                <td key={i} style={{ whiteSpace: 'normal', overflowWrap: 'anywhere', fontWeight: r.mine === r.stored ? 400 : 600 }}>
                  {v || '–'}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <div style={{ display: 'flex', gap: 8, flexWrap: 'wrap' }}>
        <Button size="small" disabled={busy} onClick={onMine}>
          Save yours over it
        </Button>
        <Button size="small" disabled={busy} onClick={onStored}>
          Keep the stored one
        </Button>
      </div>
    </div>
  )
}
