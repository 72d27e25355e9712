import { Button } from '@mui/material'
import type { View } from '../../api/client'
import { matters, numberOf, standing, type Setting, type Values } from '../../data/settings'
import { useWritten } from '../../ui/useWritten'
import { Slot } from '../../ui/Slot'
import type { Vary } from '../../data/search'
import { NamedColumns } from './NamedColumns'
import { HowVaried, Varied } from './VarySetting'

export type Learner = View<'AboutLearner'>

/** The settings of the chosen learner, each with what more or less of it does. */
export function Settings({
  learner,
  variantId,
  task,
  values,
  varied,
  onChange,
  onVary,
}: {
  learner: Learner
  variantId: number | undefined
  task: string
  values: Values
  varied: Record<string, Vary>
  onChange: (values: Values) => void
  onVary: (varied: Record<string, Vary>) => void
}) {
  const vary = (name: string, how: Vary | undefined) => {
    const rest = Object.fromEntries(Object.entries(varied).filter(([n]) => n !== name))
    onVary(how === undefined ? rest : { ...rest, [name]: how })
  }
  const changed = learner.settings.filter((s) => s.name in values && values[s.name] !== s.default)
  return (
    <div style={{ padding: '6px 0 10px' }}>
      {learner.settings
        .filter((s) => matters(s, learner.settings, values, task))
        .map((s) => (
          <div
            key={s.name}
            style={{
              display: 'grid',
              gridTemplateColumns: varied[s.name] ? '190px 46px 1fr' : '190px 46px 118px 1fr',
              gap: 12,
              alignItems: 'center',
              minHeight: 32,
              padding: '2px 0',
            }}
          >
            <label htmlFor={`setting-${s.name}`}>{s.label}</label>
            <HowVaried setting={s} value={standing(s, values)} vary={varied[s.name]} onChange={(how) => vary(s.name, how)} />
            {varied[s.name] ? (
              <Varied setting={s} vary={varied[s.name]!} onChange={(how) => vary(s.name, how)} />
            ) : (
              <>
                {s.type === 'text' && (s.kinds ?? []).length > 0 ? (
                  <NamedColumns
                    setting={s}
                    value={String(standing(s, values))}
                    variantId={variantId}
                    onChange={(v) => onChange({ ...values, [s.name]: v })}
                  />
                ) : (
                  <Field setting={s} value={standing(s, values)} onChange={(v) => onChange({ ...values, [s.name]: v })} />
                )}
                <span className="soft small" style={{ lineHeight: '15px' }}>
                  {s.explanation}
                </span>
              </>
            )}
          </div>
        ))}
      {changed.length > 0 && (
        <Button size="small" variant="text" onClick={() => onChange({})}>
          {changed.length === 1 ? 'Set it back as usual' : `Set all ${changed.length} back as usual`}
        </Button>
      )}
    </div>
  )
}

function Field({ setting: s, value, onChange }: { setting: Setting; value: unknown; onChange: (value: unknown) => void }) {
  const id = `setting-${s.name}`
  const { text, write, done } = useWritten(String(value), (t) => onChange(s.type === 'text' ? t : (numberOf(t) ?? s.default)))
  if (s.type === 'choice')
    return (
      <span id={id}>
        <Slot label={s.label} value={String(value)} choices={(s.choices ?? []).map((c) => ({ value: c, label: c }))} onChange={onChange} />
      </span>
    )
  if (s.type === 'yes/no')
    return (
      <input
        id={id}
        type="checkbox"
        checked={value === true}
        onChange={(e) => onChange(e.target.checked)}
        style={{ accentColor: 'var(--verdigris)', justifySelf: 'start', width: 'auto' }}
      />
    )
  return (
    <input
      id={id}
      value={text}
      inputMode={s.type === 'text' ? 'text' : 'decimal'}
      spellCheck={false}
      onChange={(e) => write(e.target.value)}
      onBlur={done}
      onKeyDown={(e) => e.key === 'Enter' && done()}
      style={{ width: '100%', textAlign: s.type === 'text' ? 'left' : 'right' }}
    />
  )
}
