import { Button } from '@mui/material'
import { count, whole } from '../../ui/format'
import { useState } from 'react'
import { columnsOf, type Described, settingsOf, type StepView, type Variant } from '../../data/preparation'
import { AddStep } from './AddStep'

type Props = {
  view: Variant
  kinds: Described[]
  draftAt: number | null
  onAdd: (kind: Described) => void
  onCopy: (at: number) => void
  onEdit: (at: number) => void
  onRemove: (at: number) => void
  onToggle: (at: number) => void
  onMove: (at: number, by: number) => void
}

/** The steps in order, each with its toll; the account is closed at the foot. */
export function StepList({ view, kinds, draftAt, onAdd, onCopy, onEdit, onRemove, onToggle, onMove }: Props) {
  const title = (step: string) => kinds.find((k) => k.step === step)?.title ?? step
  const [dragged, setDragged] = useState<number | null>(null)
  return (
    <div style={{ padding: '4px 20px 20px' }}>
      <ol>
        <li style={{ display: 'flex', justifyContent: 'space-between', padding: '12px 0 8px', borderBottom: '1px solid var(--ink)' }}>
          <span className="soft small">begins with</span>
          <b className="size-13">
            {whole(view.rowsBefore)} × {view.columnsBefore}, {whole(view.missingBefore)} missing
          </b>
        </li>
        {view.steps.map((step, i) => (
          <li
            key={i}
            draggable={draftAt === null}
            onDragStart={(e) => {
              e.dataTransfer.effectAllowed = 'move'
              setDragged(i)
            }}
            onDragOver={(e) => dragged !== null && e.preventDefault()}
            onDrop={(e) => {
              e.preventDefault()
              if (dragged !== null && dragged !== i) onMove(dragged, i - dragged)
              setDragged(null)
            }}
            onDragEnd={() => setDragged(null)}
            style={{
              display: 'grid',
              gridTemplateColumns: '20px minmax(0,1fr) auto',
              gap: 8,
              padding: '8px 10px 8px 0',
              borderBottom: '1px solid var(--rule)',
              fontSize: 13,
              ...(draftAt === i ? { background: 'var(--brass-wash)', boxShadow: 'inset 0 0 0 1px var(--brass)', paddingLeft: 8 } : {}),
            }}
          >
            <span className="serif soft">{i + 1}</span>
            <div>
              <b style={{ opacity: step.off ? 0.6 : 1 }}>{title(step.step)}</b>
              {step.off && <span className="brass"> switched off</span>}
              <p className="soft small">
                {step.problem ??
                  step.sentence ??
                  (step.off ? columnsOf(settingsOf(step)) : 'Not computed: an earlier step cannot be done.')}
              </p>
              {step.problem && i !== draftAt && <p className="small cinn">This step is kept but does nothing until it is mended.</p>}
              {step.note && (
                <p className="small" style={{ fontStyle: 'italic' }}>
                  {step.note}
                </p>
              )}
              {draftAt === null && (
                <p style={{ display: 'flex', gap: 4, marginTop: 3 }}>
                  <Button size="small" variant="text" onClick={() => onEdit(i)} aria-label={`Edit step ${i + 1}`}>
                    Edit
                  </Button>
                  <Button
                    size="small"
                    variant="text"
                    onClick={() => onToggle(i)}
                    aria-label={`${step.off ? 'Switch on' : 'Switch off'} step ${i + 1}`}
                  >
                    {step.off ? 'Switch on' : 'Switch off'}
                  </Button>
                  <Button size="small" variant="text" disabled={i === 0} onClick={() => onMove(i, -1)} aria-label={`Move step ${i + 1} up`}>
                    Up
                  </Button>
                  <Button
                    size="small"
                    variant="text"
                    disabled={i === view.steps.length - 1}
                    onClick={() => onMove(i, 1)}
                    aria-label={`Move step ${i + 1} down`}
                  >
                    Down
                  </Button>
                  <Button size="small" variant="text" onClick={() => onCopy(i)} aria-label={`Copy step ${i + 1}`}>
                    Copy
                  </Button>
                  <Button size="small" variant="text" onClick={() => onRemove(i)} aria-label={`Remove step ${i + 1}`}>
                    Remove
                  </Button>
                </p>
              )}
            </div>
            <Cost step={step} />
          </li>
        ))}
        {view.steps.length === 0 && (
          <li className="empty" style={{ padding: '20px 0' }}>
            <h2>No step yet</h2>
            <p>Set aside what cannot help, then fill what is missing: filling keeps rows that a model could not use otherwise.</p>
          </li>
        )}
      </ol>
      {draftAt === null && (
        <p style={{ display: 'flex', gap: 8, padding: '12px 0' }}>
          <AddStep kinds={kinds} onAdd={onAdd} />
        </p>
      )}
      <dl style={{ borderTop: '1px solid var(--ink)', borderBottom: '3px double var(--ink)', fontSize: 13, marginTop: 6 }}>
        {(
          [
            ['rows kept', `${whole(view.rowsAfter)} of ${whole(view.rowsBefore)}`],
            ['columns', whole(view.columnsAfter)],
            ['missing cells', whole(view.missingAfter)],
          ] as const
        ).map(([name, figure]) => (
          <div key={name} style={{ display: 'flex', justifyContent: 'space-between', lineHeight: '22px' }}>
            <dt className="soft">{name}</dt>
            <dd style={{ fontWeight: 600 }}>{figure}</dd>
          </div>
        ))}
      </dl>
    </div>
  )
}

function Cost({ step }: { step: StepView }) {
  const t = step.toll
  if (!t) return <span />
  const rows = t.rowsAfter - t.rowsBefore
  const columns = t.columnsAfter - t.columnsBefore
  const cells = t.missingAfter - t.missingBefore
  const filled = cells < 0 && rows === 0 && columns >= 0
  return (
    <div style={{ textAlign: 'right' }}>
      {rows < 0 && <p className="toll loss">−{count(-rows, 'row')}</p>}
      {filled ? (
        <p className="toll gain">{count(-cells, 'cell')}</p>
      ) : (
        columns !== 0 && (
          <p className="toll">
            {t.columnsBefore} to {t.columnsAfter} columns
          </p>
        )
      )}
      <p className="soft small">
        {whole(t.rowsAfter)} × {t.columnsAfter}
      </p>
    </div>
  )
}
