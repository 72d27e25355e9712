import type { Search, Try } from '../../data/search'
import { useLearners } from '../../data/trial'
import { figure, figured, scaleOf } from '../../ui/measure'
import { number } from '../../ui/format'
import { IntervalMark } from '../../ui/IntervalMark'

const said = (v: unknown): string => (typeof v === 'boolean' ? (v ? 'yes' : 'no') : typeof v === 'number' ? number(v) : String(v ?? '–'))

/** The best tries with their settings; figures of tries are those while searching. */
export function Tries({ search: s }: { search: Search }) {
  const learners = useLearners()
  const several = new Set(s.best.map((t) => t.learner)).size > 1
  const variants = new Set(s.best.map((t) => t.variant)).size > 1
  const choices = new Set(s.best.map((t) => t.columns)).size > 1
  const varied = s.effects.map((e) => e.name).filter((n) => n !== 'variant' && n !== 'columns')
  const label = (name: string) => s.effects.find((e) => e.name === name)?.label ?? name
  const of = (t: Try) =>
    learners.data
      ?.find((l) => l.name === t.learner)
      ?.settings.filter((q) => q.name in t.settings)
      .map((q) => `${q.label.toLowerCase()} ${said(t.settings[q.name])}`)
      .join(', ')
  const all = s.best.flatMap((t) => [t.low, t.high, t.value]).filter((v): v is number => v != null)
  const scale: [number, number] = all.length > 0 ? [Math.min(...all), Math.max(...all)] : scaleOf(s.measure, null)
  const width = 150
  return (
    <>
      <h2 className="fig-title">{s.value != null ? 'The best looked better than it is' : 'The best so far'}</h2>
      <p className="fig-sub">
        {s.measure.name} while searching, with its 95% interval.{' '}
        {s.value != null && (
          <>
            With luck taken out the best is <b>{figured(s.measure, s)}</b>, drawn in green.
          </>
        )}
      </p>
      <table className="ledger" aria-label="Tries">
        <thead>
          <tr>
            <th className="n" style={{ width: 34 }}>
              <span className="sr">Place</span>
            </th>
            {several && <th>Learner</th>}
            {(several ? [] : varied).map((n) => (
              <th key={n} className="n" title={label(n)} style={{ maxWidth: 96 }}>
                {label(n)}
              </th>
            ))}
            {variants && <th>Preparation</th>}
            {choices && <th>Columns</th>}
            <th className="n" style={{ width: 92 }}>
              While searching
            </th>
            <th className="mark" style={{ width: width + 8 }}>
              <span className="sr">Interval, drawn</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {s.best.slice(0, 40).map((t, i) => (
            <tr key={t.place} className={i === 0 ? 'sel' : ''}>
              <td className="n soft">{i + 1}</td>
              {several && (
                <td className="clipped" title={of(t)}>
                  <b>{t.title}</b> <span className="soft">{of(t)}</span>
                </td>
              )}
              {(several ? [] : varied).map((n) => (
                <td key={n} className="n">
                  {said(t.settings[n])}
                </td>
              ))}
              {variants && <td>{t.variant}</td>}
              {choices && <td>{t.columns}</td>}
              <td className="n">{figure(s.measure, t.value)}</td>
              <td className="mark" style={{ position: 'relative' }}>
                <IntervalMark value={t.value} low={t.low} high={t.high} scale={scale} width={width} tone="brass" />
                {i === 0 && s.value != null && (
                  <span style={{ position: 'absolute', left: 0, top: 6 }}>
                    <IntervalMark value={s.value} low={s.low} high={s.high} scale={scale} width={width} tone="verdigris" />
                  </span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}
