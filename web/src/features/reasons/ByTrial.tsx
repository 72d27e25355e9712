import { Slot } from '../../ui/Slot'

type Props = { trialId: number; trials: { id: number; number: number; title: string }[]; onChange: (id: string) => void }

/** The trial whose answers are explained, changed in place. */
export function ByTrial({ trialId, trials, onChange }: Props) {
  return (
    <span className="small">
      By{' '}
      <Slot
        label="Trial"
        value={String(trialId)}
        choices={trials.map((t) => ({ value: String(t.id), label: `trial ${t.number}`, effect: t.title }))}
        onChange={onChange}
      />
    </span>
  )
}
