import { share, fixed, whole } from '../ui/format'
import { useAddress } from '../ui/address'
import { IntervalMark } from '../ui/IntervalMark'
import { figureOf, type Interval, type Judgment, type SectionOf } from '../data/judgment'
import { figure, figured } from '../ui/measure'
import { FigureTable } from './FigureTable'
import { TakenFor } from './Records'
import { Worst } from './Worst'

type Section = SectionOf<'classes'>

const shareWith = (i: Interval | undefined) =>
  i?.value == null ? '–' : `${share(i.value)} ± ${(100 * Math.max((i.high ?? i.value) - i.value, i.value - (i.low ?? i.value))).toFixed(1)}`

/** Where it stands, in a sentence. */
export function ClassSentence({ section, judgment }: { section: Section; judgment: Judgment }) {
  const accuracy = figureOf(section.figures, 'accuracy')
  if (accuracy?.interval.value == null) return <>No row could be answered.</>
  return (
    <>
      <b>
        It names the right one of {section.classes.length} classes in {share(accuracy.interval.value)} of {whole(section.rows)} rows it had
        not seen;
      </b>{' '}
      naming the largest class is right in {share(accuracy.baseline)}.{' '}
      {judgment.sealed ? 'The seal has been opened.' : 'The seal is closed.'}
    </>
  )
}

/** Several classes: what is taken for what, how each class fares, every figure, and the most surprising rows. */
export function ClassJudgment({ section, judgment, studyId }: { section: Section; judgment: Judgment; studyId: number }) {
  const [params, set] = useAddress()
  const [came, named] = [params.get('came'), params.get('named')]
  const isOpen = (a: string, b: string) => a === came && b === named
  const open = (a: string, b: string) => set(isOpen(a, b) ? { came: null, named: null } : { came: a, named: b })
  const { classes, confusion } = section
  if (classes.length === 0) return null
  const most = Math.max(...confusion.map((row) => Math.max(...row)), 1)
  const mixed = confusion
    .flatMap((row, i) => row.map((n, j) => ({ n, i, j })))
    .filter((c) => c.i !== c.j)
    .sort((a, b) => b.n - a.n)[0]
  const called = classes.filter((c) => c.called > 0)
  const weakest = [...classes].sort((a, b) => (a.recall.value ?? 0) - (b.recall.value ?? 0))[0]!
  return (
    <>
      <div style={{ display: 'flex', borderBottom: '1px solid var(--rule)', flexWrap: 'wrap' }}>
        <section className="pad" style={{ flex: '1 1 420px', minWidth: 0, overflow: 'auto' }}>
          <h2 className="fig-title">
            {called.length === 1
              ? `It never names anything but “${called[0]!.name}”`
              : mixed && mixed.n > 0
                ? `“${classes[mixed.i]!.name}” is taken for “${classes[mixed.j]!.name}” most often`
                : 'Nothing is mixed up'}
          </h2>
          <p className="fig-sub">Rows by the class that came, across the class that was named; a number opens its rows.</p>
          <table className="ledger close" aria-label="What is taken for what">
            <thead>
              <tr>
                <th style={{ width: 104 }}>Came</th>
                {classes.map((c) => (
                  <th key={c.name} className="n nm" title={c.name} style={{ maxWidth: 90 }}>
                    {c.name}
                  </th>
                ))}
                <th className="n">In all</th>
              </tr>
            </thead>
            <tbody>
              {classes.map((c, i) => (
                <tr key={c.name}>
                  <td className="nm" title={c.name}>
                    {c.name}
                  </td>
                  {classes.map((d, j) => {
                    const n = confusion[i]?.[j] ?? 0
                    const tone = i === j ? 'var(--verdigris)' : 'var(--cinnabar)'
                    return (
                      <td
                        key={d.name}
                        className="n"
                        style={{ background: `color-mix(in srgb, ${tone} ${Math.round((34 * n) / most)}%, transparent)` }}
                      >
                        <button
                          type="button"
                          className="figure"
                          title={`Open the ${whole(n)} rows of ${c.name} named ${d.name}`}
                          aria-label={`${whole(n)} rows of ${c.name} named ${d.name}`}
                          aria-pressed={isOpen(c.name, d.name)}
                          disabled={n === 0}
                          onClick={() => open(c.name, d.name)}
                        >
                          {i === j ? <b>{whole(n)}</b> : whole(n)}
                        </button>
                      </td>
                    )
                  })}
                  <td className="n soft">{whole(c.rows)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
        <section className="pad" style={{ flex: '1 1 420px', borderLeft: '1px solid var(--rule)', minWidth: 0, overflow: 'auto' }}>
          <h2 className="fig-title">
            Of “{weakest.name}” it finds {share(weakest.recall.value, (weakest.recall.value ?? 1) < 0.1 ? 1 : 0)}, the least
          </h2>
          <p className="fig-sub">Each class against all others, with 95% intervals.</p>
          <table className="ledger" aria-label="Classes">
            <thead>
              <tr>
                <th>Class</th>
                <th className="n" style={{ width: 104 }}>
                  Found, recall
                </th>
                <th className="mark" style={{ width: 46 }}>
                  <span className="sr">From 0 to 100%</span>
                </th>
                <th className="n" style={{ width: 104 }}>
                  Right, if named
                </th>
                <th className="n" style={{ width: 54 }}>
                  F1
                </th>
                <th className="n" style={{ width: 54 }}>
                  AUC
                </th>
              </tr>
            </thead>
            <tbody>
              {classes.map((c) => (
                <tr key={c.name}>
                  <td className="nm" title={c.name}>
                    {c.name}
                  </td>
                  <td className="n">
                    <b>{shareWith(c.recall)}</b>
                  </td>
                  <td className="mark">
                    <IntervalMark
                      value={c.recall.value}
                      low={c.recall.low}
                      high={c.recall.high}
                      scale={[0, 1]}
                      width={44}
                      tone="verdigris"
                    />
                  </td>
                  <td className="n">{c.called > 0 ? shareWith(c.precision) : 'never named'}</td>
                  <td className="n">{fixed(c.f1.value, 2)}</td>
                  <td className="n">{fixed(c.auc?.value)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      </div>
      {came !== null && named !== null && (
        <TakenFor
          trialId={judgment.trial.id}
          studyId={studyId}
          came={came}
          named={named}
          onClose={() => set({ came: null, named: null })}
        />
      )}
      <div className="parts-row">
        <section className="pad" style={{ flex: '1 1 420px', minWidth: 0 }}>
          <Ledger judgment={judgment} section={section} />
        </section>
        <section className="pad" style={{ flex: '1 1 420px', borderLeft: '1px solid var(--rule)', minWidth: 0 }}>
          <Worst judgment={judgment} />
        </section>
      </div>
    </>
  )
}

function Ledger({ judgment, section }: { judgment: Judgment; section: Section }) {
  const sealed = judgment.sealed != null
  const { trial } = judgment
  const beats = trial.high != null && trial.baseline != null && trial.high < trial.baseline
  return (
    <>
      <h2 className="fig-title">{beats ? 'Its chances beat doing nothing' : 'Its chances do not beat doing nothing'}</h2>
      <p className="fig-sub">
        {trial.measure.name} on its own training rows: {figure(trial.measure, trial.training)}.{' '}
        {sealed && `Sealed rows seen, opening ${judgment.sealed?.opening}.`}
      </p>
      <FigureTable
        lines={section.figures.map((f) => ({
          name: f.figure.name,
          plain: f.says,
          value: f.figure.inShare ? shareWith(f.interval) : figured(f.figure, f.interval),
          baseline: f.figure.inShare ? share(f.baseline) : figure(f.figure, f.baseline),
          sealed: f.figure.inShare ? share(f.sealed?.value) : figure(f.figure, f.sealed?.value),
        }))}
        nothing="Nothing"
        sealed={sealed}
      />
    </>
  )
}
