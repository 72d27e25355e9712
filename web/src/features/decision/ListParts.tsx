import { type Decision, type ListRow, money, TIERS } from '../../data/list'
import { cutoffSaid, fixed, share, whole } from '../../ui/format'
import { IntervalMark } from '../../ui/IntervalMark'

/** The outcome in a sentence. */
export function Says({ decision: d }: { decision: Decision }) {
  const { unit } = d.terms
  if (d.acted.actions === 0) return <b>With these amounts no action is expected to pay.</b>
  return (
    <>
      <b>
        {whole(d.acted.actions)} of {whole(d.scored)} are acted on:
      </b>{' '}
      {d.task === 'several classes' ? (
        <>expected to bring {money(d.acted.return, unit)} more than doing nothing.</>
      ) : (
        <>
          expected to prevent {fixed(d.acted.prevented, 1)} events{d.task === 'number' && ` (${d.event})`} and to bring{' '}
          {money(d.acted.return, unit)} after {money(d.acted.cost, unit)} of cost
          {d.drawn && (
            <>
              , in 90 of 100 cases {money(d.drawn.low, unit)} to {money(d.drawn.high, unit)}
              {d.drawn.loss >= 0.005 && `; a loss in ${share(d.drawn.loss, 0)}`}
            </>
          )}
          .
        </>
      )}
    </>
  )
}

export function columnsOf(d: Decision, names: string[]) {
  const several = d.task === 'several classes'
  const { unit } = d.terms
  return [
    ...names.map((name, i) => ({
      key: name,
      title: name,
      width: 96,
      gives: i === 0 ? undefined : 2 + names.length - i,
      cell: (r: ListRow) => <span title={r.cells[i] ?? ''}>{r.cells[i] ?? '–'}</span>,
    })),
    ...(several
      ? [{ key: 'action', title: 'Do', width: 120, cell: (r: ListRow) => <b>{r.action ?? '–'}</b> }]
      : [
          { key: 'chance', title: 'Chance', number: true, width: 62, cell: (r: ListRow) => share(r.chance, 0) },
          {
            key: 'mark',
            title: '',
            width: 66,
            gives: 1,
            said: () => false,
            className: 'mark',
            cell: (r: ListRow) => (
              <IntervalMark value={r.chance} scale={[0, 1]} width={62} tone={r.place != null ? 'verdigris' : r.left ? 'brass' : 'soft'} />
            ),
          },
          {
            key: 'value',
            title: 'At stake',
            number: true,
            width: 72,
            gives: 3,
            cell: (r: ListRow) => money(r.value, unit),
          },
        ]),
    { key: 'return', title: 'Return', number: true, width: 74, cell: (r: ListRow) => <b>{money(r.return, unit)}</b> },
    ...(several
      ? []
      : [{ key: 'tier', title: 'Tier', width: 40, cell: (r: ListRow) => <b>{r.rank == null ? '–' : TIERS[r.rank - 1]}</b> }]),
    {
      key: 'because',
      title: 'Because',
      least: 200,
      cell: (r: ListRow) => (
        <span title={r.because} className={r.left ? 'brass' : ''}>
          {r.left ? 'left untouched by draw' : r.because}
        </span>
      ),
    },
  ]
}

/** What the list can bear, and what a plain cut-off or no list would bring. */
export function Bears({ decision: d }: { decision: Decision }) {
  const { unit } = d.terms
  const n = d.all.actions
  const plain = d.cutOff?.figures
  return (
    <div className="size-13 above-8">
      {d.costBorne != null && d.worksBorne != null && (
        <p>
          The list returns nothing when an action costs {money(d.costBorne, unit)}, or works in {share(d.worksBorne)} of cases.
        </p>
      )}
      {d.cutOff && (
        <p>
          A plain cut-off at {cutoffSaid(Number(d.cutOff.chance.toPrecision(4)))} would act on {whole(plain?.actions)} and bring{' '}
          {money(plain?.return, unit)}: right in {share(d.cutOff.precision, 0)} of them, catching {share(d.cutOff.recall, 0)} of events.
        </p>
      )}
      {n > 0 && (
        <p>
          As many drawn by chance would bring {money((d.all.return * d.acted.actions) / n, unit)}. With no list {money(d.none, unit)} are
          expected to be lost.
        </p>
      )}
    </div>
  )
}

/** The comparison group: what effect it could show, and measuring it. */
export function Untouched({ decision: d, onMeasure, onTerms }: { decision: Decision; onMeasure: () => void; onTerms: () => void }) {
  if (d.left === 0)
    return (
      <p className="soft size-13 above-8">
        Nobody is left untouched, so that the effect cannot be measured later.{' '}
        <button type="button" className="link" onClick={onTerms}>
          Leave a part untouched…
        </button>
      </p>
    )
  const tooMuch = (d.visible ?? 0) > d.terms.worksHigh ? ': more than is assumed here' : ''
  return (
    <p className="size-13 above-8">
      {whole(d.left)} are left untouched by draw.{' '}
      {d.task !== 'several classes' &&
        (d.visible == null
          ? 'They are too few to show any effect.'
          : `They would show an effect from ${share(d.visible, 0)} of events prevented on, in 4 of 5 such lists${tooMuch}.`)}{' '}
      <button type="button" className="link" onClick={onMeasure}>
        Measure the effect…
      </button>
    </p>
  )
}

/** Of several classes: which action how many get. */
export function Actions({ decision: d }: { decision: Decision }) {
  return (
    <section className="pad">
      <table className="ledger" aria-label="What is done">
        <thead>
          <tr>
            <th>Action</th>
            <th className="n">Records</th>
            <th className="n">Return</th>
          </tr>
        </thead>
        <tbody>
          {d.actions.map((a) => (
            <tr key={a.name}>
              <td>
                <b>{a.name}</b>
              </td>
              <td className="n">{whole(a.records)}</td>
              <td className="n">{money(a.return, d.terms.unit)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
