import { useWritten } from '../../ui/useWritten'

/** A word of the sentence that is written rather than chosen; it counts when it is left or confirmed. */
export function Word({
  label,
  value,
  width,
  digits,
  onDone,
}: {
  label: string
  value: string
  width: number
  /** For a whole number: how many digits it may have */
  digits?: number
  onDone: (value: string) => void
}) {
  const { text, write, done } = useWritten(value, onDone)
  return (
    <input
      aria-label={label}
      value={text}
      inputMode={digits ? 'numeric' : undefined}
      placeholder={digits ? '0' : '–'}
      style={{ width, border: 0, borderBottom: '1.5px dotted var(--verdigris)', background: 'none', font: 'inherit', fontWeight: 600 }}
      onChange={(e) => write(digits ? e.target.value.replace(/\D/g, '').slice(0, digits) : e.target.value)}
      onBlur={done}
      onKeyDown={(e) => e.key === 'Enter' && done()}
    />
  )
}

export function Property({ children, note }: { children: React.ReactNode; note: string }) {
  return (
    <div style={{ padding: '8px 14px', borderBottom: '1px solid var(--rule)' }}>
      <div className="sentence">{children}</div>
      <p className="soft small">{note}</p>
    </div>
  )
}
