import { Button, TextField } from '@mui/material'
import { useRef, useState } from 'react'
import { flushSync } from 'react-dom'
import { useWritten } from '../../ui/useWritten'
import type { Candidate } from '../../data/preparation'

/** A value that counts when it is left or confirmed, so that a half-written one is not computed. */
export function Written({ label, value, onDone }: { label: string; value: string; onDone: (value: string) => void }) {
  const { text, write, done } = useWritten(value, onDone)
  return (
    <TextField
      label={label}
      value={text}
      size="small"
      fullWidth
      onChange={(e) => write(e.target.value)}
      onBlur={done}
      onKeyDown={(e) => {
        if (e.key === 'Enter') {
          e.preventDefault()
          done()
        }
      }}
      slotProps={{ htmlInput: { spellCheck: false } }}
    />
  )
}

/** A number on one line with what it means, so that a form of many stays short. */
export function WrittenNumber({
  label,
  value,
  help,
  onDone,
}: {
  label: string
  value: string
  help?: string
  onDone: (value: string) => void
}) {
  const { text, write, done } = useWritten(value, onDone)
  return (
    <label style={{ display: 'flex', gap: 8, alignItems: 'baseline', fontSize: 13 }} title={help}>
      <span className="grows">{label}</span>
      <input
        value={text}
        inputMode="decimal"
        spellCheck={false}
        onChange={(e) => write(e.target.value)}
        onBlur={done}
        onKeyDown={(e) => {
          if (e.key === 'Enter') {
            e.preventDefault()
            done()
          }
        }}
        style={{ width: 76, textAlign: 'right' }}
      />
    </label>
  )
}

/** Values and what they become; an empty second one makes the first missing. */
export function Recodes({
  pairs,
  levels,
  onChange,
}: {
  pairs: [string, string][]
  levels: string[]
  onChange: (pairs: [string, string][]) => void
}) {
  // One more line than there are, to write into.
  const lines: [string, string][] = [...pairs, ['', '']]
  const put = (i: number, side: 0 | 1, value: string) => {
    const next = lines.map((p, j): [string, string] => (j === i ? (side === 0 ? [value, p[1]] : [p[0], value]) : p))
    onChange(next.filter((p) => p[0] !== ''))
  }
  return (
    <div>
      <datalist id="levels">
        {levels.map((l) => (
          <option key={l} value={l} />
        ))}
      </datalist>
      <table className="ledger" aria-label="Recoded values">
        <thead>
          <tr>
            <th>Value</th>
            <th>becomes</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((p, i) => (
            <tr key={i}>
              {([0, 1] as const).map((side) => (
                <td key={side}>
                  <Cell
                    label={side === 0 ? `Value ${i + 1}` : `Value ${i + 1} becomes`}
                    value={p[side]}
                    disabled={side === 1 && p[0] === ''}
                    placeholder={side === 0 ? '…' : 'missing'}
                    onDone={(v) => put(i, side, v)}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

function Cell({
  label,
  value,
  disabled,
  placeholder,
  onDone,
}: {
  label: string
  value: string
  disabled: boolean
  placeholder: string
  onDone: (v: string) => void
}) {
  const { text, write, done } = useWritten(value, onDone)
  return (
    <input
      aria-label={label}
      list="levels"
      value={text}
      disabled={disabled}
      placeholder={placeholder}
      onChange={(e) => write(e.target.value)}
      onBlur={done}
      onKeyDown={(e) => e.key === 'Enter' && done()}
      style={{ width: '100%', border: 0, background: 'none', font: 'inherit' }}
    />
  )
}

/** A formula with the columns and functions that would complete the word before the caret. */
export function FormulaField({
  value,
  columns,
  help,
  problem,
  onDone,
}: {
  value: string
  columns: Candidate[]
  help: string[]
  problem: string | null
  onDone: (value: string) => void
}) {
  const { text: now, writing, write, done } = useWritten(value, onDone)
  const [listed, setListed] = useState(false)
  const box = useRef<HTMLTextAreaElement>(null)
  const [caret, setCaret] = useState(value.length)
  const word = /[\p{L}_][\p{L}\p{N}_]*$/u.exec(now.slice(0, caret))?.[0] ?? ''
  const functions = help.map((h) => h.split('(')[0]!).filter((f) => /^[a-z0-9_]+$/.test(f))
  const fitting =
    word.length < 1
      ? []
      : [
          ...columns
            .filter((c) => c.name.toLowerCase().startsWith(word.toLowerCase()) && c.name !== word)
            .map((c) => ({ insert: /^[\p{L}_][\p{L}\p{N}_]*$/u.test(c.name) ? c.name : `col("${c.name}")`, says: c.kind })),
          ...functions.filter((f) => f.startsWith(word) && f !== word).map((f) => ({ insert: `${f}(`, says: 'function' })),
        ].slice(0, 8)
  const at = /^At letter (\d+):/.exec(problem ?? '')?.[1]
  const complete = (insert: string) => {
    const at = caret - word.length + insert.length
    // Written out before the caret is set: a field that is filled anew puts it at the end.
    flushSync(() => {
      write(now.slice(0, caret - word.length) + insert + now.slice(caret))
      setCaret(at)
    })
    box.current?.focus()
    box.current?.setSelectionRange(at, at)
  }
  return (
    <div>
      <TextField
        label="Formula"
        value={now}
        multiline
        minRows={2}
        fullWidth
        size="small"
        inputRef={box}
        error={problem !== null && !writing}
        onChange={(e) => {
          write(e.target.value)
          setCaret(e.target.selectionStart ?? e.target.value.length)
        }}
        onSelect={(e) => setCaret((e.target as HTMLTextAreaElement).selectionStart)}
        onBlur={(e) => !(e.relatedTarget instanceof HTMLElement && e.relatedTarget.closest('[data-completes]')) && done()}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && !e.shiftKey) {
            e.preventDefault()
            done()
          }
          if (e.key === 'Tab' && !e.shiftKey && fitting[0]) {
            e.preventDefault()
            complete(fitting[0].insert)
          }
        }}
        slotProps={{
          htmlInput: { maxLength: 4000, spellCheck: false, style: { fontFamily: '"JetBrains Mono Variable", monospace', fontSize: 12.5 } },
        }}
      />
      {fitting.length > 0 && writing && (
        <ul data-completes aria-label="Completions" style={{ border: '1px solid var(--rule)', fontSize: 12.5 }}>
          {fitting.map((f, i) => (
            <li key={f.insert}>
              <button type="button" className="link" style={{ padding: '1px 8px' }} onClick={() => complete(f.insert)}>
                {f.insert}
              </button>{' '}
              <span className="soft">
                {f.says}
                {i === 0 && ', Tab takes it'}
              </span>
            </li>
          ))}
        </ul>
      )}
      {at !== undefined && !writing && (
        <pre
          className="cinn"
          aria-hidden="true"
          style={{ margin: 0, fontFamily: '"JetBrains Mono Variable", monospace', fontSize: 12.5, whiteSpace: 'pre-wrap' }}
        >
          {value.slice(0, Number(at) - 1)}
          <b style={{ textDecoration: 'underline wavy' }}>{value.slice(Number(at) - 1) || '…'}</b>
        </pre>
      )}
      <Button size="small" variant="text" onClick={() => setListed(!listed)} aria-expanded={listed}>
        {listed ? 'Hide the functions' : 'What can stand in it'}
      </Button>
      {listed && (
        <ul className="small" style={{ maxHeight: 160, overflow: 'auto', columns: 1 }}>
          <li>+ - * / % **, == != &lt; &lt;= &gt; &gt;=, and, or, not, in [&hellip;], ~ joins texts</li>
          {help.map((h) => (
            <li key={h}>{h}</li>
          ))}
        </ul>
      )}
    </div>
  )
}
