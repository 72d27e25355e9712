import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useState } from 'react'
import { count, whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'
import { type Column, type ColumnsChange, useChangeColumns } from '../../data/table'
import { explain, kinds, uses } from './texts'

const stay = 'as it is'

/** The same change of many columns: first what it does to each, then the change. */
export function ChangeColumns({ tableId, columns, onClose }: { tableId: number; columns: Column[]; onClose: (done: boolean) => void }) {
  const [kind, setKind] = useState(stay)
  const [use, setUse] = useState(stay)
  const [known, setKnown] = useState(stay)
  const look = useChangeColumns(tableId)
  const apply = useChangeColumns(tableId)
  const versions = Object.fromEntries(columns.map((c) => [String(c.id), c.version]))
  const change: ColumnsChange = {
    versions,
    ...(kind === stay ? {} : { kind: kind as (typeof kinds)[number] }),
    ...(use === stay ? {} : { use: use as (typeof uses)[number] }),
    ...(known === stay ? {} : { known: known === 'yes' }),
  }
  const nothing = kind === stay && use === stay && known === stay
  const put = (set: (v: string) => void) => (v: string) => {
    set(v)
    look.reset()
  }
  const effects = look.data?.columns ?? []
  const refused = effects.filter((e) => e.refused != null)
  const losing = effects.filter((e) => e.misfits > 0)
  return (
    <Dialog open onClose={() => onClose(false)} maxWidth="md" aria-labelledby="change-columns">
      <DialogTitle id="change-columns">Change {count(columns.length, 'column')}</DialogTitle>
      <DialogContent sx={{ minWidth: 560 }}>
        <p className="sentence">
          The kind{' '}
          <Slot
            label="Kind"
            value={kind}
            choices={[
              { value: stay, label: 'stays as it is' },
              ...kinds.map((k) => ({ value: k, label: `becomes ${k}`, effect: explain[k] ?? '' })),
            ]}
            onChange={put(setKind)}
          />
          , the use{' '}
          <Slot
            label="Use"
            value={use}
            choices={[
              { value: stay, label: 'stays as it is' },
              ...uses.map((u) => ({ value: u, label: `becomes ${u}`, effect: explain[u] ?? '' })),
            ]}
            onChange={put(setUse)}
          />
          , and it{' '}
          <Slot
            label="Known when the decision is made"
            value={known}
            choices={[
              { value: stay, label: 'stays known as it is' },
              { value: 'yes', label: 'is known when the decision is made' },
              { value: 'no', label: 'is known only afterwards', effect: 'models never see it' },
            ]}
            onChange={put(setKnown)}
          />
          .
        </p>
        <p className="small soft" style={{ overflowWrap: 'anywhere' }}>
          {columns
            .slice(0, 12)
            .map((c) => c.name)
            .join(', ')}
          {columns.length > 12 && ` and ${whole(columns.length - 12)} more`}
        </p>
        <Trouble error={look.error ?? apply.error} />
        {look.data && (
          <div role="status">
            <p>
              <b>
                {losing.length === 0
                  ? 'Every cell fits.'
                  : `${count(
                      losing.reduce((s, e) => s + e.misfits, 0),
                      'cell',
                    )} in ${count(losing.length, 'column')} would not fit and count as missing; their text is kept.`}
              </b>
            </p>
            {losing.length > 0 && (
              <div style={{ maxHeight: 220, overflow: 'auto' }} tabIndex={0} role="region" aria-label="Cells that do not fit">
                <table className="ledger" aria-label="Cells that do not fit">
                  <thead>
                    <tr>
                      <th>Column</th>
                      <th className="n">Do not fit</th>
                      <th className="n">Of</th>
                      <th>For example</th>
                    </tr>
                  </thead>
                  <tbody>
                    {losing.map((e) => (
                      <tr key={e.id}>
                        <td className="nm">{e.name}</td>
                        <td className="n">{whole(e.misfits)}</td>
                        <td className="n">{whole(e.cells)}</td>
                        <td className="many-lines">{e.examples.map((x) => `“${x}”`).join(', ')}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
            )}
            {refused.map((e) => (
              <p key={e.id} className="problem">
                {e.refused} It stays as it is.
              </p>
            ))}
          </div>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={() => onClose(false)}>Leave them</Button>
        {look.data ? (
          <Button
            variant="contained"
            color="primary"
            disabled={apply.isPending || refused.length === effects.length}
            onClick={() => apply.mutate(change, { onSuccess: () => onClose(true) })}
          >
            {apply.isPending ? 'Changing …' : `Change ${count(effects.length - refused.length, 'column')}`}
          </Button>
        ) : (
          <Button
            variant="contained"
            color="primary"
            disabled={nothing || look.isPending}
            onClick={() => look.mutate({ ...change, preview: true })}
          >
            {look.isPending ? 'Looking …' : 'See what it does'}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  )
}
