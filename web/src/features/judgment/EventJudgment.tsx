import { Slider } from '@mui/material'
import { useMemo } from 'react'
import { useAddress } from '../../ui/address'
import { Chart } from '../../ui/Chart'
import { fixed, share, whole } from '../../ui/format'
import { tokens } from '../../ui/theme'
import type { Cell, CutoffFigures, Judgment } from './api'
import { Densities } from './Densities'
import { FigureLedger } from './FigureLedger'
import { Records } from './Records'

/** An event: what a cut-off catches, how chances rank, and every figure. */
export function EventJudgment({ judgment: data, at, studyId }: { judgment: Judgment; at: CutoffFigures; studyId: number }) {
  const [params, set] = useAddress()
  const cutoff = at.cutoff
  const cell = params.get('cell') as Cell | null
  const { figures } = data
  return (
    <>
      <div style={{ display: 'flex', borderBottom: '1px solid var(--ink)', flexWrap: 'wrap' }}>
        <section className="pad" style={{ flex: '1 1 300px' }}>
          <h2 className="fig-title">
            At {share(cutoff, 0)} it catches {whole(100 * (at.recall.value ?? 0))} of 100
          </h2>
          <p className="fig-sub">Validation rows by chance given: above with “{data.event}”, below without. Move the cut-off.</p>
          <Densities histogram={figures.histogram} cutoff={cutoff} />
          <Slider
            aria-label="Cut-off"
            value={Math.round(100 * cutoff)}
            min={1}
            max={99}
            step={1}
            valueLabelDisplay="auto"
            valueLabelFormat={(v) => `${v}%`}
            getAriaValueText={(v) => `${v} percent`}
            onChange={(_, v) => set({ cutoff: String(Number(v) / 100) })}
            sx={{ color: 'var(--brass)', mt: -1 }}
          />
          <Matrix at={at} event={data.event ?? ''} onCell={(c) => set({ cell: c === cell ? null : c })} open={cell} />
        </section>
        <section className="pad" style={{ flex: '1 1 300px', borderLeft: '1px solid var(--rule)' }}>
          <Roc judgment={data} at={at} />
        </section>
        <section className="pad" style={{ flex: '1.1 1 350px', borderLeft: '1px solid var(--rule)' }}>
          <FigureLedger judgment={data} at={at} />
        </section>
      </div>
      {cell && <Records trialId={data.trial.id} studyId={studyId} cell={cell} cutoff={cutoff} onClose={() => set({ cell: null })} />}
    </>
  )
}

function Matrix({ at, event, onCell, open }: { at: CutoffFigures; event: string; onCell: (cell: Cell) => void; open: Cell | null }) {
  const cells: [Cell, string, boolean][] = [
    ['tp', 'caught', true],
    ['fn', 'missed', false],
    ['fp', 'called in vain', false],
    ['tn', 'left alone', true],
  ]
  const button = ([cell, word, good]: (typeof cells)[number]) => (
    <button
      key={cell}
      type="button"
      className={`cell ${good ? 'good' : 'bad'}`}
      aria-pressed={open === cell}
      onClick={() => onCell(cell)}
      style={open === cell ? { boxShadow: 'inset 4px 0 var(--ink)' } : undefined}
    >
      <b>{whole(at[cell])}</b>
      {word}
    </button>
  )
  return (
    <div className="cells" role="group" aria-label="Confusion matrix; each cell opens its records">
      <span />
      <span className="soft small" style={{ padding: '0 10px' }}>
        called
      </span>
      <span className="soft small" style={{ padding: '0 10px' }}>
        not called
      </span>
      <span className="soft small sum" style={{ padding: 0 }}>
        in all
      </span>
      <span className="side">{event}</span>
      {cells.slice(0, 2).map(button)}
      <span className="sum">{whole(at.tp + at.fn)}</span>
      <span className="side">other</span>
      {cells.slice(2).map(button)}
      <span className="sum">{whole(at.fp + at.tn)}</span>
    </div>
  )
}

function Roc({ judgment, at }: { judgment: Judgment; at: CutoffFigures }) {
  const { figures } = judgment
  const roc = useMemo(() => figures.roc ?? [], [figures.roc])
  const here: [number, number] = [at.fp / Math.max(1, at.fp + at.tn), at.tp / Math.max(1, at.tp + at.fn)]
  const option = useMemo(
    () => ({
      grid: { left: 40, right: 14, top: 14, bottom: 40 },
      tooltip: { trigger: 'item', formatter: (p: { data: number[] }) => `${share(p.data[1])} caught, ${share(p.data[0])} called in vain` },
      xAxis: {
        type: 'value',
        min: 0,
        max: 1,
        name: 'called in vain, of all without the event',
        nameLocation: 'middle',
        nameGap: 24,
        axisLabel: { formatter: (v: number) => String(Math.round(100 * v)) },
      },
      yAxis: { type: 'value', min: 0, max: 1, axisLabel: { formatter: (v: number) => String(Math.round(100 * v)) } },
      series: [
        {
          type: 'line',
          data: roc.map((p) => [p[0], p[1]]),
          showSymbol: false,
          lineStyle: { width: 2, color: tokens.verdigris },
          areaStyle: { color: tokens.verdigris, opacity: 0.05 },
        },
        {
          type: 'line',
          data: [
            [0, 0],
            [1, 1],
          ],
          showSymbol: false,
          silent: true,
          lineStyle: { width: 1, type: 'dashed', color: tokens.ruleFirm },
        },
        {
          type: 'scatter',
          data: [here],
          symbolSize: 11,
          itemStyle: { color: tokens.paper, borderColor: tokens.brass, borderWidth: 2 },
          label: { show: true, formatter: `cut-off ${share(at.cutoff, 0)}`, position: 'right', fontSize: 11, color: tokens.ink },
        },
      ],
    }),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [roc, at.cutoff],
  )
  const auc = figures.auc
  const title = auc?.low != null && auc.low > 0.5 ? 'It ranks better than doing nothing' : 'It does not rank better than doing nothing'
  return (
    <Chart
      title={title}
      sub={`Caught, of 100 with “${judgment.event}”. AUC ${fixed(auc?.value)}, ${fixed(auc?.low)} to ${fixed(auc?.high)}; doing nothing 0.500.`}
      option={option}
      height={300}
      name={`roc-trial-${judgment.trial.number}`}
      data={{
        heads: ['cut-off', 'called in vain', 'caught'],
        rows: roc.map((p) => [p[2] == null ? null : fixed(p[2]), share(p[0]), share(p[1])]),
      }}
      how={
        <>
          <p>
            Going through the cut-offs from high to low, the curve shows which share of the records with the event is caught, against which
            share of the others is called in vain.
          </p>
          <p>
            The dashed line is what calling at random would reach. The area under the curve (AUC) is the chance that a record with the event
            gets a higher chance than one without. Its interval is DeLong’s; the chances are those of rows that the model had not seen,
            averaged over the repeats.
          </p>
        </>
      }
    />
  )
}
