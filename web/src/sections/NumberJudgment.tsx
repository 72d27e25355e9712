import { useMemo } from 'react'
import { Chart } from '../ui/Chart'
import { count, number, share, whole } from '../ui/format'
import { beside, figured } from '../ui/measure'
import { IntervalMark } from '../ui/IntervalMark'
import { tokens } from '../ui/theme'
import { useAddress } from '../ui/address'
import { figureOf, type Judgment, type SectionOf, useWorst } from '../data/judgment'
import { FigureTable } from './FigureTable'
import { InBand } from './Records'
import { Worst } from './Worst'

type Section = SectionOf<'number'>

/** Where it stands, in a sentence. */
export function NumberSentence({ section, judgment }: { section: Section; judgment: Judgment }) {
  const within = figureOf(section.figures, 'within50')
  const { trial } = judgment
  if (trial.value == null || within?.interval.value == null) return <>No row could be answered.</>
  return (
    <>
      <b>
        Half of the rows are predicted within {number(within.interval.value, 3)} of {judgment.target};
      </b>{' '}
      typical error {figured(trial.measure, trial)} against {number(trial.baseline, 3)} for the mean.{' '}
      {judgment.sealed ? 'The seal has been opened.' : 'The seal is closed.'}
    </>
  )
}

/** A number: what was said against what came, where it runs off, every figure, and the worst rows. */
export function NumberJudgment({ section, judgment, studyId }: { section: Section; judgment: Judgment; studyId: number }) {
  if (section.tenths.length === 0) return null
  return (
    <>
      <div className="parts-row">
        <section className="pad" style={{ flex: '1 1 320px' }}>
          <Said judgment={judgment} section={section} />
        </section>
        <section className="pad" style={{ flex: '1 1 290px', borderLeft: '1px solid var(--rule)' }}>
          <Off judgment={judgment} section={section} />
        </section>
        <section className="pad" style={{ flex: '1.1 1 360px', borderLeft: '1px solid var(--rule)' }}>
          <Ledger judgment={judgment} section={section} />
          <div style={{ marginTop: 14 }}>
            <Worst judgment={judgment} />
          </div>
        </section>
      </div>
      <Bands judgment={judgment} studyId={studyId} />
    </>
  )
}

/** How many rows are off by how much; each band opens its records. */
function Bands({ judgment, studyId }: { judgment: Judgment; studyId: number }) {
  const [params, set] = useAddress()
  const worst = useWorst(judgment.trial.id)
  const bands = worst.data?.bands ?? []
  const open = params.get('band')
  const band = open === null ? undefined : bands[Number(open)]
  if (bands.length === 0) return null
  const said = (b: (typeof bands)[number]) =>
    b.low == null
      ? `came ${number(Math.abs(b.high ?? 0))} or more under`
      : b.high == null
        ? `came ${number(b.low)} or more over`
        : b.low < 0 && b.high > 0
          ? `within ${number(b.high)}`
          : b.high <= 0
            ? `${number(-b.high)} to ${number(-b.low)} under`
            : `${number(b.low)} to ${number(b.high)} over`
  return (
    <>
      <section className="pad" aria-label="How far off">
        <h2 className="fig-title">How far off</h2>
        <p className="fig-sub">What came against what was predicted, in steps of the typical error. Each band opens its records.</p>
        <div
          role="group"
          aria-label="Bands of errors; each opens its records"
          className="cells"
          style={{ gridTemplateColumns: `repeat(${bands.length}, 1fr)`, marginTop: 6 }}
        >
          {bands.map((b, i) => (
            <button
              key={i}
              type="button"
              className={`cell ${b.low != null && b.high != null && b.low < 0 && b.high > 0 ? 'good' : 'bad'}`}
              aria-pressed={open === String(i)}
              style={open === String(i) ? { boxShadow: 'inset 4px 0 var(--ink)' } : undefined}
              onClick={() => set({ band: open === String(i) ? null : String(i) })}
            >
              <b>{whole(b.rows)}</b>
              {said(b)}
            </button>
          ))}
        </div>
      </section>
      {band && (
        <InBand
          trialId={judgment.trial.id}
          studyId={studyId}
          low={band.low ?? null}
          high={band.high ?? null}
          what={said(band)}
          onClose={() => set({ band: null })}
        />
      )}
    </>
  )
}

function Said({ judgment, section }: { judgment: Judgment; section: Section }) {
  const tenths = section.tenths
  const dots = section.dots
  const option = useMemo(() => {
    const line = (key: 'low' | 'middle' | 'high', name: string, dashed: boolean) => ({
      type: 'line',
      data: tenths.map((t) => [t.predicted, t[key]]),
      showSymbol: false,
      lineStyle: { width: dashed ? 1.3 : 2.2, type: dashed ? 'dashed' : 'solid', color: tokens.verdigris },
      endLabel: { show: true, formatter: name, color: tokens.verdigris, fontSize: 11, fontWeight: 600 },
      z: 3,
    })
    const ends = [Math.min(...tenths.map((t) => t.predicted)), Math.max(...tenths.map((t) => t.predicted))]
    return {
      grid: { left: 44, right: 62, top: 12, bottom: 40 },
      xAxis: { type: 'value', scale: true, name: `predicted ${judgment.target}`, nameLocation: 'middle', nameGap: 24 },
      yAxis: { type: 'value', scale: true },
      series: [
        { type: 'scatter', data: dots, symbolSize: 3.5, itemStyle: { color: '#B9AF9B', opacity: 0.75 }, silent: true, large: false },
        {
          type: 'line',
          data: ends.map((v) => [v, v]),
          showSymbol: false,
          silent: true,
          lineStyle: { width: 1, type: 'dashed', color: tokens.inkSoft },
        },
        line('high', '9 in 10', true),
        line('middle', 'middle', false),
        line('low', '1 in 10', true),
      ],
    }
  }, [tenths, dots, judgment.target])
  const last = tenths[tenths.length - 1]
  const over = last ? last.off : 0
  const title =
    Math.abs(over) < 0.05 * Math.abs(last?.predicted ?? 1)
      ? 'What was said is what came, on average'
      : over > 0
        ? 'The largest come higher than said'
        : 'The largest come lower than said'
  return (
    <Chart
      title={title}
      sub={`Actual ${judgment.target} by what was predicted; ${whole(dots.length)} of ${whole(section.rows - section.unanswered)} rows as dots`}
      option={option}
      height={300}
      name={`said-trial-${judgment.trial.number}`}
      data={{
        heads: ['predicted', '1 in 10 under', 'middle', '1 in 10 over', 'rows'],
        rows: tenths.map((t) => [number(t.predicted), number(t.low), number(t.middle), number(t.high), whole(t.rows)]),
      }}
      how={
        <>
          <p>
            Each dot is a row that the model had not seen: to the right what was predicted, upward what came. On the dashed diagonal both
            are the same.
          </p>
          <p>
            The solid line is the middle of what came in each tenth of the predictions, the broken lines hold eight of ten rows between
            them. Where the solid line leaves the diagonal, the model is off in one direction.
          </p>
        </>
      }
    />
  )
}

function Off({ judgment, section }: { judgment: Judgment; section: Section }) {
  const tenths = section.tenths
  const worst = tenths.reduce((w, t) => (Math.abs(t.off) > Math.abs(w.off) ? t : w), tenths[0]!)
  const option = useMemo(
    () => ({
      grid: { left: 44, right: 8, top: 12, bottom: 40 },
      xAxis: {
        type: 'category',
        data: tenths.map((t) => number(t.predicted, 2)),
        name: `predicted ${judgment.target}, mean of each tenth`,
        nameLocation: 'middle',
        nameGap: 24,
        axisLabel: { interval: 0, fontSize: 10 },
      },
      yAxis: { type: 'value' },
      series: [
        {
          type: 'custom',
          data: tenths.map((t, i) => [i, t.offLow, t.offQuarter, t.off, t.offThreeQuarters, t.offHigh]),
          encode: { x: 0, y: [1, 2, 3, 4, 5] },
          renderItem: (_: unknown, api: { value: (i: number) => number; coord: (p: [number, number]) => [number, number] }) => {
            const at = (k: number) => api.coord([api.value(0), api.value(k)])
            const [x, low] = at(1)
            const color = Math.abs(api.value(3)) > 0 && api.value(0) === tenths.indexOf(worst) ? tokens.brass : tokens.verdigris
            return {
              type: 'group',
              children: [
                { type: 'line', shape: { x1: x, y1: low, x2: x, y2: at(5)[1] }, style: { stroke: color, lineWidth: 1.2 } },
                {
                  type: 'rect',
                  shape: { x: x - 3.5, y: at(4)[1], width: 7, height: Math.max(1, at(2)[1] - at(4)[1]) },
                  style: { fill: color, opacity: 0.35 },
                },
                { type: 'circle', shape: { cx: x, cy: at(3)[1], r: 3.2 }, style: { fill: color } },
              ],
            }
          },
        },
      ],
    }),
    [tenths, worst, judgment.target],
  )
  const named = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'last'][tenths.indexOf(worst)]
  return (
    <Chart
      title={`The ${named} tenth runs ${number(Math.abs(worst.off), 2)} ${worst.off > 0 ? 'over' : 'under'}`}
      sub="Actual less predicted: mean, middle half, 90%"
      option={option}
      height={300}
      name={`off-trial-${judgment.trial.number}`}
      data={{
        heads: ['predicted', '5th hundredth', 'quarter', 'mean', 'three quarters', '95th hundredth'],
        rows: tenths.map((t) => [t.predicted, t.offLow, t.offQuarter, t.off, t.offThreeQuarters, t.offHigh].map((v) => number(v))),
      }}
      how={
        <p>
          The rows are cut into tenths by what was predicted. The dot is how far what came is off on average; it should lie at 0. The thick
          part holds the middle half of the rows, the thin line nine of ten. Bars that grow to one side mean that errors grow with the
          number itself.
        </p>
      }
    />
  )
}

function Ledger({ judgment, section }: { judgment: Judgment; section: Section }) {
  const sealed = judgment.sealed != null
  const { trial } = judgment
  // In units of the target: what all of them share, so that one scale shows them.
  const sized = section.figures.filter((f) => f.figure.inUnits && f.figure.more === false && (f.interval.low ?? 0) >= 0)
  const largest = 1.1 * Math.max(1e-9, ...sized.map((f) => Math.max(f.interval.value ?? 0, f.baseline ?? 0)))
  const gain = trial.value != null && trial.baseline != null && trial.baseline > 0 ? 1 - trial.value / trial.baseline : 0
  const training = trial.training
  const overfit = training != null && trial.low != null && training < 0.9 * trial.low
  return (
    <>
      <h2 className="fig-title">
        {overfit ? 'It fits its own rows better than new ones' : 'No overfit'},{' '}
        {gain > 0.02 ? `${Math.round(100 * gain)}% better than the mean` : 'no better than the mean'}
      </h2>
      <p className="fig-sub">
        {training != null && `${trial.measure.name} on its own training rows: ${number(training, 3)}. `}
        {section.governed != null &&
          `Half of all squared error comes from ${share(section.governed)} of the rows: a few errors govern RMSE and R squared; MAE is the steadier figure. `}
        {section.unanswered > 0 && `${count(section.unanswered, 'row')} without an answer count in ${trial.measure.name} with the mean. `}
        {sealed && `Sealed rows seen, opening ${judgment.sealed?.opening}.`}
      </p>
      <FigureTable
        nothing="Mean"
        sealed={sealed}
        lines={section.figures.map((f) => ({
          name: f.figure.name,
          plain: f.says,
          value: figured(f.figure, f.interval),
          mark: sized.includes(f) && (
            <IntervalMark
              value={f.interval.value}
              low={f.interval.low}
              high={f.interval.high}
              scale={[0, largest]}
              width={64}
              tone="verdigris"
              reference={f.baseline ?? undefined}
            />
          ),
          baseline: beside(f.figure, f.baseline, f.interval),
          sealed: beside(f.figure, f.sealed?.value, f.interval),
        }))}
      />
    </>
  )
}
