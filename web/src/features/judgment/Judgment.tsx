import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Slider } from '@mui/material'
import { useMemo, useState } from 'react'
import { Link, useParams } from 'react-router'
import { useAddress } from '../../ui/address'
import { Chart } from '../../ui/Chart'
import { count, fixed, share, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Note } from '../../ui/Note'
import { tokens } from '../../ui/theme'
import { Loading, Trouble } from '../../ui/Trouble'
import { useNotes } from '../frame/notes'
import { useStudyId } from '../study/api'
import { type Cell, type CutoffFigures, type Judgment, useJudgment, useOpenSeal } from './api'
import { Choice } from './Choice'
import { Coefficients } from './Coefficients'
import { Densities } from './Densities'
import { FigureLedger } from './FigureLedger'
import { Records } from './Records'
import { Trees } from './Trees'

/** Where a trial is right, where wrong, at which cut-off, beside doing nothing. */
export function JudgmentPage() {
  const studyId = useStudyId()
  const trialId = Number(useParams().trialId)
  const judgment = useJudgment(trialId)
  const [params, set] = useAddress()
  const data = judgment.data
  const cutoff = params.has('cutoff') ? Number(params.get('cutoff')) : (data?.suggestedCutoff ?? 0.5)
  const figures = data?.figures
  const at = figures?.cutoffs?.[Math.round(100 * cutoff)]
  const cell = params.get('cell') as Cell | null
  const unanswered = figures?.unanswered ?? 0
  useNotes(
    (data?.notes.length ?? 0) + (unanswered > 0 ? 1 : 0) + (data?.trial.stale.length ? 1 : 0),
    <>
      {data && data.trial.stale.length > 0 && (
        <Note title="This trial is stale">Since it was fitted, {data.trial.stale.join('; ')}. Its figures are those of then.</Note>
      )}
      {unanswered > 0 && (
        <Note title={`${count(unanswered, 'row')} cannot be answered`}>
          They have a missing value in a column that the model uses. Fill those columns in Preparation to have a chance for every row.
        </Note>
      )}
      {data?.notes.map((n) => (
        <Note key={n} title="About this fit">
          {n}
        </Note>
      ))}
    </>,
    `judgment ${trialId} ${data?.notes.length} ${data?.trial.stale.length}`,
  )

  return (
    <>
      <Head
        title={data ? `${data.trial.title}, ${count(data.trial.columns, 'column')}` : 'Judgment'}
        small={data && `trial ${data.trial.number}, variant ${data.trial.variantLetter ?? '–'}`}
        say={
          at && data ? (
            <>
              <b>
                At a cut-off of {share(cutoff, 0)} it catches {whole(at.tp)} of {whole(at.tp + at.fn)} ({share(at.recall.value)})
              </b>{' '}
              by calling {whole(at.tp + at.fp)} of {whole(figures?.rows)} rows it had not seen.{' '}
              {data.sealed ? 'The seal has been opened.' : 'The seal is closed.'}
            </>
          ) : null
        }
      >
        <Button component={Link} to={`/study/${studyId}/reasons?trial=${trialId}`}>
          Reasons
        </Button>
        {data?.trial.learner === 'tree' && (
          <Button component={Link} to={`/study/${studyId}/reasons/tree?trial=${trialId}`}>
            The tree
          </Button>
        )}
        {data && !data.sealed && data.sealedRows > 0 && <SealButton judgment={data} />}
        <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/decisions?trial=${trialId}&cutoff=${cutoff}`}>
          Score new records at {share(cutoff, 0)}
        </Button>
      </Head>
      <div className="sheet stack">
        {judgment.isPending && <Loading what="the figures" />}
        <Trouble error={judgment.error} onRetry={() => void judgment.refetch()} />
        {data && figures && at && (
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
            {cell && <Records trialId={trialId} studyId={studyId} cell={cell} cutoff={cutoff} onClose={() => set({ cell: null })} />}
            {data.choice.length > 0 && <Choice judgment={data} />}
            {data.importance.length > 0 && <Trees judgment={data} />}
            {data.coefficients.length > 0 && <Coefficients judgment={data} />}
          </>
        )}
      </div>
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

function SealButton({ judgment }: { judgment: Judgment }) {
  const [asking, setAsking] = useState(false)
  const open = useOpenSeal(judgment.trial.id)
  return (
    <>
      <Button onClick={() => setAsking(true)}>Open the seal…</Button>
      <Dialog open={asking} onClose={() => setAsking(false)}>
        <DialogTitle>Open the seal for trial {judgment.trial.number}?</DialogTitle>
        <DialogContent>
          <p>
            The {whole(judgment.sealedRows)} sealed rows are the final examination. Looking at them more than once until something wins
            makes the figure worthless, so each opening is counted and written in the logbook. It cannot be undone.
          </p>
          <Trouble error={open.error} />
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setAsking(false)}>Keep it closed</Button>
          <Button
            variant="contained"
            color="primary"
            disabled={open.isPending}
            onClick={() => open.mutate(undefined, { onSuccess: () => setAsking(false) })}
          >
            Open it
          </Button>
        </DialogActions>
      </Dialog>
    </>
  )
}
