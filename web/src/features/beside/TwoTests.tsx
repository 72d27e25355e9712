import type { ReactNode } from 'react'
import { count, fixed, number, pValue, share, whole } from '../../ui/format'
import { IntervalMark } from '../../ui/IntervalMark'
import { figured } from '../../ui/measure'
import { Loading, Trouble } from '../../ui/Trouble'
import type { View } from '../../api/client'
import { type Interval, useAgainst } from '../../data/judgment'

type Compared = View<'AgainstView'>

/** Two trials on the rows that both had not seen: by folds, by ranking, row by row, and by what would be decided. */
export function TwoTests({ one, other, cutoff }: { one: number; other: number; cutoff: number }) {
  const against = useAgainst(one, other, cutoff)
  const data = against.data
  return (
    <section className="pad" aria-label="Tests of the two">
      {against.isPending && <Loading what="the tests" />}
      <Trouble known error={against.error} onRetry={() => void against.refetch()} />
      {data && (
        <>
          <h2 className="fig-title">{verdict(data)}</h2>
          <p className="fig-sub">
            Trial {data.one.number}, {data.one.title.toLowerCase()}, less trial {data.other.number}, {data.other.title.toLowerCase()}, on
            the {count(data.rows, 'row')} that both can answer for.
            {data.foldsAdjusted != null &&
              data.foldsP != null &&
              data.foldsAdjusted > data.foldsP &&
              ` Among all trials of the study a difference like this has p ${pValue(data.foldsAdjusted)}: that decides.`}
            {data.correlation != null && ` What they say goes together by ${fixed(data.correlation, 2)}.`}
          </p>
          <Lines data={data} />
        </>
      )}
    </section>
  )
}

/** What the Standings say of the two. */
function verdict(data: Compared): string {
  if (data.noise == null) return 'The two cannot be compared'
  if (data.noise || data.byFolds?.value == null) return 'The difference is within noise'
  return `Trial ${data.byFolds.value > 0 === data.measure.more ? data.one.number : data.other.number} is better, beyond noise`
}

function Lines({ data }: { data: Compared }) {
  const event = data.byRanking != null
  const said = (i: Interval) =>
    data.measure.inUnits ? figured(data.measure, i) : `${fixed(i.value)}${i.low == null ? '' : `, ${fixed(i.low)} to ${fixed(i.high)}`}`
  const lines: { name: string; plain: string; interval: Interval; p: number | null | undefined; more: boolean }[] = []
  if (data.byFolds)
    lines.push({
      name: `${data.measure.name}, fold by fold`,
      plain: 'Of the same folds, with what a fit on other rows would change; the interval holds for all pairs of trials at once.',
      interval: data.byFolds as Interval,
      p: data.foldsP,
      more: data.measure.more,
    })
  if (event)
    lines.push({
      name: 'AUC on the same rows',
      plain: 'DeLong’s test of both rankings of the same rows: it takes the models as given.',
      interval: data.byRanking as Interval,
      p: data.rankingP,
      more: true,
    })
  lines.push({
    name: `${data.loss === 'log loss' ? 'Log loss' : 'Absolute error'}, row by row`,
    plain: 'The mean difference of what both lose on a row; lower is better.',
    interval: data.byRows as Interval,
    p: undefined,
    more: false,
  })
  return (
    <div style={{ display: 'flex', gap: 32, flexWrap: 'wrap', alignItems: 'flex-start', marginTop: 4 }}>
      <table className="ledger" aria-label="Differences" style={{ flex: '2.2 1 480px' }}>
        <thead>
          <tr>
            <th>Difference of</th>
            <th className="n" style={{ width: 188 }}>
              Value, 95%
            </th>
            <th className="mark" style={{ width: 96 }}>
              <span className="sr">Around no difference</span>
            </th>
            <th className="n" style={{ width: 62 }}>
              p
            </th>
            <th style={{ width: 66 }}>Better</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((l) => {
            const reach = Math.max(
              Math.abs(l.interval.low ?? l.interval.value ?? 0),
              Math.abs(l.interval.high ?? l.interval.value ?? 0),
              1e-9,
            )
            const clear = l.name.endsWith('fold by fold')
              ? data.noise === false
              : l.interval.low != null && l.interval.high != null && (l.interval.low > 0 || l.interval.high < 0)
            return (
              <tr key={l.name}>
                <td title={l.plain}>{l.name}</td>
                <td className="n">{said(l.interval)}</td>
                <td className="mark">
                  <IntervalMark
                    value={l.interval.value}
                    low={l.interval.low}
                    high={l.interval.high}
                    scale={[-reach, reach]}
                    width={92}
                    reference={0}
                    tone={clear ? 'verdigris' : 'soft'}
                  />
                </td>
                <td className="n">{l.p === undefined ? '' : pValue(l.p)}</td>
                <td>{clear ? `Trial ${(l.interval.value ?? 0) > 0 === l.more ? data.one.number : data.other.number}` : 'noise'}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {data.bothRight != null && <Decisions data={data} />}
    </div>
  )
}

function Decisions({ data }: { data: Compared }) {
  const line = (name: ReactNode, n: number | null | undefined) => (
    <tr>
      <td>{name}</td>
      <td className="n">{whole(n)}</td>
      <td className="n">{share((n ?? 0) / Math.max(1, data.rows))}</td>
    </tr>
  )
  return (
    <table className="ledger" aria-label="Decisions of both" style={{ flex: '1 1 260px' }}>
      <thead>
        <tr>
          <th>{data.cutoff == null ? 'Class named' : `Called at ${share(data.cutoff, 0)}`}</th>
          <th className="n" style={{ width: 70 }}>
            Rows
          </th>
          <th className="n" style={{ width: 70 }}>
            Share
          </th>
        </tr>
      </thead>
      <tbody>
        {line('Both right', data.bothRight)}
        {line(`Only trial ${data.one.number} right`, data.onlyOne)}
        {line(`Only trial ${data.other.number} right`, data.onlyOther)}
        {line('Both wrong', data.bothWrong)}
      </tbody>
      <caption className="soft small" style={{ captionSide: 'bottom', textAlign: 'left', paddingTop: 4 }}>
        So lopsided a difference among {number((data.onlyOne ?? 0) + (data.onlyOther ?? 0))} rows comes by chance with p{' '}
        {pValue(data.decisionsP)} (McNemar, exact); the models are taken as given.
      </caption>
    </table>
  )
}
