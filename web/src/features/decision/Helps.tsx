import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useEffect, useState } from 'react'
import { type Scoring, useHelpsMost } from '../../data/decision'
import { fixed, number, whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'

/** Which single change, made to all records of a list, lets most of them reach a wanted answer. */
export function Helps({ scoring, onClose }: { scoring: Scoring; onClose: () => void }) {
  const isNumber = scoring.task === 'number'
  const [way, setWay] = useState<'high' | 'low'>('high')
  const [bound, setBound] = useState(
    isNumber ? String(Number((scoring.mean ?? 0).toPrecision(3))) : String(+(100 * scoring.cutoff).toFixed(1)),
  )
  const [kept, setKept] = useState<ReadonlySet<string>>(new Set())
  const helps = useHelpsMost(scoring.id)
  const { mutate, data } = helps
  const value = bound.trim() === '' ? NaN : Number(bound) * (isNumber ? 1 : 0.01)
  const ask = (kept: ReadonlySet<string>) =>
    Number.isFinite(value) && mutate({ low: way === 'low' ? value : null, high: way === 'high' ? value : null, fixed: [...kept] })
  // What is wanted at first is known; the columns come with the answer.
  useEffect(() => {
    ask(kept)
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [scoring.id])
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md" slotProps={{ paper: { 'aria-label': 'What would help most of the list' } }}>
      <DialogTitle>What would help most of the list?</DialogTitle>
      <DialogContent>
        <p className="below-8">
          One change is made to all {data ? `of the ${whole(data.records)} highest` : 'of the highest'}
          {scoring.called > 0 && ` of the ${whole(scoring.called)} called`}; how many then reach what is wanted? It is what the model
          answers, not what would happen: what it has not learned is not in it.
        </p>
        <p className="sentence size-15">
          {isNumber ? scoring.target : 'A chance'}{' '}
          <Slot
            label="Wanted"
            value={way}
            choices={[
              { value: 'high', label: 'at most' },
              { value: 'low', label: 'at least' },
            ]}
            onChange={(v) => setWay(v as typeof way)}
          />{' '}
          <input
            aria-label="Bound"
            inputMode="decimal"
            value={bound}
            onChange={(e) => setBound(e.target.value)}
            className="bound"
            aria-invalid={!Number.isFinite(value)}
          />
          {!isNumber && '%'}.{' '}
          <Button variant="contained" size="small" disabled={helps.isPending || !Number.isFinite(value)} onClick={() => ask(kept)}>
            {helps.isPending ? 'Looking…' : 'Look'}
          </Button>
        </p>
        {data && (
          <fieldset className="plain above-6" style={{ columns: 4, fontSize: 13 }}>
            <legend className="size-13">May change (what nobody can change stays as it is: take its tick away and look again)</legend>
            {data.columns.map((c) => (
              <label key={c} className="clipped" style={{ display: 'block' }} title={c}>
                <input
                  type="checkbox"
                  className="accented"
                  checked={!kept.has(c)}
                  onChange={(e) => {
                    const next = new Set(kept)
                    if (e.target.checked) next.delete(c)
                    else next.add(c)
                    setKept(next)
                  }}
                />{' '}
                {c}
              </label>
            ))}
          </fieldset>
        )}
        <Trouble known error={helps.error} />
        {data && (
          <div role="status" className="above-6">
            <p className="size-13">
              <b>
                {whole(data.reach)} of {whole(data.records)} reach it as they are.
              </b>
              {(data.changes[0]?.reached ?? 0) === 0 && ' No single change brings more there.'}
            </p>
            {data.changes.length > 0 && (
              <table className="ledger" aria-label="Changes made to all">
                <thead>
                  <tr>
                    <th>Change</th>
                    <th className="n" style={{ width: 96 }}>
                      Reach it then
                    </th>
                    <th className="n" style={{ width: 84 }}>
                      No longer
                    </th>
                    <th className="n" style={{ width: 120 }}>
                      Mean change
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {data.changes.map((c) => (
                    <tr key={`${c.column} ${c.to}`}>
                      <td>
                        {c.column} to <b>{c.to}</b>
                      </td>
                      <td className="n">
                        <b>+{whole(c.reached)}</b>
                      </td>
                      <td className="n">{c.lost > 0 ? `−${whole(c.lost)}` : '0'}</td>
                      <td className="n">{isNumber ? number(c.mean) : `${fixed(100 * c.mean, 1)} points`}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
          </div>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  )
}
