import { Button } from '@mui/material'
import { useState } from 'react'
import { type Judgment, useFindCutOff } from '../data/judgment'
import { useAddress } from '../ui/address'
import { cutoffSaid, fixed, number, withInterval } from '../ui/format'
import { Slot } from '../ui/Slot'
import { Trouble } from '../ui/Trouble'

const BY = [
  { value: 'f1', label: 'F1', effect: 'Recall and precision weigh alike.' },
  { value: 'balanced_accuracy', label: 'balanced accuracy', effect: 'The mean share found of both sides.' },
  { value: 'kappa', label: 'kappa', effect: 'Agreement beyond what chance gives.' },
  { value: 'mcc', label: 'the correlation of called and came', effect: 'All four cells weigh.' },
  { value: 'accuracy', label: 'accuracy', effect: 'Calls next to nobody where events are rare.' },
  { value: 'costs', label: 'what it costs', effect: 'A miss and a call in vain, at your own price.' },
]

/** Looks for the cut-off that does best by a figure or by costs: found on some folds, judged on the others. */
export function FindCutOff({ judgment }: { judgment: Judgment }) {
  const [, set] = useAddress()
  const [by, setBy] = useState('f1')
  const [miss, setMiss] = useState('5')
  const [vain, setVain] = useState('1')
  const find = useFindCutOff(judgment.trial.id)
  const costs = by === 'costs'
  const valid = !costs || (Number(miss) >= 0 && Number(vain) >= 0 && miss !== '' && vain !== '' && Number(miss) + Number(vain) > 0)
  const found = find.data
  const name = BY.find((b) => b.value === found?.by)?.label ?? ''
  const field = (label: string, value: string, onChange: (v: string) => void) => (
    <input
      aria-label={label}
      className="field"
      inputMode="decimal"
      value={value}
      onChange={(e) => onChange(e.target.value.trim())}
      style={{ width: 52 }}
    />
  )
  return (
    <div className="above-6">
      <p className="sentence size-13">
        Best by <Slot label="Find the cut-off by" value={by} choices={BY} onChange={setBy} />
        {costs && (
          <>
            , a miss at {field('Cost of a miss', miss, setMiss)} and a call in vain at {field('Cost of a call in vain', vain, setVain)}
          </>
        )}{' '}
        <Button
          size="small"
          disabled={!valid || find.isPending}
          onClick={() =>
            find.mutate({ by, miss: Number(miss), vain: Number(vain) }, { onSuccess: (f) => set({ cutoff: String(f.cutoff) }) })
          }
        >
          {find.isPending ? 'Looking…' : 'Find'}
        </Button>
      </p>
      {!valid && <p className="small cinn">Costs are numbers from 0 on, one of them above 0.</p>}
      <Trouble known error={find.error} />
      {found && (
        <p className="small" role="status">
          At <b>{cutoffSaid(found.cutoff)}</b>{' '}
          {found.by === 'costs' ? (
            <>
              100 records cost <b>{told(found.expected, number)}</b>
            </>
          ) : (
            <>
              {name} is <b>{withInterval(found.expected.value ?? found.seen, found.expected.low, found.expected.high)}</b>
            </>
          )}
          {found.expected.value == null
            ? ' on the rows that chose it: rows are divided once, so nothing could be held back.'
            : ` on folds that did not choose it (${found.by === 'costs' ? number(found.seen) : fixed(found.seen)} on those that did); folds chose ${cutoffSaid(found.from)} to ${cutoffSaid(found.to)}.`}
        </p>
      )}
    </div>
  )
}

function told(
  i: { value?: number | null; low?: number | null; high?: number | null },
  write: (v: number | null | undefined) => string,
): string {
  return i.low == null || i.high == null ? write(i.value) : `${write(i.value)} (${write(i.low)} to ${write(i.high)})`
}
