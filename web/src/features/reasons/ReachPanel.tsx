import { Button } from '@mui/material'
import { useState } from 'react'
import { type Changes, type Imagined, type Reach, type ReachAsked, type Reasons, type Source, useReach } from '../../data/reasons'
import { number, share, whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'
import { told } from './Imagine'

const COLORS = ['#1b6e62', '#b9771f', '#46648f', '#96466a', '#6e7f2e']
const DASHES = [undefined, '6 3', '2 3', '8 3 2 3', '4 2']
type Rule = { free: boolean; way: 'any' | 'up' | 'down' | 'follows'; least: string; most: string; cost: string; formula: string }
type Props = { source: Source; record: number; reasons: Reasons; imagined: Imagined; changes: Changes; onTake: (changes: Changes) => void }

/** Which changes reach a wanted answer: free and fixed columns, limits, and a handful of unlike answers with their likeness. */
export function ReachPanel({ source, record, reasons, imagined, changes, onTake }: Props) {
  const isNumber = reasons.task === 'number'
  const several = reasons.task === 'several classes'
  const now = imagined.before.value ?? 0
  const [way, setWay] = useState<'high' | 'low' | 'between'>('high')
  const [bound, setBound] = useState(
    isNumber ? number(0.9 * now, 3).replace(',', '') : String(Math.max(1, Math.round(50 * Math.max(now, 0.02)))),
  )
  const [other, setOther] = useState('')
  const [upper, setUpper] = useState('')
  const [wanted, setWanted] = useState('')
  const [likely, setLikely] = useState('0.05')
  const [editing, setEditing] = useState(false)
  const usual = imagined.inputs
    .filter((i) => i.kind !== 'text' && i.kind !== 'identifier')
    .slice(0, 4)
    .map((i) => i.column)
  const [rules, setRules] = useState<Record<string, Rule>>({})
  const rule = (c: string): Rule => rules[c] ?? { free: usual.includes(c), way: 'any', least: '', most: '', cost: '1', formula: '' }
  const reach = useReach(source, record)
  const data = reach.data
  const follows = imagined.inputs.filter((i) => rule(i.column).way === 'follows')
  const free = imagined.inputs.filter((i) => rule(i.column).free && !follows.includes(i))
  const scale = isNumber ? 1 : 0.01
  const of = (text: string) => (text.trim() === '' || !Number.isFinite(Number(text)) ? null : Number(text) * scale)
  const ask = (): ReachAsked => ({
    changes,
    low: several ? null : way === 'high' ? null : of(way === 'low' ? bound : other),
    high: several ? null : way === 'low' ? null : of(way === 'between' ? upper : bound),
    class: several && wanted !== '' ? wanted : null,
    other: several && wanted === '',
    likely: Number(likely),
    free: free.map((i) => {
      const r = rule(i.column)
      const n = (t: string) => (t.trim() === '' ? null : Number(t))
      return {
        column: i.column,
        way: r.way === 'follows' ? 'any' : r.way,
        least: n(r.least),
        most: n(r.most),
        step: null,
        values: null,
        cost: Number(r.cost) || 1,
      }
    }),
    follows: follows.map((i) => ({ column: i.column, formula: rule(i.column).formula })),
  })
  const field = (label: string, value: string, set: (v: string) => void, width = 56) => (
    <input
      aria-label={label}
      inputMode="decimal"
      value={value}
      onChange={(e) => set(e.target.value.trim())}
      style={{ width, border: 0, borderBottom: '1px solid var(--ink)', background: 'none', font: 'inherit' }}
    />
  )
  return (
    <>
      <h2 className="fig-title">Reach another answer</h2>
      <p className="sentence size-15">
        {several ? (
          <>
            Named{' '}
            <Slot
              label="Wanted class"
              value={wanted}
              choices={[{ value: '', label: 'any other class' }, ...reasons.shares.map((c) => ({ value: c.name, label: c.name }))]}
              onChange={setWanted}
            />
          </>
        ) : (
          <>
            {isNumber ? reasons.target : 'A chance'}{' '}
            <Slot
              label="Wanted"
              value={way}
              choices={[
                { value: 'high', label: 'at most' },
                { value: 'low', label: 'at least' },
                { value: 'between', label: 'between' },
              ]}
              onChange={(v) => setWay(v as typeof way)}
            />{' '}
            {way === 'between' ? (
              <>
                {field('From', other, setOther)} and {field('To', upper, setUpper)}
              </>
            ) : (
              field('Bound', bound, setBound)
            )}
            {!isNumber && '%'}
          </>
        )}
        , of likeness at least{' '}
        <Slot
          label="Least likeness"
          value={likely}
          choices={['0', '0.02', '0.05', '0.1', '0.25'].map((v) => ({ value: v, label: String(Math.round(100 * Number(v))) }))}
          onChange={setLikely}
        />
        .
      </p>
      <p className="size-13">
        <b>Free:</b> {free.length === 0 ? 'none' : free.map((i) => i.column).join(', ')}. <b>Fixed:</b> the other{' '}
        {imagined.inputs.length - free.length - follows.length}.
        {follows.length > 0 && ` By formula: ${follows.map((i) => i.column).join(', ')}.`}{' '}
        <button type="button" className="link" aria-expanded={editing} onClick={() => setEditing(!editing)}>
          {editing ? 'Done' : 'Change what is free…'}
        </button>
      </p>
      {editing && (
        <div style={{ maxHeight: 220, overflow: 'auto' }} tabIndex={0} role="group" aria-label="What may change">
          <table className="ledger" aria-label="What may change">
            <thead>
              <tr>
                <th style={{ width: 36 }}>
                  <span className="sr">Free</span>
                </th>
                <th>Column</th>
                <th style={{ width: 92 }}>May go</th>
                <th style={{ width: 116 }}>From, to</th>
                <th style={{ width: 54 }}>Cost</th>
              </tr>
            </thead>
            <tbody>
              {imagined.inputs
                .filter((i) => i.kind !== 'text' && i.kind !== 'identifier')
                .map((i) => {
                  const r = rule(i.column)
                  const set = (change: Partial<Rule>) => setRules({ ...rules, [i.column]: { ...r, ...change } })
                  return (
                    <tr key={i.column}>
                      <td>
                        <input
                          type="checkbox"
                          className="accented"
                          aria-label={`${i.column} is free`}
                          checked={r.free && r.way !== 'follows'}
                          disabled={r.way === 'follows'}
                          onChange={() => set({ free: !r.free })}
                        />
                      </td>
                      <td className="nm clipped">{i.column}</td>
                      <td>
                        {i.kind === 'number' && (
                          <Slot
                            label={`${i.column} may go`}
                            value={r.way}
                            choices={[
                              { value: 'any', label: 'any way' },
                              { value: 'up', label: 'only up' },
                              { value: 'down', label: 'only down' },
                              { value: 'follows', label: 'follows', effect: 'others, by a formula' },
                            ]}
                            onChange={(v) => set({ way: v as Rule['way'] })}
                          />
                        )}
                      </td>
                      <td>
                        {r.way === 'follows' && (
                          <input
                            aria-label={`Formula of ${i.column}`}
                            placeholder="a formula of columns"
                            value={r.formula}
                            onChange={(e) => set({ formula: e.target.value })}
                            className="lined"
                            style={{ width: 104 }}
                          />
                        )}
                        {i.kind === 'number' && r.way !== 'follows' && (
                          <>
                            {field(`${i.column} at least`, r.least, (v) => set({ least: v }), 44)}{' '}
                            {field(`${i.column} at most`, r.most, (v) => set({ most: v }), 44)}
                          </>
                        )}
                      </td>
                      <td>{field(`Cost of changing ${i.column}`, r.cost, (v) => set({ cost: v }), 36)}</td>
                    </tr>
                  )
                })}
            </tbody>
          </table>
        </div>
      )}
      <p className="above-4">
        <Button
          variant="contained"
          color="primary"
          size="small"
          disabled={reach.isPending || free.length === 0}
          onClick={() => reach.mutate(ask())}
        >
          {reach.isPending ? 'Looking…' : 'Find changes'}
        </Button>
      </p>
      <Trouble known error={reach.error} />
      {data && <Found data={data} isNumber={isNumber} onTake={onTake} changes={changes} />}
    </>
  )
}

function Found({
  data,
  isNumber,
  onTake,
  changes,
}: {
  data: Reach
  isNumber: boolean
  onTake: (changes: Changes) => void
  changes: Changes
}) {
  const said = (a: Reach['begins']) => a.class ?? (isNumber ? number(a.value) : share(a.value))
  const lines = data.found.length > 0 ? data.found : data.nearest && data.nearest.changes.length > 0 ? [data.nearest] : []
  const take = (line: (typeof lines)[number]) => onTake({ ...changes, ...Object.fromEntries(line.changes.map((c) => [c.column, c.to])) })
  return (
    <div className="above-6" role="status">
      <p className="size-13">
        {data.found.length > 0 ? (
          <b>
            {data.found.length} unlike {data.found.length === 1 ? 'answer' : 'answers'} of {whole(data.tried)} tried.
          </b>
        ) : (
          <b>Nothing likely enough reaches it{lines.length > 0 ? '; this comes nearest:' : '.'}</b>
        )}
      </p>
      {lines.length > 0 && (
        <table className="ledger" aria-label="Changes that reach it">
          <thead>
            <tr>
              <th style={{ width: 54 }} />
              <th>Change</th>
              <th className="n" style={{ width: 92 }}>
                Answer
              </th>
              <th className="n" style={{ width: 66 }}>
                Likeness
              </th>
              <th style={{ width: 64 }} />
            </tr>
          </thead>
          <tbody>
            <tr className="aside">
              <td />
              <td>as it is</td>
              <td className="n">{said(data.begins)}</td>
              <td className="n">{whole(100 * data.begins.likeness)}</td>
              <td />
            </tr>
            {lines.map((line, k) => (
              <tr key={told(Object.fromEntries(line.changes.map((c) => [c.column, c.to])))}>
                <td>
                  <svg width="38" height="12" aria-hidden="true">
                    <path
                      d="M0 6H28"
                      stroke={COLORS[k % COLORS.length]}
                      strokeWidth="2"
                      {...(DASHES[k] === undefined ? {} : { strokeDasharray: DASHES[k] })}
                    />
                    <text x="31" y="10" fontSize="11" fontWeight="700">
                      {String.fromCharCode(97 + k)}
                    </text>
                  </svg>
                </td>
                <td className="many-lines">
                  {line.changes.map((c, i) => (
                    <span key={c.column}>
                      {i > 0 && ', '}
                      {c.column} <b>{c.to}</b>{' '}
                      <span className="soft">
                        {c.follows && 'follows, '}was {c.from ?? 'missing'}
                      </span>
                    </span>
                  ))}
                </td>
                <td className="n">
                  <b>{said(line.answer)}</b>
                </td>
                <td className="n">{whole(100 * line.answer.likeness)}</td>
                <td>
                  <button
                    type="button"
                    className="link"
                    aria-label={`Take answer ${String.fromCharCode(97 + k)} up`}
                    onClick={() => take(line)}
                  >
                    Take up
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {lines.length > 1 && <Ways data={data} isNumber={isNumber} />}
    </div>
  )
}

/** All answers in one picture: a rail for each column changed, and for the answer and its likeness. */
function Ways({ data, isNumber }: { data: Reach; isNumber: boolean }) {
  const columns = [...new Set(data.found.flatMap((f) => f.changes.map((c) => c.column)))].slice(0, 5)
  const rails = [...columns, isNumber ? 'answer' : 'chance', 'likeness']
  const step = Math.min(120, 460 / Math.max(1, rails.length - 1))
  const H = 120
  const from = (c: string) => data.found.flatMap((f) => f.changes).find((x) => x.column === c)?.from ?? null
  const values = (c: string) => [from(c), ...data.found.map((f) => f.changes.find((x) => x.column === c)?.to ?? from(c))]
  const place = (c: string, v: string | null) => {
    const all = values(c)
    const numbers = all.map((x) => (x == null || x === '' ? NaN : Number(x)))
    if (numbers.every(Number.isFinite)) {
      const [low, high] = [Math.min(...numbers), Math.max(...numbers)]
      return high === low ? 0.5 : (Number(v) - low) / (high - low)
    }
    const different = [...new Set(all.map((x) => x ?? ''))].sort()
    return different.length < 2 ? 0.5 : different.indexOf(v ?? '') / (different.length - 1)
  }
  const answers = [data.begins, ...data.found.map((f) => f.answer)].map((a) => a.value ?? 0)
  const [a0, a1] = [Math.min(...answers), Math.max(...answers)]
  const y = (t: number) => 22 + (1 - t) * (H - 44)
  const points = (changes: Map<string, string>, answer: Reach['begins']) =>
    rails
      .map((r, k) => {
        const t =
          k < columns.length
            ? place(r, changes.get(r) ?? from(r))
            : k === columns.length
              ? a1 === a0
                ? 0.5
                : ((answer.value ?? 0) - a0) / (a1 - a0)
              : answer.likeness
        return `${k === 0 ? 'M' : 'L'}${30 + k * step} ${y(t).toFixed(1)}`
      })
      .join('')
  return (
    <svg
      width={60 + (rails.length - 1) * step}
      height={H}
      role="img"
      aria-label="All answers: one line each through the columns changed, the answer and its likeness"
      className="above-6"
    >
      {rails.map((r, k) => (
        <g key={r}>
          <path d={`M${30 + k * step} 20V${H - 20}`} stroke="var(--ink-soft)" />
          <text x={30 + k * step} y={12} textAnchor="middle" fontSize="11" fontWeight="600" fill="var(--ink)">
            {r.slice(0, 16)}
          </text>
        </g>
      ))}
      <path d={points(new Map(), data.begins)} fill="none" stroke="#cdc6b6" strokeWidth="5" />
      {data.found.map((f, k) => (
        <path
          key={k}
          d={points(new Map(f.changes.map((c) => [c.column, c.to])), f.answer)}
          fill="none"
          stroke={COLORS[k % COLORS.length]}
          strokeWidth="1.8"
          {...(DASHES[k] === undefined ? {} : { strokeDasharray: DASHES[k] })}
        />
      ))}
    </svg>
  )
}
