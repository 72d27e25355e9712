import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useState } from 'react'
import { type Scoring, useMakeRoutine } from '../../data/decision'
import { useConnections } from '../../data/connection'
import { useDecisions, useDecision } from '../../data/list'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'

type When = 'by hand' | 'every day' | 'every week'

/** Keeps what was done with a batch so that it is done again: by one press, by command, or on a schedule. */
export function SaveRoutine({ scoring, onClose }: { scoring: Scoring; onClose: () => void }) {
  const lists = useDecisions(scoring.id, true)
  const connections = useConnections()
  const make = useMakeRoutine(scoring.studyId)
  const [name, setName] = useState(`${scoring.tableName}, scored again`.slice(0, 120))
  const [keepAs, setKeepAs] = useState(`${scoring.tableName} scored`.slice(0, 120))
  const [listId, setListId] = useState<number | null>(null)
  const list = useDecision(listId ?? 0, listId !== null)
  const [server, setServer] = useState('')
  const [table, setTable] = useState('calls')
  const [when, setWhen] = useState<When>('by hand')
  const [hour, setHour] = useState('5')
  const [recheck, setRecheck] = useState(false)
  const key = list.data?.key ?? null
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Save as a routine</DialogTitle>
      <DialogContent>
        <label className="term below-8">
          <span>Name</span>
          <input className="bound" style={{ width: 260 }} value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
        </label>
        <p className="sentence">
          Take the newest edition of {scoring.tableName}, score it with trial {scoring.trialNumber}, keep it as table{' '}
          <input
            className="bound"
            aria-label="Name of the table; empty for none"
            style={{ width: 170 }}
            value={keepAs}
            maxLength={120}
            onChange={(e) => setKeepAs(e.target.value)}
          />
          , make{' '}
          <Slot
            label="List that is made"
            value={String(listId ?? '')}
            choices={[
              { value: '', label: 'no list' },
              ...(lists.data ?? []).map((d) => ({ value: String(d.id), label: `a list as “${d.name}”` })),
            ]}
            onChange={(v) => setListId(v === '' ? null : Number(v))}
          />
          {listId !== null && key !== null && (
            <>
              , and append it to{' '}
              <Slot
                label="Database"
                value={server}
                choices={[
                  { value: '', label: 'no database' },
                  ...(connections.data?.connections ?? []).map((c) => ({ value: String(c.id), label: c.database, effect: c.host })),
                ]}
                onChange={setServer}
              />
              {server !== '' && (
                <>
                  , table{' '}
                  <input className="bound" aria-label="Table in the database" value={table} onChange={(e) => setTable(e.target.value)} />
                </>
              )}
            </>
          )}
          ,{' '}
          <Slot
            label="Whether the model is rechecked"
            value={recheck ? 'yes' : 'no'}
            choices={[
              { value: 'no', label: 'do not recheck the model' },
              { value: 'yes', label: 'recheck the model on it' },
            ]}
            onChange={(v) => setRecheck(v === 'yes')}
          />
          ;{' '}
          <Slot
            label="When"
            value={when}
            choices={(['by hand', 'every day', 'every week'] as When[]).map((w) => ({ value: w, label: w }))}
            onChange={(w) => setWhen(w as When)}
          />
          {when !== 'by hand' && (
            <>
              {' '}
              at{' '}
              <input
                className="bound"
                aria-label="Hour"
                style={{ width: 30 }}
                inputMode="numeric"
                value={hour}
                onChange={(e) => setHour(e.target.value)}
              />{' '}
              o’clock
            </>
          )}
          .
        </p>
        <p className="soft size-13 above-8">
          It runs as you. Where the columns no longer match it stops with a word; where the new records differ from the last, it says how.
        </p>
        <Trouble error={make.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          color="primary"
          disabled={make.isPending || name.trim() === '' || (listId !== null && !list.data)}
          onClick={() =>
            make.mutate(
              {
                trialId: scoring.trialId,
                name,
                plan: {
                  table: scoring.tableName,
                  matching: scoring.matching,
                  cutoff: scoring.cutoff,
                  keepAs,
                  answer: '',
                  terms: list.data?.terms ?? null,
                  export:
                    server === '' || key === null
                      ? null
                      : { connectionId: Number(server), table, mode: 'append', key, which: 'acted', columns: [] },
                  when,
                  hour: Number(hour) || 0,
                  answers: scoring.answers,
                  recheck,
                },
              },
              { onSuccess: onClose },
            )
          }
        >
          Keep the routine
        </Button>
      </DialogActions>
    </Dialog>
  )
}
