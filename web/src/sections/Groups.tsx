import { useEffect, useState } from 'react'
import { useAddress } from '../ui/address'
import { number, share, whole } from '../ui/format'
import { IntervalMark } from '../ui/IntervalMark'
import { type Figure, figure, figured, IN_UNITS } from '../ui/measure'
import { Slot } from '../ui/Slot'
import { Loading, Trouble } from '../ui/Trouble'
import type { View } from '../api/client'
import { type Judgment, useGroups } from '../data/judgment'

type Group = View<'GroupView'>

/** For whom a trial is right and for whom wrong: its figure within each group of a column. */
export function Groups({ judgment, cutoff }: { judgment: Judgment; cutoff: number }) {
  const [params, set] = useAddress()
  const groups = useGroups(judgment.trial.id, params.get('by') ?? '', useSettled(cutoff))
  const data = groups.data
  const { task } = judgment.trial
  const event = task === 'two classes'
  const known = data?.groups.filter((g) => g.measured.value != null) ?? []
  const ends = known.flatMap((g) => [g.measured.low ?? g.measured.value!, g.measured.high ?? g.measured.value!])
  const least = Math.min(...ends, data?.all.measured.value ?? 1)
  const scale: [number, number] = [least, Math.max(...ends, data?.all.measured.value ?? 0, least + 1e-6)]
  const isWorse = (g: Group) => data?.worse.includes(g.name) ?? false
  return (
    <>
      <h2 className="fig-title">{data ? title(data.groups.filter(isWorse), data.groups.length) : 'By group'}</h2>
      {data && (
        <p className="fig-sub">
          By{' '}
          <Slot label="Column" value={data.by} choices={data.columns.map((c) => ({ value: c, label: c }))} onChange={(by) => set({ by })} />
          , {data.measure.name} within each group, on rows it had not seen.
          {data.within != null && ` Each is held against the mean within groups, ${figure(data.measure, data.within)}.`}
        </p>
      )}
      {groups.isPending && <Loading what="the groups" />}
      <Trouble known error={groups.error} onRetry={() => void groups.refetch()} />
      {data && (
        <table className="ledger" aria-label={`Figures by ${data.by}`}>
          <thead>
            <tr>
              <th>Group</th>
              <th className="n" style={{ width: 60 }}>
                Rows
              </th>
              {task !== 'several classes' && (
                <th className="n" style={{ width: 58 }}>
                  {event ? 'With' : 'Mean'}
                </th>
              )}
              <th className="n" style={{ width: 60 }}>
                {data.measure.name}
              </th>
              <th className="mark" style={{ width: 84 }}>
                <span className="sr">
                  Interval from {figure(data.measure, scale[0])} to {figure(data.measure, scale[1])}
                </span>
              </th>
              <th className="n" style={{ width: event ? 58 : 96 }}>
                {event ? 'Caught' : task === 'number' ? 'Said high by' : 'Named right'}
              </th>
            </tr>
          </thead>
          <tbody>
            {data.groups.map((g) => (
              <tr key={g.name} className={isWorse(g) ? 'sel' : ''}>
                <Cells group={g} measure={data.measure} task={task} scale={scale} average={data.within} worse={isWorse(g)} />
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr>
              <Cells group={data.all} measure={data.measure} task={task} scale={scale} average={data.all.measured.value} worse={false} />
            </tr>
          </tfoot>
        </table>
      )}
    </>
  )
}

/** A value that has stopped moving: a cut-off that is dragged asks once. */
function useSettled(value: number): number {
  const [settled, setSettled] = useState(value)
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), 250)
    return () => clearTimeout(timer)
  }, [value])
  return settled
}

function title(worse: Group[], of: number): string {
  if (worse.length === 0) return 'No group is judged worse beyond noise'
  return worse.length === 1 ? `“${worse[0]!.name}” is judged worst` : `${worse.length} of ${of} groups are judged worse than the others`
}

function Cells({
  group: g,
  measure,
  task,
  scale,
  average,
  worse,
}: {
  group: Group
  measure: Figure
  task: string
  scale: [number, number]
  average: number | null | undefined
  worse: boolean
}) {
  const event = task === 'two classes'
  return (
    <>
      <td className="nm" title={g.name}>
        {g.name}
      </td>
      <td className="n">{whole(g.rows)}</td>
      {task !== 'several classes' && <td className="n">{event ? share(g.rate.value) : number(g.rate.value, 3)}</td>}
      <td className="n" title={g.measured.value == null ? 'Too few rows with or without the event' : undefined}>
        <b>{figure(measure, g.measured.value)}</b>
      </td>
      <td className="mark">
        <IntervalMark
          value={g.measured.value}
          low={g.measured.low}
          high={g.measured.high}
          scale={scale}
          width={80}
          tone={worse ? 'brass' : 'ink'}
          {...(average == null ? {} : { reference: average })}
        />
      </td>
      <td className="n">{task === 'number' ? figured(IN_UNITS, g.off ?? {}) : share(g.caught.value, 0)}</td>
    </>
  )
}
