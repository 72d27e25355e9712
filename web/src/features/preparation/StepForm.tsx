import { Checkbox, FormControlLabel } from '@mui/material'
import { useEffect } from 'react'
import type { View } from '../../api/client'
import { Slot } from '../../ui/Slot'
import type { Condition } from '../../data/conditions'
import { Where } from '../../sections/Where'
import type { Candidate, Choose, Described, Step } from '../../data/preparation'
import { matters, numberOf, standing, type Setting } from '../../data/settings'
import { Columns } from './Columns'
import { FormulaField, Recodes, Written, WrittenNumber } from './Fields'

type Props = {
  step: Step
  kind: Described
  kinds: View<'StepsView'>
  columns: Candidate[]
  problem: string | null
  onChange: (step: Step) => void
}

/** The settings of a step, as its kind describes them. */
export function StepForm({ step, kind, kinds, columns, problem, onChange }: Props) {
  const put = (change: Partial<Step>) => {
    const next = { ...step, ...change }
    for (const key of Object.keys(next)) if (next[key] === undefined) delete next[key]
    onChange(next)
  }
  const asked = kind.settings.filter((s) => matters(s, kind.settings, step, null))
  return (
    <div style={{ display: 'flex', flexDirection: 'column', gap: 8 }}>
      <div>
        <h2 className="fig-title">{kind.title}</h2>
        <p className="soft small">{kind.says}</p>
      </div>
      {asked.map((s) => (
        <div key={s.name}>
          <Field
            setting={s}
            step={step}
            kinds={kinds}
            columns={columns}
            problem={problem}
            missingFirst={kind.group === 'missing'}
            put={put}
          />
          {s.explanation && s.type !== 'number' && <p className="soft small">{s.explanation}</p>}
        </div>
      ))}
    </div>
  )
}

function Field({
  setting: s,
  step,
  kinds,
  columns,
  problem,
  missingFirst,
  put,
}: Omit<Props, 'kind' | 'onChange'> & { setting: Setting; missingFirst: boolean; put: (change: Partial<Step>) => void }) {
  const value = standing(s, step)
  const text = typeof value === 'string' || typeof value === 'number' ? String(value) : ''
  const fitting = columns.filter((c) => (s.kinds ?? []).length === 0 || s.kinds!.includes(c.kind))
  switch (s.type) {
    case 'columns':
      return (
        <Columns
          label={s.label}
          names={(step.columns as string[] | undefined) ?? []}
          choose={step.choose as Choose | undefined}
          columns={columns}
          kinds={s.kinds ?? []}
          missingFirst={missingFirst}
          onChange={(change) => put({ choose: undefined, ...change })}
        />
      )
    case 'column':
      if (text === '' && fitting.length === 1) return <Only column={fitting[0]!.name} onChoose={(v) => put({ [s.name]: v })} />
      return (
        <p className="sentence size-15">
          {s.label}{' '}
          <Slot
            label={s.label}
            value={text}
            wait={text === ''}
            choices={[
              ...(text === '' ? [{ value: '', label: 'which?' }] : []),
              ...fitting.map((c) => ({ value: c.name, label: c.name, effect: c.kind })),
            ]}
            onChange={(v) => put({ [s.name]: v })}
          />
        </p>
      )
    case 'choice':
      return (
        <p className="sentence size-15">
          {s.label}{' '}
          <Slot
            label={s.label}
            value={text}
            choices={(s.choices ?? []).map((c) => ({ value: c, label: c }))}
            onChange={(v) => put({ [s.name]: v })}
          />
        </p>
      )
    case 'number':
      return (
        <WrittenNumber
          label={s.label}
          value={text}
          {...(s.explanation ? { help: s.explanation } : {})}
          onDone={(v) => put({ [s.name]: numberOf(v) })}
        />
      )
    case 'numbers':
      return (
        <Written
          label={`${s.label}, separated by semicolons`}
          value={((value as number[] | undefined) ?? []).join('; ')}
          onDone={(v) =>
            put({
              [s.name]: v
                .split(/[;\s]+/)
                .filter((t) => t !== '')
                .map((t) => (Number.isFinite(Number(t)) ? Number(t) : t)),
            })
          }
        />
      )
    case 'yes/no':
      return (
        <FormControlLabel
          sx={{ my: -0.75 }}
          control={<Checkbox size="small" checked={value === true} onChange={(e) => put({ [s.name]: e.target.checked })} />}
          label={s.label}
          slotProps={{ typography: { sx: { fontSize: 13 } } }}
        />
      )
    case 'words': {
      const chosen = (value as string[] | undefined) ?? []
      return (
        <fieldset style={{ border: 0, padding: 0, margin: 0, display: 'grid', gridTemplateColumns: '1fr 1fr' }}>
          <legend className="small soft">{s.label}</legend>
          {(s.choices ?? []).map((c) => (
            <label key={c} style={{ fontSize: 13, display: 'flex', gap: 6, alignItems: 'center', minHeight: 24 }}>
              <input
                type="checkbox"
                checked={chosen.includes(c)}
                onChange={() => put({ [s.name]: chosen.includes(c) ? chosen.filter((o) => o !== c) : [...chosen, c] })}
                className="accented"
              />
              {c}
            </label>
          ))}
        </fieldset>
      )
    }
    case 'conditions':
      return (
        <Where
          lead="Rows where"
          table={{
            columns: columns.map((c) => ({
              name: c.name,
              kind: c.kind,
              bins: [],
              top: c.levels.map((l) => ({ value: l, count: 0, share: 0 })),
            })),
            asks: kinds.asks,
          }}
          conditions={(value as Condition[] | undefined) ?? []}
          any={step.any === true}
          onChange={(conditions, any) => put({ [s.name]: conditions, any })}
        />
      )
    case 'recodes':
      return (
        <Recodes
          pairs={(value as [string, string][] | undefined) ?? []}
          levels={columns.find((c) => c.name === step.column)?.levels ?? []}
          onChange={(pairs) => put({ [s.name]: pairs })}
        />
      )
    case 'formula':
      return <FormulaField value={text} columns={columns} help={kinds.formulas} problem={problem} onDone={(v) => put({ [s.name]: v })} />
    default:
      return <Written label={s.label} value={text} onDone={(v) => put({ [s.name]: v })} />
  }
}

/** Where there is one column that a step can mean, nobody is asked which. */
function Only({ column, onChoose }: { column: string; onChoose: (column: string) => void }) {
  useEffect(() => onChoose(column))
  return null
}
