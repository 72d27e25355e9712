import { Button } from '@mui/material'
import { useState } from 'react'
import { type Changes, type Imagined, type Reasons, type Source, useImagined } from '../../data/reasons'
import { count, fixed, number, share, whole } from '../../ui/format'
import { IntervalMark } from '../../ui/IntervalMark'
import { Loading, Trouble } from '../../ui/Trouble'
import { Control } from './Control'
import { ReachPanel } from './ReachPanel'

const FEW = 6
type Version = { name: string; changes: Changes; answer: Imagined['after'] }

/** What if: every input by a control of its kind, its own curve in sight; and which changes reach a wanted answer. */
export function Imagine({ source, record, reasons }: { source: Source; record: number; reasons: Reasons }) {
  const [changes, setChanges] = useState<Changes>({})
  const [all, setAll] = useState(false)
  const [kept, setKept] = useState<Version[]>([])
  const imagined = useImagined(source, record, changes)
  const data = imagined.data
  const isNumber = reasons.task === 'number'
  const said = (v: number | null | undefined) => (isNumber ? number(v) : share(v))
  const change = (column: string, value: string | null, before: string | null | undefined) =>
    setChanges((c) => {
      const next = { ...c }
      if ((value ?? null) === (before ?? null)) delete next[column]
      else next[column] = value
      return next
    })
  const changed = Object.keys(changes).length
  const by = data?.after.value != null && data.before.value != null ? data.after.value - data.before.value : null
  return (
    <div className="parts-row ruled">
      <section className="pad" style={{ flex: '1 1 430px', minWidth: 0 }} aria-label="What if">
        <h2 className="fig-title" style={{ display: 'flex', gap: 10, alignItems: 'baseline' }}>
          What if
          {changed > 0 && by != null && (
            <span className="verd size-13">
              {by > 0 ? '+' : ''}
              {isNumber ? number(by, 3) : `${fixed(100 * by, 1)} points`} with {count(changed, 'change')}
            </span>
          )}
          <Button size="small" sx={{ marginLeft: 'auto' }} disabled={changed === 0} onClick={() => setChanges({})}>
            As it came
          </Button>
        </h2>
        {imagined.isPending && <Loading what="the curves" />}
        <Trouble known error={imagined.error} />
        {data && (
          <>
            <Answers data={data} isNumber={isNumber} changed={changed > 0} />
            {data.after.likeness < 0.03 && (
              <p className="small brass" role="status">
                Likeness {whole(100 * data.after.likeness)}: values that were hardly ever seen together. Take the answer with care.
              </p>
            )}
            {(all ? data.inputs : data.inputs.slice(0, FEW)).map((input) => (
              <Control
                key={input.column}
                input={input}
                isNumber={isNumber}
                onChange={(value) => change(input.column, value, input.before)}
              />
            ))}
            <p className="small above-4">
              {data.inputs.length > FEW && (
                <button type="button" className="link" onClick={() => setAll(!all)}>
                  {all ? 'Only what matters most' : `Free all ${data.inputs.length} columns`}
                </button>
              )}{' '}
              {changed > 0 && (
                <button
                  type="button"
                  className="link"
                  onClick={() =>
                    setKept([...kept, { name: String.fromCharCode(97 + (kept.length % 26)), changes, answer: data.after }].slice(-5))
                  }
                >
                  Keep this version
                </button>
              )}
            </p>
            {kept.length > 0 && (
              <table className="ledger above-6" aria-label="Versions kept">
                <thead>
                  <tr>
                    <th style={{ width: 30 }} />
                    <th>Changes</th>
                    <th className="n" style={{ width: 84 }}>
                      Answer
                    </th>
                    <th className="n" style={{ width: 70 }}>
                      Likeness
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {kept.map((v) => (
                    <tr key={v.name + JSON.stringify(v.changes)}>
                      <td>
                        <button
                          type="button"
                          className="link"
                          aria-label={`Take version ${v.name} up`}
                          onClick={() => setChanges(v.changes)}
                        >
                          {v.name}
                        </button>
                      </td>
                      <td className="clipped">{told(v.changes)}</td>
                      <td className="n">{v.answer.class ?? said(v.answer.value)}</td>
                      <td className="n">{whole(100 * v.answer.likeness)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
          </>
        )}
      </section>
      <section className="pad" style={{ flex: '1 1 500px', borderLeft: '1px solid var(--rule)', minWidth: 0 }} aria-label="Reach">
        {data && <ReachPanel source={source} record={record} reasons={reasons} imagined={data} changes={changes} onTake={setChanges} />}
      </section>
    </div>
  )
}

export function told(changes: Changes): string {
  return Object.entries(changes)
    .map(([column, value]) => `${column} ${value ?? 'missing'}`)
    .join(', ')
}

/** The answer as it came and with the changes, on one scale. */
function Answers({ data, isNumber, changed }: { data: Imagined; isNumber: boolean; changed: boolean }) {
  const ys = data.inputs.flatMap((i) => [...i.now, ...i.then]).filter((v): v is number => v != null)
  const scale: [number, number] = isNumber ? [Math.min(...ys, data.before.value ?? 0), Math.max(...ys, data.after.value ?? 1)] : [0, 1]
  const line = (name: string, a: Imagined['after'], tone: 'soft' | 'verdigris') => {
    const sure = a.sure?.share ?? a.sure?.most
    return (
      <div style={{ display: 'flex', alignItems: 'center', gap: 8 }}>
        <span className="small soft" style={{ width: 92 }}>
          {name}
        </span>
        <IntervalMark value={a.value} low={sure?.low} high={sure?.high} scale={scale} width={220} height={20} tone={tone} />
        <span className="size-13">
          <b>
            {a.class != null && `${a.class}, `}
            {isNumber ? number(a.value) : share(a.value)}
          </b>
          {a.sure?.classes && <span className="soft"> of {a.sure.classes.join(', ')}</span>}
          {a.why != null && <span className="cinn"> {a.why}</span>}
        </span>
      </div>
    )
  }
  return (
    <div className="above-4" role="status">
      {line('as it came', data.before, 'soft')}
      {changed && line('with changes', data.after, 'verdigris')}
    </div>
  )
}
