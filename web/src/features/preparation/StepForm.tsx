import { Button, Checkbox, FormControlLabel, TextField } from '@mui/material'
import { whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import type { Step } from './api'
import { titles } from './StepList'

type Candidate = { name: string; kind: string; missing: number }

/** The settings of a step. */
export function StepForm({ step, columns, onChange }: { step: Step; columns: Candidate[]; onChange: (step: Step) => void }) {
  const fill = step.step === 'fill_missing'
  const offered = fill ? columns.filter((c) => c.missing > 0 && c.kind !== 'text' && c.kind !== 'identifier') : columns
  const all = step.columns[0] === '*'
  const toggle = (name: string) =>
    onChange({
      ...step,
      columns: step.columns.includes(name) ? step.columns.filter((c) => c !== name) : [...step.columns.filter((c) => c !== '*'), name],
    })
  return (
    <div>
      <h2 className="fig-title" style={{ marginBottom: 6 }}>
        {titles[step.step]}
      </h2>
      {fill && (
        <>
          <p className="sentence" style={{ fontSize: 15 }}>
            With the{' '}
            <Slot
              label="Fill with"
              value={step.method ?? 'median'}
              choices={[
                { value: 'median', label: 'median', effect: 'the middle value; categories take the most frequent' },
                { value: 'most frequent', label: 'most frequent value' },
              ]}
              onChange={(method) => onChange({ ...step, method })}
            />{' '}
            of the training rows.
          </p>
          <FormControlLabel
            control={<Checkbox size="small" checked={step.mark ?? false} onChange={(e) => onChange({ ...step, mark: e.target.checked })} />}
            label="Add a yes/no column that says it was missing"
            slotProps={{ typography: { sx: { fontSize: 13 } } }}
          />
          <FormControlLabel
            control={
              <Checkbox size="small" checked={all} onChange={(e) => onChange({ ...step, columns: e.target.checked ? ['*'] : [] })} />
            }
            label="Every column with missing cells, also those to come"
            slotProps={{ typography: { sx: { fontSize: 13 } } }}
          />
        </>
      )}
      {!all && (
        <fieldset style={{ border: 0, padding: 0, margin: 0, maxHeight: 240, overflow: 'auto', borderTop: '1px solid var(--rule)' }}>
          <legend className="sr">Columns</legend>
          {offered.map((c) => (
            <label
              key={c.name}
              style={{ display: 'flex', alignItems: 'center', gap: 6, borderBottom: '1px solid var(--rule)', fontSize: 13, minHeight: 26 }}
            >
              <input
                type="checkbox"
                checked={step.columns.includes(c.name)}
                onChange={() => toggle(c.name)}
                style={{ accentColor: 'var(--verdigris)' }}
              />
              <span style={{ flex: 1, overflow: 'hidden', textOverflow: 'ellipsis' }} title={c.name}>
                {c.name}
              </span>
              <span className="soft small">
                {c.kind}
                {c.missing > 0 && `, ${whole(c.missing)} missing`}
              </span>
            </label>
          ))}
          {offered.length === 0 && <p className="soft small">No column has missing cells that can be filled.</p>}
        </fieldset>
      )}
      <TextField
        label="Note (why)"
        value={step.note ?? ''}
        onChange={(e) => onChange({ ...step, note: e.target.value })}
        sx={{ mt: 1 }}
        slotProps={{ htmlInput: { maxLength: 500 } }}
      />
      {!fill && offered.length > 8 && (
        <Button
          size="small"
          variant="text"
          onClick={() => onChange({ ...step, columns: offered.map((c) => c.name).filter((n) => !step.columns.includes(n)) })}
        >
          Keep only these instead
        </Button>
      )}
    </div>
  )
}
