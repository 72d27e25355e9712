import type { ReactNode } from 'react'
import { useAddress } from '../../ui/address'
import { Slot } from '../../ui/Slot'
import { aloneIs, any, distinctIs, missingFrom } from './narrowing'
import { kinds, uses } from './texts'

/** Which columns the Register lists; at its right what can be done with the chosen ones. */
export function Narrow({ related, children }: { related: boolean; children: ReactNode }) {
  const [params, set] = useAddress()
  const slots = [
    { key: 'kind', label: 'Kind', choices: [any, ...kinds] },
    { key: 'use', label: 'Use', choices: [any, 'target', ...uses] },
    { key: 'missing', label: 'Missing', choices: Object.keys(missingFrom) },
    { key: 'distinct', label: 'Distinct', choices: Object.keys(distinctIs) },
    ...(related ? [{ key: 'alone', label: 'Alone', choices: Object.keys(aloneIs) }] : []),
  ]
  return (
    <div className="narrow" role="group" aria-label="Narrow by">
      {slots.map((s) => (
        <span key={s.key}>
          {s.key === 'kind' ? s.label : s.key}{' '}
          <Slot
            label={s.label}
            value={params.get(s.key) ?? any}
            choices={s.choices.map((c) => ({ value: c, label: c }))}
            onChange={(v) => set({ [s.key]: v === any ? null : v })}
          />
        </span>
      ))}
      <input
        aria-label="Name contains"
        placeholder="Name contains"
        value={params.get('name') ?? ''}
        onChange={(e) => set({ name: e.target.value === '' ? null : e.target.value })}
      />
      <span style={{ marginLeft: 'auto', display: 'flex', gap: 12, alignItems: 'center' }}>{children}</span>
    </div>
  )
}
