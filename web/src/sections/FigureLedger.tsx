import { Tooltip } from '@mui/material'
import { count, cutoffSaid, fixed, share, withInterval } from '../ui/format'
import { figure } from '../ui/measure'
import { IntervalMark } from '../ui/IntervalMark'
import { atCutoff, type CutoffFigures, figureOf, type Interval, type Judgment, type SectionOf } from '../data/judgment'

type Line = {
  name: string
  says: string
  interval: Interval
  baseline: number | null | undefined
  sealed: number | null | undefined
  percent: boolean
}

/** Every figure with its interval, beside what doing nothing scores; the sealed rows stand beside it once opened. */
export function FigureLedger({ section, judgment, at }: { section: SectionOf<'event'>; judgment: Judgment; at: CutoffFigures }) {
  const { figures, nothing } = section
  const { trial } = judgment
  const sealed = judgment.sealed != null
  const sealedAt = atCutoff(section.sealedCutoffs, at.cutoff)
  const told = (more: boolean) =>
    figures
      .filter((f) => f.figure.more === more)
      .map((f): Line => ({
        name: f.figure.name,
        says: f.says,
        interval: f.interval,
        baseline: f.baseline,
        sealed: f.sealed?.value,
        percent: f.figure.inShare,
      }))
  const line = (
    name: string,
    says: string,
    interval: Interval,
    baseline: number | undefined,
    seen: Interval | undefined,
    percent = true,
  ): Line => ({
    name,
    says,
    interval,
    baseline,
    sealed: seen?.value,
    percent,
  })
  const atCut: Line[] = [
    line('Caught, recall', 'Of the records with the event, the share that is called.', at.recall, nothing.recall, sealedAt?.recall),
    line('Right, if called', 'Precision: of the called, the share with the event.', at.precision, nothing.precision, sealedAt?.precision),
    line('Accuracy', 'The share judged right, called or not.', at.accuracy, nothing.accuracy, sealedAt?.accuracy),
    line('F1', 'One figure for both: the harmonic mean of recall and precision.', at.f1, undefined, sealedAt?.f1, false),
  ]
  const ranking = figureOf(figures, trial.measure.key)
  const accuracyMisleads = nothing.accuracy > 0.75
  const group = (title: string | null, lines: Line[]) => (
    <>
      {title && (
        <tr>
          <td colSpan={4} className="soft small" style={{ paddingTop: 8 }}>
            {title}
          </td>
        </tr>
      )}
      {lines.map(({ name, says, interval: i, baseline, sealed: seen, percent }) => (
        <tr key={name}>
          <td>
            <Tooltip title={says} describeChild>
              <span tabIndex={0}>{name}</span>
            </Tooltip>
          </td>
          <td className="n">
            <b>
              {percent && i?.value != null
                ? `${share(i.value)} ± ${(100 * Math.max((i.high ?? 0) - i.value, i.value - (i.low ?? 0))).toFixed(1)}`
                : withInterval(i?.value, i?.low, i?.high)}
            </b>
          </td>
          {!sealed && (
            <td className="mark">
              <IntervalMark
                value={i?.value}
                low={i?.low}
                high={i?.high}
                scale={[0, 1]}
                width={44}
                tone="verdigris"
                reference={baseline ?? undefined}
              />
            </td>
          )}
          <td className="n brass">{percent ? share(baseline) : fixed(baseline)}</td>
          {sealed && <td className="n">{percent ? share(seen) : fixed(seen)}</td>}
        </tr>
      ))}
    </>
  )
  return (
    <>
      <h2 className="fig-title">{accuracyMisleads ? 'Accuracy is the wrong figure here' : 'Beside doing nothing'}</h2>
      <p className="fig-sub">
        {accuracyMisleads
          ? `Calling nobody is ${share(nothing.accuracy)} accurate and catches none.`
          : `Calling the larger class is right in ${share(nothing.accuracy)}.`}
        {sealed && ` Sealed rows seen, opening ${judgment.sealed?.opening}.`}
      </p>
      <table className="ledger" aria-label="Figures">
        <thead>
          <tr>
            <th>Figure</th>
            <th className="n" style={{ width: 118 }}>
              Validation, 95%
            </th>
            {!sealed && (
              <th className="mark" style={{ width: 46 }}>
                <span className="sr">Interval from 0 to 1</span>
              </th>
            )}
            <th className="n" style={{ width: 56 }}>
              Nothing
            </th>
            {sealed && (
              <th className="n" style={{ width: 56 }}>
                Sealed
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {group(null, told(true))}
          {group(`At the cut-off of ${cutoffSaid(at.cutoff)}`, atCut)}
          {group('The chances themselves, lower is better', told(false))}
        </tbody>
      </table>
      <p className="soft small above-6">
        AUC, precision over recall and the chances are{' '}
        {trial.pooled ? 'of all folds together, since some hold fewer than five events' : `means of ${trial.each.length} folds`}; counts at
        a cut-off are of the first repeat. On its own training rows {trial.measure.name} is {figure(trial.measure, trial.training)}.
        {section.unanswered > 0 && ` ${count(section.unanswered, 'row')} without an answer count in AUC with the average chance.`}
        {ranking?.interval.value != null && ranking.interval.low == null && ' So few events, or groups, give no interval.'}
      </p>
    </>
  )
}
