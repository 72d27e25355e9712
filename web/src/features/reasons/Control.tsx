import { Slider } from '@mui/material'
import { useState } from 'react'
import type { Imagined } from '../../data/reasons'
import { number, share } from '../../ui/format'

type Input = Imagined['inputs'][number]
const W = 200
const H = 40
const DAY = 86_400_000

/** One input of an imagined record: a slider under its own curve, one button per value, or a field. */
export function Control({ input, isNumber, onChange }: { input: Input; isNumber: boolean; onChange: (value: string | null) => void }) {
  const changed = (input.value ?? null) !== (input.before ?? null)
  const isLine = input.kind === 'number' || input.kind === 'date'
  return (
    <div
      style={{
        display: 'grid',
        gridTemplateColumns: '118px 1fr',
        gap: 10,
        alignItems: 'center',
        padding: '5px 0',
        borderTop: '1px solid var(--rule)',
      }}
    >
      <div className="size-13 clipped" title={`${input.column}, as it came ${input.before ?? 'missing'}`}>
        {changed ? <b>{input.column}</b> : input.column}
        <span className="soft small" style={{ display: 'block' }}>
          {input.value ?? 'missing'}
          {changed && `, was ${input.before ?? 'missing'}`}
        </span>
      </div>
      {isLine && input.xs.length > 1 ? (
        <Line input={input} isNumber={isNumber} onChange={onChange} />
      ) : input.levels.length > 0 && input.levels.length <= 5 ? (
        <Levels input={input} isNumber={isNumber} onChange={onChange} />
      ) : input.levels.length > 0 ? (
        <select
          aria-label={input.column}
          value={input.value ?? ''}
          onChange={(e) => onChange(e.target.value === '' ? null : e.target.value)}
          style={{ minHeight: 28, font: 'inherit', fontSize: 13, background: 'var(--paper)', border: '1px solid var(--rule-firm)' }}
        >
          <option value="">missing</option>
          {input.levels.map((l, i) => (
            <option key={l} value={l}>
              {l}: {isNumber ? number(input.now[i]) : share(input.now[i], 0)}
            </option>
          ))}
        </select>
      ) : (
        <Field key={input.value ?? ''} input={input} onChange={onChange} />
      )}
    </div>
  )
}

function Field({ input, onChange }: { input: Input; onChange: (value: string | null) => void }) {
  const [text, setText] = useState(input.value ?? '')
  return (
    <input
      aria-label={input.column}
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => onChange(text.trim() === '' ? null : text)}
      onKeyDown={(e) => e.key === 'Enter' && onChange(text.trim() === '' ? null : text)}
      className="underlined"
    />
  )
}

function Line({ input, isNumber, onChange }: { input: Input; isNumber: boolean; onChange: (value: string) => void }) {
  const day = (x: number) => new Date(x * DAY).toISOString().slice(0, 10)
  const isDate = input.kind === 'date'
  const [x0, x1] = [input.xs[0]!, input.xs.at(-1)!]
  const at = input.value == null ? x0 : isDate ? Date.parse(input.value) / DAY : Number(input.value)
  const [drag, setDrag] = useState<number | null>(null)
  const ys = [...input.now, ...input.then].filter((v): v is number => v != null)
  const [y0, y1] = isNumber ? [Math.min(...ys), Math.max(...ys, Math.min(...ys) + 1e-9)] : [0, Math.max(0.05, ...ys)]
  const px = (x: number) => 4 + ((Math.min(Math.max(x, x0), x1) - x0) / Math.max(1e-12, x1 - x0)) * (W - 8)
  const py = (y: number) => 3 + (1 - (y - y0) / Math.max(1e-12, y1 - y0)) * (H - 6)
  const path = (of: (number | null)[]) =>
    of.map((y, i) => (y == null ? '' : `${i === 0 ? 'M' : 'L'}${px(input.xs[i]!).toFixed(1)} ${py(y).toFixed(1)}`)).join('')
  const step = isDate || input.whole ? 1 : (x1 - x0) / 100
  const write = (v: number) => (isDate ? day(v) : String(Number(v.toPrecision(4))))
  return (
    <div style={{ width: W + 20 }}>
      <svg width={W} height={H} aria-hidden="true" style={{ display: 'block' }}>
        <path d={`${path(input.now)}L${px(x1)} ${H}L${px(x0)} ${H}Z`} fill="var(--verdigris-wash)" />
        <path d={path(input.then)} fill="none" stroke="var(--ink-soft)" strokeDasharray="2 2.5" />
        <path d={path(input.now)} fill="none" stroke="var(--verdigris)" strokeWidth="1.8" />
        <path d={`M${px(drag ?? at)} 0V${H}`} stroke="var(--brass)" />
      </svg>
      <Slider
        size="small"
        aria-label={input.column}
        min={x0}
        max={x1}
        step={step}
        value={Math.min(Math.max(drag ?? at, x0), x1)}
        valueLabelDisplay="auto"
        valueLabelFormat={(v) => write(v)}
        getAriaValueText={(v) => write(v)}
        onChange={(_, v) => setDrag(Number(v))}
        onChangeCommitted={(_, v) => {
          setDrag(null)
          onChange(write(Number(v)))
        }}
        sx={{ color: 'var(--brass)', width: W - 8, ml: '4px', mt: -1.2, py: 1 }}
      />
    </div>
  )
}

function Levels({ input, isNumber, onChange }: { input: Input; isNumber: boolean; onChange: (value: string) => void }) {
  return (
    <div role="group" aria-label={input.column} className="wraps">
      {input.levels.map((l, i) => (
        <button
          key={l}
          type="button"
          aria-pressed={l === input.value}
          onClick={() => onChange(l)}
          style={{
            font: 'inherit',
            fontSize: 12,
            minHeight: 34,
            padding: '2px 8px',
            border: '1px solid var(--rule-firm)',
            marginLeft: i > 0 ? -1 : 0,
            cursor: 'pointer',
            background: l === input.value ? 'var(--verdigris)' : 'var(--paper)',
            color: l === input.value ? 'var(--paper)' : 'var(--ink)',
          }}
        >
          {l}
          <span style={{ display: 'block', fontSize: 11 }}>{isNumber ? number(input.now[i], 3) : share(input.now[i], 0)}</span>
        </button>
      ))}
    </div>
  )
}
