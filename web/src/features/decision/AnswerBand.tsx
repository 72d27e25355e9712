import type { Scoring } from '../../data/decision'
import { cutoffSaid, number, whole } from '../../ui/format'
import { useWritten } from '../../ui/useWritten'
import { EdgedHistogram } from './EdgedHistogram'

/** Narrows scored records to a band of their answers: by dragging, by arrow keys, or written exactly. */
export function AnswerBand({
  scoring,
  band,
  total,
  onBand,
}: {
  scoring: Scoring
  band: [number, number]
  total: number | undefined
  onBand: (band: [number, number] | null) => void
}) {
  const isNumber = scoring.task === 'number'
  const scale: [number, number] = isNumber ? [scoring.lowest ?? 0, scoring.highest ?? 1] : [0, 1]
  const reach = scale[1] - scale[0] || 1
  const write = (v: number) => (isNumber ? number(v) : cutoffSaid(v))
  const bins = scoring.histogram
  const within = bins.map((n, i) => {
    const middle = scale[0] + (reach * (i + 0.5)) / bins.length
    return middle >= band[0] && middle <= band[1] ? n : 0
  })
  const step = isNumber ? Number((reach / 100).toPrecision(1)) : 0.01
  return (
    <div className="zones" style={{ padding: '6px 14px', gap: 18, borderBottom: '1px solid var(--rule)' }}>
      <div style={{ flex: '1 1 480px', maxWidth: 560 }} role="group" aria-label="Records by answer">
        <EdgedHistogram
          all={bins}
          on={within}
          scale={scale}
          marks={[0, 0.25, 0.5, 0.75, 1].map((s) => Number((scale[0] + s * reach).toPrecision(3)))}
          edges={band}
          step={step}
          label={(k) => (k === 0 ? 'Least answer' : 'Greatest answer')}
          write={write}
          onEdges={(e) => onBand([e[0]!, e[1]!])}
          count={false}
        />
      </div>
      <div className="size-13" style={{ paddingTop: 18 }}>
        <p role="status">
          <b>{whole(total)}</b> of {whole(scoring.scored)} records from {write(band[0])} to {write(band[1])}
        </p>
        <p className="above-4">
          <End label="From" value={band[0]} isNumber={isNumber} onDone={(v) => onBand([Math.min(v, band[1]), band[1]])} />{' '}
          <End label="to" value={band[1]} isNumber={isNumber} onDone={(v) => onBand([band[0], Math.max(v, band[0])])} />
        </p>
        <button type="button" className="link above-4" onClick={() => onBand(null)}>
          All answers
        </button>
      </div>
    </div>
  )
}

function End({ label, value, isNumber, onDone }: { label: string; value: number; isNumber: boolean; onDone: (v: number) => void }) {
  const field = useWritten(isNumber ? String(value) : cutoffSaid(value), (text) => {
    const v = Number(text.replace('%', '').replaceAll(',', '').trim()) / (isNumber ? 1 : 100)
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
