import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useState } from 'react'
import { type Decision, money, type Terms } from '../../data/list'
import { cutoffSaid } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'
import { Field } from './TierLedger'

const percent = (v: number) => String(Number((100 * v).toPrecision(4)))

/** All that is assumed of an action: what it costs, how often it works, what a prevented event is worth, how many there can be. */
export function TermsDialog({
  decision,
  busy,
  error,
  onSave,
  onClose,
}: {
  decision: Decision
  busy: boolean
  error: unknown
  onSave: (name: string, terms: Terms) => void
  onClose: () => void
}) {
  const [terms, setTerms] = useState<Terms>(decision.terms)
  const [name, setName] = useState(decision.name)
  const set = (change: Partial<Terms>) => setTerms({ ...terms, ...change })
  const several = decision.task === 'several classes'
  const choices = (of: string[], none: string) => [{ value: '', label: none }, ...of.map((c) => ({ value: c, label: c }))]
  const brought = terms.works * (terms.kept * terms.worth - terms.costOnSuccess)
  const even = terms.worthColumn == null && brought > 0 ? (terms.cost + terms.costInVain) / (brought + terms.costInVain) : null
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>What acting costs and brings</DialogTitle>
      <DialogContent>
        <label className="term">
          <span>Name of the list</span>
          <input className="bound" value={name} maxLength={120} style={{ width: 220 }} onChange={(e) => setName(e.target.value)} />
        </label>
        {decision.task === 'number' && (
          <p className="sentence below-8">
            Act against {decision.target}{' '}
            <Slot
              label="Side of the limit"
              value={terms.side}
              choices={[
                { value: 'over', label: 'over' },
                { value: 'under', label: 'under' },
              ]}
              onChange={(side) => set({ side: side as Terms['side'] })}
            />{' '}
            <Field label="" value={String(terms.limit ?? '')} onDone={(t) => set({ limit: Number(t) })} />
          </p>
        )}
        {several ? (
          <Amounts decision={decision} terms={terms} onChange={set} />
        ) : (
          <>
            <label className="term">
              <span>Money is counted in</span>
              <input
                className="bound"
                value={terms.unit}
                maxLength={8}
                style={{ width: 74 }}
                onChange={(e) => set({ unit: e.target.value })}
              />
            </label>
            <Field label="An action costs" value={String(terms.cost)} onDone={(t) => set({ cost: Number(t) })} />
            <Field
              label="It prevents the event in, of 100"
              value={percent(terms.works)}
              onDone={(t) => {
                const works = Number(t) / 100
                set({ works, worksLow: Math.min(terms.worksLow, works), worksHigh: Math.max(terms.worksHigh, works) })
              }}
            />
            <Field label="at least" value={percent(terms.worksLow)} onDone={(t) => set({ worksLow: Number(t) / 100 })} />
            <Field label="at most" value={percent(terms.worksHigh)} onDone={(t) => set({ worksHigh: Number(t) / 100 })} />
            <div className="term">
              <span>A prevented event is worth</span>
              <Slot
                label="What a prevented event is worth"
                value={terms.worthColumn ?? ''}
                choices={choices(decision.numbers, 'one amount')}
                onChange={(c) => set({ worthColumn: c === '' ? null : c })}
              />
            </div>
            {terms.worthColumn == null && (
              <Field label="that amount" value={String(terms.worth)} onDone={(t) => set({ worth: Number(t) })} />
            )}
            <Field label="of which stays, of 100" value={percent(terms.kept)} onDone={(t) => set({ kept: Number(t) / 100 })} />
            <Field
              label="It costs more when it works"
              value={String(terms.costOnSuccess)}
              onDone={(t) => set({ costOnSuccess: Number(t) })}
            />
            <Field label="Acting in vain costs more" value={String(terms.costInVain)} onDone={(t) => set({ costInVain: Number(t) })} />
          </>
        )}
        <Field
          label="Actions in all"
          value={terms.most == null ? '' : String(terms.most)}
          hint="no limit"
          onDone={(t) => set({ most: t === '' ? null : Math.max(0, Math.round(Number(t))) })}
        />
        <Field
          label="Actions for each"
          value={terms.each == null ? '' : String(terms.each)}
          hint="no limit"
          onDone={(t) =>
            set({ each: t === '' ? null : Math.max(0, Math.round(Number(t))), eachBy: terms.eachBy ?? decision.columns[0] ?? null })
          }
        />
        {terms.each != null && (
          <div className="term">
            <span>value of</span>
            <Slot
              label="Column that capacity goes by"
              value={terms.eachBy ?? ''}
              choices={decision.columns.map((c) => ({ value: c, label: c }))}
              onChange={(eachBy) => set({ eachBy })}
            />
          </div>
        )}
        <Field label="Left untouched for comparison, of 100" value={percent(terms.share)} onDone={(t) => set({ share: Number(t) / 100 })} />
        {even !== null && !several && (
          <p className="soft size-13 above-8">
            {even <= 1
              ? `It pays from a chance of ${cutoffSaid(Number(even.toPrecision(3)))} on, with ${money(terms.worth, terms.unit)} at stake.`
              : 'With these amounts no action pays.'}
          </p>
        )}
        <Trouble error={error instanceof Error ? error : null} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" color="primary" disabled={busy} onClick={() => onSave(name, terms)}>
          Keep
        </Button>
      </DialogActions>
    </Dialog>
  )
}

/** Of several classes: an amount for each action and class, and for doing nothing. */
function Amounts({ decision, terms, onChange }: { decision: Decision; terms: Terms; onChange: (change: Partial<Terms>) => void }) {
  const actions = terms.actions as { name: string; amounts: number[] }[]
  const nothing = terms.nothing as number[]
  const change = (k: number, to: { name?: string; amounts?: number[] }) =>
    onChange({ actions: actions.map((a, i) => (i === k ? { ...a, ...to } : a)) })
  return (
    <>
      <p className="soft size-13">What each action brings when that class comes, in {terms.unit}; costs are below nothing.</p>
      <div style={{ overflow: 'auto' }}>
        <table className="ledger" aria-label="Amounts by action and class">
          <thead>
            <tr>
              <th style={{ width: 128 }}>Action</th>
              {decision.classes.map((c) => (
                <th key={c} className="n">
                  {c}
                </th>
              ))}
              <th />
            </tr>
          </thead>
          <tbody>
            {actions.map((a, k) => (
              <tr key={k}>
                <td>
                  <input
                    className="bound"
                    aria-label={`Name of action ${k + 1}`}
                    value={a.name}
                    maxLength={60}
                    style={{ width: 110 }}
                    onChange={(e) => change(k, { name: e.target.value })}
                  />
                </td>
                {decision.classes.map((c, i) => (
                  <td key={c} className="n">
                    <Amount
                      label={`${a.name}, ${c}`}
                      value={a.amounts[i] ?? 0}
                      onDone={(v) => change(k, { amounts: a.amounts.map((o, j) => (j === i ? v : o)) })}
                    />
                  </td>
                ))}
                <td>
                  {actions.length > 1 && (
                    <button type="button" className="link" onClick={() => onChange({ actions: actions.filter((_, i) => i !== k) })}>
                      remove
                    </button>
                  )}
                </td>
              </tr>
            ))}
            <tr>
              <td className="soft">doing nothing</td>
              {decision.classes.map((c, i) => (
                <td key={c} className="n">
                  <Amount
                    label={`doing nothing, ${c}`}
                    value={nothing[i] ?? 0}
                    onDone={(v) => onChange({ nothing: nothing.map((o, j) => (j === i ? v : o)) })}
                  />
                </td>
              ))}
              <td />
            </tr>
          </tbody>
        </table>
      </div>
      <Button
        size="small"
        onClick={() =>
          onChange({ actions: [...actions, { name: `Action ${actions.length + 1}`, amounts: decision.classes.map(() => 0) }] })
        }
      >
        Another action
      </Button>
    </>
  )
}

function Amount({ label, value, onDone }: { label: string; value: number; onDone: (value: number) => void }) {
  return (
    <span title={label}>
      <Field label="" named={label} value={String(value)} width={60} onDone={(t) => onDone(Number(t))} />
    </span>
  )
}
