import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useState } from 'react'
import { storedInstead } from '../../api/client'
import { share, whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'
import { TwoVersions } from '../../ui/TwoVersions'
import { type TableInfo, useColumn } from '../table/api'
import { type Study, useChooseTarget } from './api'

/** "Predict … , where … is the event": choosing it draws the sealed rows. */
export function TargetDialog({
  study,
  table,
  onClose,
  onDone,
}: {
  study: Study
  table: TableInfo
  onClose: () => void
  onDone: () => void
}) {
  const possible = table.columns.filter((c) => c.kind === 'yes/no' || c.kind === 'category' || (c.kind === 'number' && c.distinct <= 20))
  const first = study.target ?? possible.filter((c) => c.kind === 'yes/no').at(-1)?.name ?? possible.at(-1)?.name ?? ''
  const [column, setColumn] = useState(first)
  const [event, setEvent] = useState<string | null>(study.target === first ? (study.event ?? null) : null)
  const chosen = table.columns.find((c) => c.name === column)
  const detail = useColumn(chosen?.id ?? null)
  const choose = useChooseTarget(study)
  const stored = storedInstead<Study>(choose.error)
  const values =
    chosen?.kind === 'number'
      ? ((detail.data?.summary.top ?? []) as { value: number; count: number }[]).map((t) => ({ value: String(t.value), count: t.count }))
      : (chosen?.top ?? [])
  const total = table.rows - (chosen?.missing ?? 0)
  const guess =
    values.find((v) => ['yes', 'true', '1', 'y'].includes(v.value.toLowerCase()))?.value ??
    [...values].sort((a, b) => a.count - b.count)[0]?.value ??
    ''
  const effective = event ?? guess
  const hits = values.find((v) => v.value === effective)?.count ?? 0
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>What should be predicted?</DialogTitle>
      <DialogContent>
        <p className="sentence" style={{ marginBottom: 8 }}>
          Predict{' '}
          <Slot
            label="Target"
            value={column}
            choices={possible.map((c) => ({ value: c.name, label: c.name, effect: c.kind }))}
            onChange={(v) => {
              setColumn(v)
              setEvent(null)
            }}
          />
          , where{' '}
          <Slot
            label="Event"
            value={effective}
            choices={values.map((v) => ({ value: v.value, label: v.value, effect: `${whole(v.count)} records` }))}
            onChange={setEvent}
          />{' '}
          is the event.
        </p>
        <p>
          {whole(hits)} of {whole(total)} records, {share(total > 0 ? hits / total : null)}. Doing nothing clever would be right for{' '}
          {share(total > 0 ? Math.max(hits, total - hits) / total : null)} of them.
        </p>
        <p className="soft small" style={{ marginTop: 8 }}>
          A fifth of the rows is sealed for the final examination: no figure, picture or rule about the target looks at them until you open
          the seal. {table.rows < 50000 ? 'The others judge in 5 folds, 2 times.' : 'Of the others, a quarter judges.'}
          {study.target && study.trials.length > 0 && ' Choosing another target makes the trials stale; they are kept.'}
        </p>
        {stored && choose.variables ? (
          <TwoVersions
            rows={[
              { name: 'Target', mine: choose.variables.column ?? '', stored: stored.target ?? '' },
              { name: 'Event', mine: choose.variables.event ?? '', stored: stored.event ?? '' },
            ]}
            busy={choose.isPending}
            onMine={() => choose.variables && choose.mutate({ ...choose.variables, over: stored.version }, { onSuccess: onDone })}
            onStored={onDone}
          />
        ) : (
          <Trouble error={choose.error} />
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          color="primary"
          disabled={effective === '' || choose.isPending}
          onClick={() => choose.mutate({ column, event: effective, tableId: table.id }, { onSuccess: onDone })}
        >
          Choose and seal
        </Button>
      </DialogActions>
    </Dialog>
  )
}
