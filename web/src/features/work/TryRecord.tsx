import { Button } from '@mui/material'
import { useState } from 'react'
import { useRecord, useTry, type Cell, type Service, type Tried } from '../../data/work'
import { useWritten } from '../../ui/useWritten'
import { Trouble } from '../../ui/Trouble'

/** A record asked of the service as a caller asks it, with the answer as it comes. */
export function TryRecord({ service }: { service: Service }) {
  const [record, setRecord] = useState<Record<string, Cell>>(service.example as Record<string, Cell>)
  const ask = useTry(service.id)
  const read = useRecord(service.id)
  const [number, setNumber] = useState('')
  const fill = () => Number(number) > 0 && read.mutate(Number(number), { onSuccess: (r) => setRecord(r) })
  const others = service.versions.filter((v) => v.state === 'rests').map((v) => v.number)
  const versions = service.version == null ? [] : [service.version]
  return (
    <>
      <section className="pad" style={{ flex: '1 1 300px' }}>
        <h2 className="fig-title">Try it with a record</h2>
        <p className="fig-sub">
          Filled from record{' '}
          <input
            aria-label="Number of the record"
            placeholder="a real one"
            value={number}
            inputMode="numeric"
            onChange={(e) => setNumber(e.target.value)}
            onKeyDown={(e) => e.key === 'Enter' && fill()}
            onBlur={fill}
            className="underlined"
            style={{ width: 72 }}
          />
          ; change any value.
        </p>
        <div style={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 16 }}>
          {service.fields.map((f) => (
            <Field
              key={f.name}
              name={f.name}
              kind={f.kind}
              values={f.values}
              value={record[f.name] ?? null}
              onChange={(v) => setRecord({ ...record, [f.name]: v })}
            />
          ))}
        </div>
        <p className="apart above-8">
          <Button disabled={versions.length === 0 || ask.isPending} onClick={() => ask.mutate({ record, versions })}>
            Ask version {service.version}
          </Button>{' '}
          {others[0] !== undefined && (
            <Button disabled={ask.isPending} onClick={() => ask.mutate({ record, versions: [...versions, others[0]!] })}>
              Ask {service.version} and {others[0]}
            </Button>
          )}{' '}
          {ask.data?.[0] && <span className="soft small">{ask.data[0].milliseconds} ms</span>}
        </p>
        <Trouble error={ask.error ?? read.error} />
      </section>
      <section className="pad" style={{ flex: '1 1 300px', borderLeft: '1px solid var(--rule)' }}>
        {ask.data ? ask.data.map((t) => <Said key={t.version} tried={t} />) : <p className="soft">Ask, and the answer stands here.</p>}
      </section>
      <section className="pad" style={{ flex: '1 1 300px', borderLeft: '1px solid var(--rule)', minWidth: 0 }}>
        <h2 className="fig-title">The same, as a caller gets it</h2>
        <pre className="small" style={{ overflow: 'auto', maxHeight: 230, margin: 0 }} tabIndex={0} aria-label="The answer in JSON">
          {ask.data?.[0] ? JSON.stringify(ask.data[0].answer, null, 1) : JSON.stringify(record, null, 1)}
        </pre>
      </section>
    </>
  )
}

type Line = { column: string; value: string | null; points: number }

function Said({ tried }: { tried: Tried }) {
  const a = tried.answer as Record<string, unknown>
  const number = (key: string) => (typeof a[key] === 'number' ? (a[key] as number) : null)
  const chance = number('chance')
  const hundred = (v: number | null) => (v === null ? '–' : Math.round(100 * v))
  const lines = (Array.isArray(a.because) ? a.because : []) as Line[]
  const most = Math.max(...lines.map((l) => Math.abs(l.points)), 1e-9)
  return (
    <div className="below-8">
      <h2 className="fig-title">
        {typeof a.refused === 'string'
          ? `Version ${tried.version} refuses it`
          : chance !== null
            ? `Version ${tried.version}: ${a.call === true ? 'call' : 'leave'}`
            : `Version ${tried.version} answers`}
      </h2>
      {typeof a.refused === 'string' ? (
        <p className="brass">{a.refused}</p>
      ) : (
        <p className="sentence">
          {chance !== null ? (
            <>
              <b>{hundred(chance)} in 100</b>{' '}
              <span className="soft small">
                {hundred(number('chance_low'))} to {hundred(number('chance_high'))}
              </span>
            </>
          ) : typeof a.class === 'string' ? (
            <b>{a.class}</b>
          ) : (
            <b>{number('predicted')?.toPrecision(4)}</b>
          )}
          ; confidence <b>{String(a.confidence)}</b>.
        </p>
      )}
      {(Array.isArray(a.remarks) ? (a.remarks as string[]) : []).map((r) => (
        <p key={r} className="brass small">
          {r}
        </p>
      ))}
      {lines.length > 0 && (
        <table className="ledger" aria-label={`Reasons of version ${tried.version}`}>
          <tbody>
            {lines.map((l) => (
              <tr key={l.column}>
                <td className="clipped" title={`${l.column} is ${l.value ?? 'missing'}`}>
                  {l.column} is {l.value ?? 'missing'}
                </td>
                <td style={{ width: 90 }} aria-hidden="true">
                  <svg width="84" height="10">
                    <rect
                      x={l.points > 0 ? 42 : 42 - (42 * Math.abs(l.points)) / most}
                      y="1"
                      width={(42 * Math.abs(l.points)) / most}
                      height="8"
                      fill={l.points > 0 ? 'var(--brass)' : '#46648F'}
                    />
                    <path d="M42 0V10" stroke="var(--ink)" />
                  </svg>
                </td>
                <td className="n" style={{ width: 64 }}>
                  {l.points > 0 ? '+' : '\u2212'}
                  {Math.abs(l.points).toFixed(1)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  )
}

function Field({
  name,
  kind,
  values,
  value,
  onChange,
}: {
  name: string
  kind: string
  values: string[]
  value: Cell
  onChange: (value: Cell) => void
}) {
  const { text, write, done } = useWritten(value === null ? '' : String(value), (t) =>
    onChange(t.trim() === '' ? null : kind === 'number' && Number.isFinite(Number(t)) ? Number(t) : t),
  )
  return (
    <label className="small" style={{ display: 'flex', justifyContent: 'space-between', gap: 8, padding: '3px 0', minWidth: 0 }}>
      <span className="clipped soft" title={name}>
        {name}
      </span>
      <input
        value={text}
        list={values.length > 0 ? `values-${name}` : undefined}
        placeholder="missing"
        onChange={(e) => write(e.target.value)}
        onBlur={done}
        onKeyDown={(e) => e.key === 'Enter' && done()}
        className="underlined"
        style={{ width: '50%', flex: 'none', textAlign: 'right' }}
      />
      {values.length > 0 && (
        <datalist id={`values-${name}`}>
          {values.map((v) => (
            <option key={v} value={v} />
          ))}
        </datalist>
      )}
    </label>
  )
}
