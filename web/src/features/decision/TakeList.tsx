import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { useConnections, useReadFrom } from '../../data/connection'
import { type Decision, useExport, useExportPlan, useTakeList, type WhichOfList } from '../../data/list'
import { whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'

type Taken = { of: string; as: string }
type Mode = 'create' | 'replace' | 'append'

const OWN: Record<string, string> = {
  '=place': 'place on the list',
  '=record': 'number of the record',
  '=action': 'what to do',
  '=assigned': 'act, or left untouched',
  '=tier': 'tier',
  '=chance': 'chance',
  '=value': 'what is at stake',
  '=return': 'expected return',
  '=because': 'because',
  '=status': 'whether it is a draft',
}

/** Which columns are written, under which names, in which order. */
export function TakeList({ decision, which, onClose }: { decision: Decision; which: WhichOfList; onClose: () => void }) {
  const several = decision.task === 'several classes'
  const own = Object.keys(OWN).filter((o) => (several ? o !== '=chance' && o !== '=value' : o !== '=action'))
  const [columns, setColumns] = useState<Taken[]>(() =>
    [
      decision.key ?? '=record',
      ...(several ? ['=action'] : ['=chance', '=value']),
      '=return',
      '=tier',
      '=assigned',
      '=because',
      '=status',
    ].map((of) => ({
      of,
      as: of.replace(/^=/, ''),
    })),
  )
  const [format, setFormat] = useState('csv')
  const [of, setOf] = useState<WhichOfList>(which)
  const take = useTakeList(decision.id, decision.tableName)
  const connections = useConnections()
  const [table, setTable] = useState('calls')
  const [mode, setMode] = useState<Mode>('create')
  const [key, setKey] = useState('')
  const server = format.startsWith('on ') ? Number(format.slice(3)) : null
  const isDatabase = format === 'sqlite' || server !== null
  const target = { connectionId: server, table, mode, key: key || null, which: of, columns }
  const plan = useExportPlan(decision.id, target, isDatabase && table.trim() !== '')
  const write = useExport(decision.id)
  const read = useReadFrom()
  const go = useNavigate()
  const left = [...own, ...decision.columns].filter((c) => !columns.some((o) => o.of === c))
  const move = (k: number, by: number) => {
    const next = [...columns]
    const [one] = next.splice(k, 1)
    next.splice(k + by, 0, one!)
    setColumns(next)
  }
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Take the list along</DialogTitle>
      <DialogContent>
        <p className="sentence below-8">
          Write{' '}
          <Slot
            label="Which records"
            value={of}
            choices={[
              { value: 'acted', label: 'those acted on', effect: decision.left > 0 ? 'with those left untouched, marked' : undefined! },
              ...(decision.left > 0 ? [{ value: 'left', label: 'those left untouched' }] : []),
              { value: 'all', label: 'all records, best first' },
            ]}
            onChange={(v) => setOf(v as WhichOfList)}
          />{' '}
          as{' '}
          <Slot
            label="Format"
            value={format}
            choices={[
              { value: 'csv', label: 'CSV', effect: 'text that a spreadsheet would run is guarded' },
              { value: 'xlsx', label: 'XLSX', effect: 'a workbook' },
              { value: 'jsonl', label: 'JSON Lines', effect: 'a record a line' },
              { value: 'sqlite', label: 'a SQLite file', effect: 'with one table' },
              ...(connections.data?.connections ?? []).map((c) => ({
                value: `on ${c.id}`,
                label: `a table in ${c.database}`,
                effect: `${c.login} on ${c.host}`,
              })),
            ]}
            onChange={setFormat}
          />
          {isDatabase && (
            <>
              , table <input className="bound" aria-label="Name of the table" value={table} onChange={(e) => setTable(e.target.value)} />
            </>
          )}
          {server !== null && (
            <>
              ;{' '}
              <Slot
                label="Where there is such a table"
                value={mode}
                choices={[
                  { value: 'create', label: 'make it' },
                  { value: 'replace', label: 'replace it' },
                  { value: 'append', label: 'append to it', effect: 'what is there is not written again' },
                ]}
                onChange={(m) => setMode(m as Mode)}
              />
              {mode === 'append' && (
                <>
                  , told apart by{' '}
                  <Slot
                    label="Column that tells records apart"
                    value={key}
                    wait={key === ''}
                    choices={[
                      ...(key === '' ? [{ value: '', label: 'choose…' }] : []),
                      ...columns.map((c) => ({ value: c.as, label: c.as })),
                    ]}
                    onChange={setKey}
                  />
                </>
              )}
            </>
          )}
          .
        </p>
        {isDatabase && plan.data && (
          <p className="small soft below-8">
            {whole(plan.data.records)} records to {plan.data.where}:{' '}
            {plan.data.names.map((n, i) => `${n} ${plan.data.types[i]}`).join(', ')}.{' '}
            {server !== null &&
              (plan.data.there == null
                ? `There is no table ${table} yet.`
                : `There is a table ${table} with ${plan.data.there.join(', ')}${mode === 'replace' ? ': it goes' : ''}.`)}
          </p>
        )}
        {write.data && (
          <p role="status" className="note">
            {whole(write.data.written)} records were written and read back alike; {write.data.table} holds {whole(write.data.holds)}.{' '}
            <button
              type="button"
              className="link"
              disabled={read.isPending}
              onClick={() =>
                server !== null &&
                read.mutate(server, {
                  onSuccess: (u) => void go(`/study/${decision.studyId}/import?upload=${u.id}`),
                })
              }
            >
              Import it as a table of the study
            </button>
          </p>
        )}
        <table className="ledger" aria-label="Columns that are written">
          <thead>
            <tr>
              <th>Column</th>
              <th>Named</th>
              <th style={{ width: 150 }}>
                <span className="sr">Order</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {columns.map((c, k) => (
              <tr key={c.of}>
                <td className="clipped">{OWN[c.of] ?? c.of}</td>
                <td>
                  <input
                    className="bound"
                    aria-label={`Name for ${OWN[c.of] ?? c.of}`}
                    value={c.as}
                    maxLength={120}
                    onChange={(e) => setColumns(columns.map((o, i) => (i === k ? { ...o, as: e.target.value } : o)))}
                  />
                </td>
                <td className="small apart">
                  <button type="button" className="link" disabled={k === 0} aria-label={`${c.as} up`} onClick={() => move(k, -1)}>
                    up
                  </button>{' '}
                  <button
                    type="button"
                    className="link"
                    disabled={k === columns.length - 1}
                    aria-label={`${c.as} down`}
                    onClick={() => move(k, 1)}
                  >
                    down
                  </button>{' '}
                  <button
                    type="button"
                    className="link"
                    disabled={columns.length === 1}
                    aria-label={`Leave out ${c.as}`}
                    onClick={() => setColumns(columns.filter((_, i) => i !== k))}
                  >
                    leave out
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {left.length > 0 && (
          <p className="size-13 above-8">
            And{' '}
            <Slot
              label="Another column"
              value=""
              choices={[{ value: '', label: 'another column…' }, ...left.map((c) => ({ value: c, label: OWN[c] ?? c }))]}
              onChange={(c) => c !== '' && setColumns([...columns, { of: c, as: c.replace(/^=/, '') }])}
            />
          </p>
        )}
        <Trouble error={take.error ?? write.error ?? read.error ?? (isDatabase ? plan.error : null)} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          color="primary"
          disabled={take.isPending || write.isPending || (isDatabase && table.trim() === '')}
          onClick={() => {
            if (server !== null) write.mutate(target)
            else take.mutate({ ...target, format }, { onSuccess: onClose })
          }}
        >
          Write it
        </Button>
      </DialogActions>
    </Dialog>
  )
}
