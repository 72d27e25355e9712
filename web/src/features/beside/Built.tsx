import { useState } from 'react'
import type { SideBySide } from '../../data/beside'
import { count } from '../../ui/format'
import { figure } from '../../ui/measure'
import { roundTicks } from '../../ui/scale'
import { Key, Shape, markOf, short } from './marks'

const FEW = 9

/** What the trials were set to: what differs; what is the same, and what one learner alone has, on demand. */
export function SettingsBeside({ data }: { data: SideBySide }) {
  const [more, setMore] = useState<'same' | 'own' | null>(null)
  const shared = data.settings.filter((s) => s.values.filter((v) => v != null).length > 1)
  const differ = shared.filter((s) => !s.same)
  const same = shared.filter((s) => s.same)
  const own = data.settings.filter((s) => !shared.includes(s))
  const fold = (which: 'same' | 'own', said: string) => (
    <button type="button" className="link" aria-expanded={more === which} onClick={() => setMore(more === which ? null : which)}>
      {said}
    </button>
  )
  return (
    <section className="pad" style={{ flex: '1 1 300px' }} aria-label="Settings side by side">
      <h2 className="fig-title">
        {differ.length === 0
          ? 'Nothing they share is set apart'
          : `${count(differ.length, 'setting')} ${differ.length === 1 ? 'differs' : 'differ'}`}
      </h2>
      <p className="fig-sub">
        {same.length > 0 && fold('same', `${same.length} are the same`)}
        {same.length > 0 && own.length > 0 && ', '}
        {own.length > 0 && fold('own', `${own.length} are of one learner alone`)}
      </p>
      <table className="ledger" aria-label="Settings side by side">
        <thead>
          <tr>
            <th style={{ width: '36%' }}>Setting</th>
            {data.trials.map((t, k) => (
              <th key={t.id} className="n" title={short(data.trials, k)}>
                <Key k={k} narrow /> {t.number}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {[...differ, ...(more === 'same' ? same : more === 'own' ? own : [])].map((s) => (
            <tr key={s.name} className={differ.includes(s) ? '' : 'aside'}>
              <td title={s.name}>{s.name}</td>
              {s.values.map((v, k) => (
                <td key={k} className="n" title={v ?? 'It has no such setting'}>
                  {v ?? '–'}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

/** What each loses when a column is shuffled. */
export function LeansBeside({ data }: { data: SideBySide }) {
  const [all, setAll] = useState(false)
  const { measure } = data.trials[0]!
  if (data.leans.length === 0) return null
  const most = Math.max(1e-9, ...data.leans.flatMap((l) => l.trials.map((v) => v?.value ?? 0)))
  const x = (v: number) => 8 + (Math.max(0, v) / most) * 112
  const ticks = roundTicks([0, most], 2)
  return (
    <section className="pad" style={{ flex: '1.1 1 330px', borderLeft: '1px solid var(--rule)' }} aria-label="Columns side by side">
      <h2 className="fig-title">{leaning(data)}</h2>
      <p className="fig-sub">{measure.name} lost when the column is shuffled, on rows that the models had not seen</p>
      <table className="ledger" aria-label="Columns side by side">
        <thead>
          <tr>
            <th>Column</th>
            <th className="mark" style={{ width: 132 }}>
              <svg width="128" height="14" aria-hidden="true">
                {ticks.map((t) => (
                  <text key={t} x={x(t)} y="11" textAnchor="middle" className="ax">
                    {t === 0 ? '0' : figure(measure, t).replace(/^0\./, '.').replace(/0+$/, '')}
                  </text>
                ))}
              </svg>
            </th>
            <th>Weighs in</th>
          </tr>
        </thead>
        <tbody>
          {(all ? data.leans : data.leans.slice(0, FEW)).map((l) => {
            const values = l.trials.map((v) => v?.value ?? 0)
            return (
              <tr key={l.column}>
                <td className="nm" title={l.column}>
                  {l.column}
                </td>
                <td className="mark">
                  <svg
                    width="128"
                    height="24"
                    role="img"
                    aria-label={values.map((v, k) => `${short(data.trials, k)} ${figure(measure, v)}`).join(', ')}
                  >
                    <path d="M8 0V24" stroke="var(--rule-firm)" />
                    <path d={`M${x(Math.min(...values))} 12H${x(Math.max(...values))}`} stroke="#C3B69D" />
                    {values.map((v, k) => (
                      <Shape key={k} k={k} x={x(v)} y={12} size={3.2} />
                    ))}
                  </svg>
                </td>
                <td>{weighs(l, data)}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {data.leans.length > FEW && (
        <p className="small above-4">
          <button type="button" className="link" onClick={() => setAll(!all)}>
            {all ? `Show ${FEW}` : `Show all ${data.leans.length}`}
          </button>
        </p>
      )}
    </section>
  )
}

type Lean = SideBySide['leans'][number]

/** A trial that loses clearly less than another when the column is shuffled: their intervals do not meet. */
function little(l: Lean): number | null {
  const top = l.trials.reduce((best, v, k) => ((v?.value ?? -1) > (l.trials[best]?.value ?? -1) ? k : best), 0)
  const low = l.trials[top]?.low
  if (low == null || low <= 0) return null
  const found = l.trials.findIndex((v, k) => k !== top && (v?.high ?? v?.value ?? 0) < low)
  return found < 0 ? null : found
}

function weighs(l: Lean, data: SideBySide) {
  const least = little(l)
  if (least !== null) {
    const none = l.trials[least] == null
    return (
      <span className="brass">
        {none ? 'not in' : 'less in'} {short(data.trials, least).toLowerCase()}
      </span>
    )
  }
  if (l.trials.every((v) => (v?.low ?? 0) <= 0)) return <span className="soft">cannot be told</span>
  return <span className="soft">in {data.trials.length === 2 ? 'both' : `all ${data.trials.length}`}</span>
}

function leaning(data: SideBySide): string {
  const apart = data.leans.filter((l) => little(l) !== null)
  const first = apart[0]
  if (!first) return 'They lean on the same columns, as far as can be told'
  const who = short(data.trials, little(first)!)
  return `${who} makes less of ${first.column}${apart.length > 1 ? `; ${count(apart.length - 1, 'other column differs', 'other columns differ')}` : ''}`
}

/** A trial's mark as a word of a list: filled where it calls the record. */
export function Called({ called }: { called: boolean[] }) {
  return (
    <svg width={22 * called.length} height="16" role="img" aria-label={called.map((c, k) => `${k + 1} ${c ? 'yes' : 'no'}`).join(', ')}>
      {called.map((c, k) => (
        <circle
          key={k}
          cx={11 + 22 * k}
          cy="8"
          r="5"
          fill={c ? markOf(k).color : 'none'}
          stroke={c ? markOf(k).color : 'var(--rule-firm)'}
          strokeWidth="1.4"
        />
      ))}
    </svg>
  )
}
