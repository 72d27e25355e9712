import { useState } from 'react'
import { type MatterLine, type Matters, useShuffle, useShuffled } from '../../data/reasons'
import { about, count, number, share } from '../../ui/format'
import { IntervalMark } from '../../ui/IntervalMark'
import { figure } from '../../ui/measure'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'

const TIMES = ['1', '3', '5', '10', '20']

/** What each column matters, three ways; the figure that shuffling is weighed by, and how often, can be changed. */
export function ColumnsOf({ data, selected, onSelect }: { data: Matters; selected: string | null; onSelect: (column: string) => void }) {
  const { measure: own } = data.trial
  const [by, setBy] = useState(own.key)
  const [times, setTimes] = useState('1')
  const shuffled = useShuffled(data.trial.id, by, Number(times))
  const shuffle = useShuffle(data.trial.id, by, Number(times))
  const told = shuffled.data?.pending === false ? shuffled.data : undefined
  const usual = by === own.key && times === '1'
  const other = usual ? undefined : told
  const measure = shuffled.data?.measure ?? own
  const lines: MatterLine[] = other
    ? data.columns.map((l) => {
        const lost = other.columns.find((c) => c.column === l.column)
        return { ...l, lost: lost?.value ?? null, low: lost?.low ?? null, high: lost?.high ?? null }
      })
    : data.columns
  const isNumber = data.trial.task === 'number'
  const groups = told?.groups ?? []
  const reach = Math.max(1e-9, ...lines.map((l) => l.high ?? l.lost ?? 0), ...groups.map((g) => g.high ?? g.value ?? 0))
  // Each as a share of its own sum, beside its own unit.
  const sum = (of: (l: MatterLine) => number) =>
    Math.max(
      1e-12,
      lines.reduce((s, l) => s + Math.max(0, of(l)), 0),
    )
  const [allLost, allMoves] = [sum((l) => l.lost ?? 0), sum((l) => l.moves / (1 + l.with.length))]
  const clear = (l: MatterLine) => (l.low ?? 0) > 0
  const carry = other ? lines.filter(clear).length : data.carry
  const inModel = lines.some((l) => l.inModel != null)
  return (
    <>
      <h2 className="fig-title">
        {carry} of {count(lines.length, 'column')} {carry === 1 ? 'carries' : 'carry'} it
        {lines.length > carry ? `; ${lines.length - carry} could go` : ''}
      </h2>
      <p className="fig-sub">
        Lost:{' '}
        <Slot
          label="Figure that is lost"
          value={by}
          choices={(shuffled.data?.figures ?? [own]).map((f) => ({ value: f.key, label: f.name }))}
          onChange={setBy}
        />{' '}
        when the column is shuffled{' '}
        <Slot
          label="How often"
          value={times}
          choices={TIMES.map((t) => ({ value: t, label: t === '1' ? 'once' : `${t} times` }))}
          onChange={setTimes}
        />{' '}
        on rows the judged models had not seen, 95%. Moves: mean size of its effect on single answers,{' '}
        {isNumber ? `in units of ${data.target}` : 'in points'}.{inModel && ' Own: share of the importance the model gives it.'}
      </p>
      {shuffled.data?.pending === true && (
        <p className="size-13 above-4">
          {shuffled.data.jobId != null || shuffle.isPending ? (
            <span role="status">Shuffling; the folds are fitted once more…</span>
          ) : (
            <button type="button" className="link" onClick={() => shuffle.mutate()}>
              {usual ? 'Shuffle those that go together as one' : `Shuffle by ${measure.name}, ${times === '1' ? 'once' : `${times} times`}`}
              {about(shuffled.data.seconds)}
            </button>
          )}
        </p>
      )}
      <Trouble known error={shuffled.error ?? shuffle.error} />
      <table className="ledger" aria-label="What each column matters">
        <thead>
          <tr>
            <th>Column</th>
            <th className="n" style={{ width: 54 }}>
              Lost
            </th>
            <th className="mark" style={{ width: 62 }}>
              <span className="sr">Interval, drawn</span>
            </th>
            <th className="n" style={{ width: 50 }}>
              Moves
            </th>
            {inModel && (
              <th className="n" style={{ width: 44 }} title="Share of the model’s own importance">
                Own
              </th>
            )}
            <th style={{ width: 96 }}>{isNumber ? 'It goes' : 'Chance goes'}</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((l) => (
            <tr key={l.column} className={selected === l.column ? 'sel' : clear(l) ? '' : 'aside'}>
              <td className="nm clipped">
                <button
                  type="button"
                  className="link"
                  aria-pressed={selected === l.column}
                  title={l.column}
                  onClick={() => onSelect(l.column)}
                >
                  {l.column}
                </button>
              </td>
              <td className="n" title={l.lost == null ? undefined : `${share(Math.max(0, l.lost) / allLost, 0)} of all that is lost`}>
                {l.lost == null ? '–' : figure(measure, l.lost)}
              </td>
              <td className="mark">
                <LostMark value={l.lost} low={l.low} high={l.high} reach={reach} />
              </td>
              <td
                className="n"
                title={`${share(l.moves / allMoves, 0)} of all that is moved${l.with.length > 0 ? `, together with ${l.with.join(', ')}` : ''}`}
              >
                {isNumber ? number(l.moves, 3) : (100 * l.moves).toFixed(1)}
              </td>
              {inModel && <td className="n">{share(l.inModel, 0)}</td>}
              <td className="small clipped" title={l.goes}>
                {l.goes}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {told !== undefined && groups.length === 0 && (
        <p className="small soft above-4">No two of these columns go together strongly enough (0.50) to share what they carry.</p>
      )}
      {groups.length > 0 && (
        <table className="ledger above-8" aria-label="Columns that go together">
          <thead>
            <tr>
              <th>Go together, shuffled as one</th>
              <th className="n" style={{ width: 54 }}>
                Lost
              </th>
              <th className="mark" style={{ width: 62 }}>
                <span className="sr">Interval, drawn</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {groups.map((g) => (
              <tr key={g.columns.join()}>
                <td className="nm clipped" title={g.columns.join(', ')}>
                  {g.columns.join(', ')}
                </td>
                <td className="n">{figure(measure, g.value)}</td>
                <td className="mark">
                  <LostMark value={g.value} low={g.low} high={g.high} reach={reach} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  )
}

type Lost = { value?: number | null; low?: number | null; high?: number | null }

/** What is lost with its interval; green where it is clear of nothing. */
function LostMark({ value, low, high, reach }: Lost & { reach: number }) {
  return (
    <IntervalMark
      value={value}
      low={low}
      high={high}
      scale={[-reach / 4, reach]}
      width={58}
      reference={0}
      tone={(low ?? 0) > 0 ? 'verdigris' : 'soft'}
    />
  )
}
