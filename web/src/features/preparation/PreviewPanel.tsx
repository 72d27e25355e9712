import { Button, TextField } from '@mui/material'
import type { View } from '../../api/client'
import { Loading, Trouble } from '../../ui/Trouble'
import { AdviceNotes } from './AdviceNotes'
import type { Advice, BinsLook, Candidate, LearnedLook, Look, Step, Variant } from '../../data/preparation'
import { CutPoints } from './CutPoints'
import { Learned } from './Learned'
import { StepForm } from './StepForm'
import { StepLook } from './StepLook'
import { TollLedger } from './TollLedger'
import { Ways } from './Ways'

type Props = {
  at: number
  step: Step
  kinds: View<'StepsView'> | undefined
  preview: Variant | undefined
  /** Columns before the first step, until the server says which there are here */
  columns: Candidate[]
  event: string | null
  error: unknown
  pending: boolean
  busy: boolean
  /** Advice that stands without this step too */
  known: Advice[]
  onChange: (step: Step) => void
  onTake: (steps: Step[]) => void
  onApply: () => void
  onDiscard: () => void
}

/** Nothing has been chosen yet: there is nothing to refuse. */
function isFresh(step: Step): boolean {
  return Object.entries(step).every(([key, v]) => ['step', 'note', 'off'].includes(key) || v === '' || (Array.isArray(v) && v.length === 0))
}

/** A step before it is applied: its settings, what it costs, and what it does. */
export function PreviewPanel({
  at,
  step,
  kinds,
  preview,
  columns,
  event,
  error,
  pending,
  busy,
  known,
  onChange,
  onTake,
  onApply,
  onDiscard,
}: Props) {
  const kind = kinds?.steps.find((k) => k.step === step.step)
  const drafted = preview?.steps[at]
  const look = preview?.look
  return (
    <section className="col" style={{ width: 404, overflow: 'hidden' }} aria-label="Preview">
      <header
        style={{
          minHeight: 34,
          display: 'flex',
          gap: 8,
          alignItems: 'center',
          padding: '0 12px',
          background: 'var(--brass-wash)',
          borderBottom: '1px solid var(--brass)',
          fontSize: 13,
        }}
      >
        <b>Preview</b> step {at + 1}. Nothing is applied yet.
      </header>
      <div style={{ padding: '10px 14px', display: 'flex', flexDirection: 'column', gap: 10, flex: 1, minHeight: 0, overflow: 'auto' }}>
        {kind && kinds && (
          <StepForm
            key={at + kind.step}
            step={step}
            kind={kind}
            kinds={kinds}
            columns={look?.columns ?? columns}
            problem={drafted?.problem ?? null}
            onChange={onChange}
          />
        )}
        {(error != null || drafted?.problem != null) && isFresh(step) ? (
          <p className="soft">Choose what this step is about; what it costs is told then.</p>
        ) : (
          <Trouble error={error} />
        )}
        {pending && <Loading what="what it costs" />}
        {drafted && !(drafted.problem != null && isFresh(step)) && <TollLedger step={drafted} />}
        {look && (look.ways ?? []).length > 0 && (
          <Ways
            ways={look.ways}
            chosen={step.step === 'drop_rows' ? 'drop rows' : String(step.method ?? 'median')}
            onChoose={(method) => {
              const { columns, note } = step
              const kept = { columns, ...(note ? { note } : {}) }
              onChange(
                method === 'drop rows'
                  ? { step: 'drop_rows', ...kept }
                  : {
                      ...(step.step === 'fill_missing' ? step : { step: 'fill_missing', mark: true, ...kept }),
                      method,
                    },
              )
            }}
          />
        )}
        {look?.bins && (
          <CutPoints
            look={look.bins as unknown as BinsLook}
            event={event}
            onCuts={(cuts) => onChange({ ...step, method: 'own cut points', cuts: [...cuts].sort((a, b) => a - b) })}
          />
        )}
        {look?.learned && <Learned learned={look.learned as LearnedLook} />}
        {look?.look && !look.bins && <StepLook look={look.look as unknown as Look} />}
        <AdviceNotes advice={(preview?.advice ?? []).filter((a) => !known.some((o) => o.says === a.says))} busy={busy} onTake={onTake} />
        <TextField
          label="Note (why)"
          value={step.note ?? ''}
          onChange={(e) => onChange({ ...step, note: e.target.value })}
          slotProps={{ htmlInput: { maxLength: 500 } }}
        />
      </div>
      <div style={{ display: 'flex', gap: 8, alignItems: 'center', padding: '8px 14px', borderTop: '1px solid var(--ink)' }}>
        <Button variant="contained" color="primary" disabled={!drafted || drafted.problem != null || busy} onClick={onApply}>
          Apply step {at + 1}
        </Button>
        <Button onClick={onDiscard}>Discard</Button>
        <span className="soft small">Learned on training rows only.</span>
      </div>
    </section>
  )
}
