import { Slot } from '../../ui/Slot'
import { firstList, type Vary } from '../../data/search'
import { type Setting } from '../../data/settings'
import { useWritten } from '../../ui/useWritten'

/** Whether a setting is fixed, goes through a list, or through a range. */
export function HowVaried({
  setting: s,
  value,
  vary,
  onChange,
}: {
  setting: Setting
  value: unknown
  vary: Vary | undefined
  onChange: (vary: Vary | undefined) => void
}) {
  const ranged = s.type === 'number' || s.type === 'whole number'
  if (s.type === 'text' || s.name === 'seed') return <span />
  const usual = typeof value === 'number' && value > 0 ? value : 1
  const first: Record<string, Vary | undefined> = {
    fixed: undefined,
    list: { how: 'list', text: firstList(s, value) },
    range: {
      how: 'range',
      from: String(Math.max(s.least ?? 0, s.type === 'whole number' ? Math.ceil(usual / 4) : usual / 4)),
      to: String(Math.min(s.most ?? Infinity, usual * 4)),
      points: '5',
      by: usual / 4 > 0 && s.least !== null && s.least !== undefined && s.least >= 0 && s.type === 'number' ? 'factors' : 'even',
    },
  }
  return (
    <Slot
      label={`${s.label}, how`}
      value={vary?.how ?? 'fixed'}
      choices={[
        { value: 'fixed', label: 'fixed' },
        { value: 'list', label: 'list', effect: 'each of some values' },
        ...(ranged ? [{ value: 'range', label: 'range', effect: 'from one number to another' }] : []),
      ]}
      onChange={(how) => onChange(first[how])}
    />
  )
}

/** The values that a varied setting goes through. */
export function Varied({ setting: s, vary, onChange }: { setting: Setting; vary: Vary; onChange: (vary: Vary) => void }) {
  if (vary.how === 'list' && (s.type === 'choice' || s.type === 'yes/no')) {
    const all = s.type === 'choice' ? (s.choices ?? []) : ['no', 'yes']
    const chosen = vary.text.split('; ').filter((t) => t !== '')
    return (
      <fieldset className="bare" style={{ display: 'flex', flexWrap: 'wrap', gap: '0 12px' }}>
        <legend className="sr">{s.label}</legend>
        {all.map((c) => (
          <label key={c} className="size-13" style={{ display: 'flex', gap: 5, alignItems: 'center', minHeight: 24 }}>
            <input
              type="checkbox"
              className="accented"
              checked={chosen.includes(c)}
              onChange={() => {
                const next = all.filter((o) => (o === c ? !chosen.includes(c) : chosen.includes(o)))
                onChange({ how: 'list', text: next.join('; ') })
              }}
            />
            {c}
          </label>
        ))}
      </fieldset>
    )
  }
  if (vary.how === 'list')
    return <Text label={`${s.label}, values`} value={vary.text} width={170} onDone={(text) => onChange({ how: 'list', text })} />
  return (
    <span className="size-13" style={{ display: 'inline-flex', gap: 6, alignItems: 'baseline', flexWrap: 'wrap' }}>
      <Text label={`${s.label}, from`} value={vary.from} onDone={(from) => onChange({ ...vary, from })} />
      to
      <Text label={`${s.label}, to`} value={vary.to} onDone={(to) => onChange({ ...vary, to })} />
      in
      <Text label={`${s.label}, points`} value={vary.points} width={34} onDone={(points) => onChange({ ...vary, points })} />
      steps,
      <Slot
        label={`${s.label}, spaced`}
        value={vary.by}
        choices={[
          { value: 'even', label: 'even' },
          { value: 'factors', label: 'by factors' },
        ]}
        onChange={(by) => onChange({ ...vary, by: by as 'even' | 'factors' })}
      />
    </span>
  )
}

function Text({ label, value, width = 58, onDone }: { label: string; value: string; width?: number; onDone: (v: string) => void }) {
  const { text, write, done } = useWritten(value, onDone)
  return (
    <input
      aria-label={label}
      value={text}
      spellCheck={false}
      onChange={(e) => write(e.target.value)}
      onBlur={done}
      onKeyDown={(e) => e.key === 'Enter' && done()}
      style={{ width }}
    />
  )
}
