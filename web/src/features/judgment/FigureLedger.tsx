import { Tooltip } from '@mui/material'
import { count, fixed, share, withInterval } from '../../ui/format'
import { IntervalMark } from '../../ui/IntervalMark'
import type { CutoffFigures, Interval, Judgment } from '../../data/judgment'
import { interval } from './curves'

type Line = [string, string, Interval | null | undefined, number | undefined, boolean]

/** Every figure with its interval, beside what doing nothing scores; the sealed rows stand beside it once opened. */
export function FigureLedger({ judgment, at }: { judgment: Judgment; at: CutoffFigures }) {
  const { figures, sealed } = judgment
  const base = figures.baseline
  const sealedAt = sealed?.cutoffs?.[Math.round(100 * at.cutoff)]
  const always: Line[] = [
    ['AUC', 'How often a record with the event gets the higher chance of a pair.', figures.auc, base?.auc, false],
    [
      'Prec./recall',
      'Average precision: how right calls are, over all shares caught.',
      interval(figures.averagePrecision),
      figures.baseRate,
      false,
    ],
    ['KS', 'The greatest distance between the shares called of both.', interval(figures.ks), 0, false],
  ]
  const atCut: Line[] = [
    ['Caught, recall', 'Of the records with the event, the share that is called.', at.recall, base?.recall, true],
    ['Right, if called', 'Precision: of the called, the share with the event.', at.precision, base?.precision, true],
    ['Accuracy', 'The share judged right, called or not.', at.accuracy, base?.accuracy, true],
    ['F1', 'One figure for both: the harmonic mean of recall and precision.', at.f1, undefined, false],
  ]
  const chances: Line[] = [
    ['Log loss', 'How surprised the chances are by what happened; lower is better.', figures.logLoss, base?.logLoss, false],
    ['Brier', 'Mean squared distance of chance and outcome; lower is better.', figures.brier, base?.brier, false],
  ]
  const seen: Record<string, number | null | undefined> = {
    AUC: sealed?.auc?.value,
    'Prec./recall': interval(sealed?.averagePrecision).value,
    KS: interval(sealed?.ks).value,
    'Caught, recall': sealedAt?.recall.value,
    'Right, if called': sealedAt?.precision.value,
    Accuracy: sealedAt?.accuracy.value,
    F1: sealedAt?.f1.value,
    'Log loss': sealed?.logLoss?.value,
    Brier: sealed?.brier?.value,
  }
  const accuracyMisleads = (base?.accuracy ?? 0) > 0.75
  const group = (title: string | null, lines: Line[]) => (
    <>
      {title && (
        <tr>
          <td colSpan={sealed ? 5 : 4} className="soft small" style={{ paddingTop: 8 }}>
            {title}
          </td>
        </tr>
      )}
      {lines.map(([name, plain, i, baseline, percent]) => (
        <tr key={name}>
          <td>
            <Tooltip title={plain} describeChild>
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
          <td className="mark">
            <IntervalMark value={i?.value} low={i?.low} high={i?.high} scale={[0, 1]} width={44} tone="verdigris" reference={baseline} />
          </td>
          <td className="n brass">{percent ? share(baseline) : fixed(baseline)}</td>
          {sealed && <td className="n">{percent ? share(seen[name]) : fixed(seen[name])}</td>}
        </tr>
      ))}
    </>
  )
  return (
    <>
      <h2 className="fig-title">{accuracyMisleads ? 'Accuracy is the wrong figure here' : 'Beside doing nothing'}</h2>
      <p className="fig-sub">
        {accuracyMisleads
          ? `Calling nobody is ${share(base?.accuracy)} accurate and catches none.`
          : `Calling the larger class is right in ${share(base?.accuracy)}.`}
        {sealed && ` Sealed rows seen, opening ${sealed.opening ?? 1}.`}
      </p>
      <table className="ledger" aria-label="Figures">
        <thead>
          <tr>
            <th>Figure</th>
            <th className="n" style={{ width: 118 }}>
              Validation, 95%
            </th>
            <th className="mark" style={{ width: 46 }}>
              <span className="sr">Interval from 0 to 1</span>
            </th>
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
          {group(null, always)}
          {group(`At the cut-off of ${share(at.cutoff, 0)}`, atCut)}
          {group('The chances themselves, lower is better', chances)}
        </tbody>
      </table>
      <p className="soft small" style={{ marginTop: 6 }}>
        AUC, precision over recall and the chances are{' '}
        {figures.folds?.pooled
          ? 'of all folds together, since some hold fewer than five events'
          : `means of ${figures.folds?.each?.length ?? 0} folds`}
        ; counts at a cut-off are of the first repeat. On its own training rows AUC is {fixed(figures.folds?.training)}.
        {figures.unanswered > 0 && ` ${count(figures.unanswered, 'row')} without an answer count in AUC with the average chance.`}
        {figures.auc?.value != null && figures.auc.low == null && ' So few events, or groups, give no interval.'}
      </p>
    </>
  )
}
