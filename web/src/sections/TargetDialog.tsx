import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useState } from 'react'
import { Link } from 'react-router'
import { ApiError, storedInstead } from '../api/client'
import { number, share, whole } from '../ui/format'
import { Slot } from '../ui/Slot'
import { Trouble } from '../ui/Trouble'
import { TwoVersions } from '../ui/TwoVersions'
import { type TableInfo, useColumn } from '../data/table'
import { type Study, useChooseTarget } from '../data/study'
import { Division, type Divided } from './Division'

type Column = TableInfo['columns'][number]
type Value = { value: string; count: number }

const tasks = { 'two classes': 'whether an event happens', 'several classes': 'which of its classes', number: 'a number' } as const
type Task = keyof typeof tasks

/** What a column can be predicted as; none for what holds neither numbers nor classes. */
export function tasksOf(c: Column): Task[] {
  const coded = c.kind === 'yes/no' || c.kind === 'category'
  // A column that is the same everywhere leaves nothing to predict.
  if (c.distinct < 2) return []
  return [
    ...(c.kind === 'category' && c.distinct > 2 && c.distinct <= 50 ? (['several classes'] as const) : []),
    ...(c.kind === 'number' && c.distinct > 2 ? (['number'] as const) : []),
    ...(coded || (c.kind === 'number' && c.distinct <= 20) ? (['two classes'] as const) : []),
  ]
}

const named =
  /^(target|outcome|result|label|class|y|response)$|(_|^)(target|outcome|result|label|returned|return|churn(ed)?|default(ed)?)(_|$)/i

/** How much a column looks like what is asked for: by its name, its kind and number of values, and its place: outcomes mostly stand last. */
export function looksLikeTarget(c: Column, columns: number): number {
  const kind = c.kind === 'yes/no' ? 3 : c.kind === 'category' ? (c.distinct <= 12 ? 2 : 0.5) : c.distinct > 2 ? 1 : 1.5
  const aside = c.use === 'input' || c.use === 'target' ? 0 : -9
  return (named.test(c.name) ? 4 : 0) + kind + aside + c.position / Math.max(1, columns) - 3 * c.missingShare
}

/** "Predict … , where … is the event", or a number, or one of several classes: choosing it draws the sealed rows. */
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
  const possible = table.columns.filter((c) => tasksOf(c).length > 0)
  const likely = (c: Column) => looksLikeTarget(c, table.columns.length)
  const first = study.target ?? [...possible].sort((a, b) => likely(b) - likely(a))[0]?.name ?? ''
  const [column, setColumn] = useState(first)
  const [wanted, setWanted] = useState<string | null>(study.target === first ? study.task : null)
  const [event, setEvent] = useState<string | null>(study.target === first ? (study.event ?? null) : null)
  // A column whose use is to divide is meant for it.
  const marker = study.plan ? undefined : table.columns.find((c) => c.use === 'split marker')
  const [divided, setDivided] = useState<Divided>({
    way: study.plan?.way ?? (marker ? 'marker' : 'chance'),
    by: study.plan?.column ?? marker?.name ?? null,
    validation: study.plan?.validation ?? null,
    sealedValue: study.plan?.sealedValue ?? null,
  })
  const chosen = table.columns.find((c) => c.name === column)
  const offered = chosen ? tasksOf(chosen) : []
  const task = offered.find((t) => t === wanted) ?? offered[0] ?? 'two classes'
  const detail = useColumn(chosen?.id ?? null)
  const choose = useChooseTarget(study)
  const stored = storedInstead<Study>(choose.error)
  const values: Value[] =
    chosen?.kind === 'number'
      ? ((detail.data?.summary.top ?? []) as { value: number; count: number }[]).map((t) => ({ value: String(t.value), count: t.count }))
      : (chosen?.top ?? [])
  const total = table.rows - (chosen?.missing ?? 0) - (chosen?.sealed ?? 0)
  const guess =
    values.find((v) => ['yes', 'true', '1', 'y'].includes(v.value.toLowerCase()))?.value ??
    [...values].sort((a, b) => a.count - b.count)[0]?.value ??
    ''
  const effective = event ?? guess
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>What should be predicted?</DialogTitle>
      <DialogContent>
        <p className="sentence below-8">
          Predict{' '}
          <Slot
            label="Target"
            value={column}
            choices={possible.map((c) => ({ value: c.name, label: c.name, effect: c.kind }))}
            onChange={(v) => {
              setColumn(v)
              setEvent(null)
              setWanted(null)
            }}
          />{' '}
          as <Slot label="As" value={task} choices={offered.map((t) => ({ value: t, label: tasks[t] }))} onChange={setWanted} />
          {task === 'two classes' && (
            <>
              , where{' '}
              <Slot
                label="Event"
                value={effective}
                choices={values.map((v) => ({ value: v.value, label: v.value, effect: `${whole(v.count)} records` }))}
                onChange={setEvent}
              />{' '}
              is the event
            </>
          )}
          .
        </p>
        <Nothing task={task} values={values} event={effective} total={total} summary={detail.data?.summary} />
        <Division table={table} target={column} value={divided} onChange={setDivided} />
        <p className="soft small above-8">
          {divided.way === 'marker' ? 'The rows marked as sealed are' : 'A fifth of the rows is'} sealed for the final examination: no
          figure, picture or rule about the target looks at them until you open the seal.{' '}
          {study.target && 'The target of before is set aside, not made an input. '}
          {study.target && study.trials.length > 0 && 'Choosing another target makes the trials stale; they are kept.'}
        </p>
        {study.otherSeals.map((s) => (
          <p key={s} className="brass small">
            {s}
          </p>
        ))}
        {stored && choose.variables ? (
          <TwoVersions
            rows={[
              { name: 'Target', mine: choose.variables.column ?? '', stored: stored.target ?? '' },
              { name: 'Event', mine: choose.variables.event ?? '–', stored: stored.event ?? '–' },
            ]}
            busy={choose.isPending}
            onMine={() => choose.variables && choose.mutate({ ...choose.variables, over: stored.version }, { onSuccess: onDone })}
            onStored={onDone}
          />
        ) : (
          <Trouble error={choose.error} />
        )}
        {choose.error instanceof ApiError && choose.error.field === 'tableId' && (
          <Link to={`/study/${study.id}/table/${table.id}?combine=draw`} onClick={onClose}>
            Draw some of its records
          </Link>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          color="primary"
          disabled={
            (task === 'two classes' && effective === '') ||
            choose.isPending ||
            (divided.way !== 'chance' && !divided.by) ||
            (divided.way === 'marker' && !divided.validation)
          }
          onClick={() =>
            choose.mutate(
              {
                column,
                task,
                ...(task === 'two classes' ? { event: effective } : {}),
                tableId: table.id,
                ...(divided.way === 'chance' ? {} : divided),
              },
              { onSuccess: onDone },
            )
          }
        >
          Choose and seal
        </Button>
      </DialogActions>
    </Dialog>
  )
}

/** What doing nothing clever would reach. */
function Nothing({
  task,
  values,
  event,
  total,
  summary,
}: {
  task: Task
  values: Value[]
  event: string
  total: number
  summary: Record<string, unknown> | undefined
}) {
  if (task === 'number') {
    const [mean, sd] = [summary?.mean, summary?.sd].map((v) => (typeof v === 'number' ? v : null))
    return (
      <p>
        Known in {whole(total)} records, {number(mean)} on average. Saying the mean to everybody would typically be off by {number(sd, 3)}.
      </p>
    )
  }
  if (task === 'several classes') {
    const most = Math.max(0, ...values.map((v) => v.count))
    return (
      <p>
        {values
          .slice(0, 6)
          .map((v) => v.value)
          .join(', ')}
        {values.length > 6 && ' and more'}; known in {whole(total)} records. Naming the largest class would be right for{' '}
        {share(total > 0 ? most / total : null)} of them. Classes with fewer than ten records are left out.
      </p>
    )
  }
  const hits = values.find((v) => v.value === event)?.count ?? 0
  return (
    <p>
      {whole(hits)} of {whole(total)} records, {share(total > 0 ? hits / total : null)}. Doing nothing clever would be right for{' '}
      {share(total > 0 ? Math.max(hits, total - hits) / total : null)} of them.
    </p>
  )
}
