import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useState } from 'react'
import { type Decision, useMeasure } from '../../data/list'
import { useStudy } from '../../data/study'
import { titled, useRegister } from '../../data/table'
import { count, share, whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'

type Told = NonNullable<Decision['measured']>

const within = (i: Told['works'], digits = 0) =>
  `${share(i.value, digits)}${i.low == null ? '' : ` (${share(i.low, digits)} to ${share(i.high, digits)})`}`

/** What a later table showed of the effect, and whether it is what was thought. */
export function MeasuredNote({ decision }: { decision: Decision }) {
  const told = decision.measured
  if (!told) return null
  return (
    <div className="note" role="status">
      <p>
        <b>
          {told.works.value == null
            ? 'Those left untouched had no event: nothing can be compared.'
            : `Acting prevented ${within(told.works)} of events.`}
        </b>{' '}
        In {told.tableName}, {whole(told.actedEvents)} of {whole(told.acted)} acted on had it, {whole(told.leftEvents)} of{' '}
        {whole(told.left)} left untouched.{' '}
        {told.contradicts && (
          <span className="brass">
            That lies outside the {share(decision.terms.worksLow, 0)} to {share(decision.terms.worksHigh, 0)} assumed here: change how often
            an action works before the next list.
          </span>
        )}{' '}
        {told.missing > 0 && `${count(told.missing, 'record')} of the list ${told.missing === 1 ? 'is' : 'are'} not in that table.`}
      </p>
    </div>
  )
}

/** Asks which later table tells what came. */
export function Measure({ decision, onClose }: { decision: Decision; onClose: () => void }) {
  const study = useStudy(decision.studyId)
  const tables = study.data?.tables.filter((t) => t.state === 'ready') ?? []
  const [tableId, setTableId] = useState<number | null>(null)
  const table = useRegister(tableId)
  const columns = table.data?.columns ?? []
  const [outcome, setOutcome] = useState<string | null>(null)
  const [event, setEvent] = useState<string | null>(null)
  const [key, setKey] = useState<string | null>(null)
  const measure = useMeasure(decision.id)
  const chosenOutcome = outcome ?? columns.find((c) => c.name === decision.target)?.name ?? ''
  const values = columns.find((c) => c.name === chosenOutcome)?.top.map((t) => t.value) ?? []
  const chosenEvent = event ?? (values.includes('yes') ? 'yes' : (values[0] ?? ''))
  const chosenKey = key ?? (columns.some((c) => c.name === decision.key) ? (decision.key ?? '') : '')
  const slot = (label: string, value: string, of: string[], onChange: (v: string) => void) => (
    <Slot
      label={label}
      value={value}
      wait={value === ''}
      choices={[...(value === '' ? [{ value: '', label: 'choose…' }] : []), ...of.map((o) => ({ value: o, label: o }))]}
      onChange={onChange}
    />
  )
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Measure what acting did</DialogTitle>
      <DialogContent>
        <p className="soft size-13 below-8">
          Judged by assignment: all who were to be acted on, whether that was done or not, against the {whole(decision.left)} left untouched
          by draw.
        </p>
        <p className="sentence">
          What came stands in{' '}
          <Slot
            label="Later table"
            value={String(tableId ?? '')}
            wait={tableId === null}
            choices={[
              ...(tableId === null ? [{ value: '', label: 'choose…' }] : []),
              ...tables.map((t) => ({ value: String(t.id), label: titled(t), effect: `${whole(t.rows)} records` })),
            ]}
            onChange={(v) => {
              setTableId(Number(v))
              setOutcome(null)
              setEvent(null)
              setKey(null)
            }}
          />
          {tableId !== null && table.data && (
            <>
              , column{' '}
              {slot(
                'Column with what came',
                chosenOutcome,
                columns.map((c) => c.name),
                setOutcome,
              )}
              ; the event is {slot('Value that is the event', chosenEvent, values, setEvent)}; records are told apart by{' '}
              {slot(
                'Column that tells records apart',
                chosenKey,
                columns.map((c) => c.name).filter((c) => decision.columns.includes(c)),
                setKey,
              )}
            </>
          )}
          .
        </p>
        <Trouble error={measure.error ?? table.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          color="primary"
          disabled={tableId === null || chosenOutcome === '' || chosenEvent === '' || chosenKey === '' || measure.isPending}
          onClick={() =>
            measure.mutate({ tableId: tableId ?? 0, outcome: chosenOutcome, event: chosenEvent, key: chosenKey }, { onSuccess: onClose })
          }
        >
          Measure
        </Button>
      </DialogActions>
    </Dialog>
  )
}
