import { useRegister } from '../../data/table'
import type { Scoring } from '../../data/decision'
import { cutoffSaid, number, whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import { useWritten } from '../../ui/useWritten'
import { EdgedHistogram } from './EdgedHistogram'

type Of = {
  band: [number, number]
  total: number | undefined
  onBand: (band: [number, number] | null) => void
  /** By which column records are narrowed; null = by the answer. */
  onBy: (column: string | null) => void
}

/** Narrows scored records to a band of their answers: by dragging, by arrow keys, or written exactly. */
export function AnswerBand({ scoring, ...of }: Of & { scoring: Scoring }) {
  const isNumber = scoring.task === 'number'
  const scale: [number, number] = isNumber ? [scoring.lowest ?? 0, scoring.highest ?? 1] : [0, 1]
  return (
    <Band
      {...of}
      scoring={scoring}
      by={null}
      bins={scoring.histogram}
      scale={scale}
      step={isNumber ? stepOf(scale) : 0.01}
      isShare={!isNumber}
    />
  )
}

/** Narrows scored records to a band of a column of numbers that came with them. */
export function ColumnBand({
  scoring,
  column,
  band,
  ...of
}: Omit<Of, 'band'> & { scoring: Scoring; column: string; band: [number, number] | null }) {
  const bins = useRegister(scoring.tableId).data?.columns.find((c) => c.name === column)?.bins ?? []
  if (bins.length === 0) return null
  const scale: [number, number] = [bins[0]!.low, bins[bins.length - 1]!.high]
  return (
    <Band
      {...of}
      scoring={scoring}
      by={column}
      bins={bins.map((b) => b.count)}
      scale={scale}
      step={stepOf(scale)}
      isShare={false}
      band={band ?? scale}
    />
  )
}

const stepOf = ([low, high]: [number, number]) => Number(((high - low || 1) / 100).toPrecision(1))

function Band({
  scoring,
  by,
  bins,
  scale,
  step,
  isShare,
  band,
  total,
  onBand,
  onBy,
}: Of & { scoring: Scoring; by: string | null; bins: number[]; scale: [number, number]; step: number; isShare: boolean }) {
  const register = useRegister(scoring.tableId)
  const reach = scale[1] - scale[0] || 1
  const write = (v: number) => (isShare ? cutoffSaid(v) : number(v))
  const within = bins.map((n, i) => {
    const middle = scale[0] + (reach * (i + 0.5)) / bins.length
    return middle >= band[0] && middle <= band[1] ? n : 0
  })
  const numbers = (register.data?.columns ?? []).filter((c) => c.kind === 'number' && c.bins.length > 0)
  return (
    <div className="zones" style={{ padding: '6px 14px', gap: 18, borderBottom: '1px solid var(--rule)' }}>
      <div style={{ flex: '1 1 480px', maxWidth: 560 }} role="group" aria-label={by === null ? 'Records by answer' : `Records by ${by}`}>
        <EdgedHistogram
          all={bins}
          on={within}
          scale={scale}
          marks={[0, 0.25, 0.5, 0.75, 1].map((s) => Number((scale[0] + s * reach).toPrecision(3)))}
          edges={band}
          step={step}
          label={(k) => `${k === 0 ? 'Least' : 'Greatest'} ${by ?? 'answer'}`}
          write={write}
          onEdges={(e) => onBand([e[0]!, e[1]!])}
          count={false}
        />
      </div>
      <div className="size-13" style={{ paddingTop: 18 }}>
        <p>
          By{' '}
          <Slot
            label="Narrowed by"
            value={by ?? ''}
            choices={[{ value: '', label: 'the answer' }, ...numbers.map((c) => ({ value: c.name, label: c.name }))]}
            onChange={(v) => onBy(v === '' ? null : v)}
          />
        </p>
        <p role="status" className="above-4">
          <b>{whole(total)}</b> of {whole(scoring.rows)} records from {write(band[0])} to {write(band[1])}
        </p>
        <p className="above-4">
          <End label="From" value={band[0]} isShare={isShare} onDone={(v) => onBand([Math.min(v, band[1]), band[1]])} />{' '}
          <End label="to" value={band[1]} isShare={isShare} onDone={(v) => onBand([band[0], Math.max(v, band[0])])} />
        </p>
        <button type="button" className="link above-4" onClick={() => onBand(null)}>
          {by === null ? 'All answers' : `Any ${by}`}
        </button>
      </div>
    </div>
  )
}

function End({ label, value, isShare, onDone }: { label: string; value: number; isShare: boolean; onDone: (v: number) => void }) {
  const field = useWritten(isShare ? cutoffSaid(value) : String(value), (text) => {
    const v = Number(text.replace('%', '').replaceAll(',', '').trim()) / (isShare ? 100 : 1)
    if (Number.isFinite(v)) onDone(v)
  })
  return (
    <label>
      {label}{' '}
      <input
        className="bound"
        value={field.text}
        onChange={(e) => field.write(e.target.value)}
        onBlur={field.done}
        onKeyDown={(e) => e.key === 'Enter' && field.done()}
      />
    </label>
  )
}
