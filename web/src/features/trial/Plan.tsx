import { Button, Radio } from '@mui/material'
import { Fragment, useState } from 'react'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { count, duration, share, whole } from '../../ui/format'
import { figure, figured, scaleOf } from '../../ui/measure'
import { Head } from '../../ui/Head'
import { IntervalMark } from '../../ui/IntervalMark'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'
import { isOver, useCancel, useJob } from '../../data/job'
import { usePreparation } from '../../data/preparation'
import { useStudy, useStudyId } from '../../data/study'
import { TargetDialog } from '../../sections/TargetDialog'
import { useRegister } from '../../data/table'
import { Settings } from './Settings'
import type { Values } from '../../data/settings'
import { divided, SplitBand } from './SplitBand'
import { useForecasts, useLearners, useStandings, useStartTrial } from '../../data/trial'

/** What will be tried: the target, the split plan, the variant, the learner. */
export function Plan() {
  const studyId = useStudyId()
  const go = useNavigate()
  const study = useStudy(studyId)
  const [params, setParams] = useSearchParams()
  const preparation = usePreparation(studyId, study.data?.tableId != null)
  const learners = useLearners()
  const standings = useStandings(studyId)
  const forecasts = useForecasts(studyId)
  const register = useRegister(study.data?.tableId)
  const start = useStartTrial(studyId)
  const cancel = useCancel()
  const [jobId, setJobId] = useState<number | null>(null)
  const job = useJob(jobId)
  const [choosing, setChoosing] = useState(false)
  const [part, setPart] = useState<number | null>(null)
  const chosen = params.get('learner')
  const setLearner = (name: string) =>
    setParams(
      (p) => {
        p.set('learner', name)
        return p
      },
      { replace: true },
    )
  // Settings are kept for each learner while others are looked at.
  const [settings, setSettings] = useState<Record<string, Values>>({})
  const fitting = (learners.data ?? []).filter((l) => l.tasks.includes(study.data?.task ?? 'two classes'))
  // The first that can predict what is asked for, until another is chosen.
  const learner = fitting.find((l) => l.name === chosen)?.name ?? fitting[0]?.name ?? ''
  const forecast = forecasts.data?.find((f) => f.learner === learner)
  const variants = preparation.data?.variants ?? []
  const variant = variants.find((v) => v.letter === params.get('variant')) ?? variants[0]
  const s = study.data
  const plan = s?.plan
    ? { sealedShare: s.plan.sealedShare ?? 0, folds: s.plan.folds ?? 1, repeats: s.plan.repeats ?? 1, seed: s.plan.seed ?? 0 }
    : null
  // The open rows lack values as all do: the seal is drawn by chance.
  const answered = s && variant ? Math.round((s.openRows * variant.completeAfter) / Math.max(1, variant.rowsBefore)) : 0
  const fits = plan ? plan.folds * plan.repeats + 1 : 0
  const weight = register.data?.columns.find((c) => c.use === 'weight')
  const running = job.data && !isOver(job.data) ? job.data : null

  const training = s && plan ? Math.round(s.openRows * (plan.folds > 1 ? 1 - 1 / plan.folds : 0.75)) : 0
  const parts = [1000, 5000, 20000, 100000, 500000].filter((n) => n < 0.8 * training)

  if (s && s.target == null)
    return (
      <>
        <Head title="Plan trials" say="There is nothing to predict yet." />
        <div className="sheet fit">
          <div className="empty">
            <h2>A trial needs a target</h2>
            <p>
              Say which column should be predicted: an event, a number, or one of several classes. A fifth of the rows is then sealed for
              the final examination.
            </p>
            {register.data ? (
              <Button variant="contained" color="primary" onClick={() => setChoosing(true)}>
                Choose target…
              </Button>
            ) : (
              <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/import`}>
                Import a table
              </Button>
            )}
          </div>
        </div>
        {choosing && register.data && (
          <TargetDialog study={s} table={register.data} onClose={() => setChoosing(false)} onDone={() => setChoosing(false)} />
        )}
      </>
    )

  return (
    <>
      <Head
        title="Plan trials"
        small={s && `after ${count(s.trials.length, 'trial')}`}
        say={
          s &&
          plan &&
          variant && (
            <>
              <b>
                {learners.data?.find((l) => l.name === learner)?.title ?? learner} on variant {variant.letter}: {fits} fits
              </b>{' '}
              on {whole(s.openRows)} rows, {answered < s.openRows && `about ${whole(answered)} of them with a value in every column, `}
              {forecast
                ? `${forecast.seconds < 1 ? '' : 'about '}${duration(forecast.seconds)}`
                : 'how long is not known before a first one'}
              . The seal stays closed.
            </>
          )
        }
      >
        <Button component={Link} to={`/study/${studyId}/judgment`}>
          Standings
        </Button>
        <Button
          variant="contained"
          color="primary"
          disabled={!variant || start.isPending || running !== null}
          onClick={() =>
            variant &&
            start.mutate(
              { variantId: variant.id, learner, settings: settings[learner] ?? {}, rows: part },
              { onSuccess: (j) => setJobId(j.id) },
            )
          }
        >
          {start.isPending ? 'Starting…' : running ? 'Fitting…' : 'Run this trial'}
        </Button>
      </Head>
      <div className="sheet fit stack">
        {study.isPending && <Loading what="the plan" />}
        {s && plan && (
          <div className="parts-row">
            <section className="pad" style={{ flex: '1 1 380px' }}>
              <p className="sentence">
                Predict{' '}
                <button type="button" className="slot" onClick={() => setChoosing(true)}>
                  {s.target}
                </button>
                {s.task === 'number' ? (
                  ', a number.'
                ) : s.task === 'several classes' ? (
                  <>
                    , one of <b title={s.classes.join(', ')}>{s.classes.length} classes</b>.
                  </>
                ) : (
                  <>
                    , where <b>{s.event}</b> is the event.
                  </>
                )}
              </p>
              <p className="sentence">
                Rank by <b>{standings.data?.measureTitle ?? 'the figure below'}</b>, {standings.data?.measure.name}.
              </p>
              <p className="soft" style={{ fontSize: 13, marginTop: 4, maxWidth: 440 }}>
                {standings.data?.measureSays}
              </p>
            </section>
            <section className="pad" style={{ flex: '1 1 460px', borderLeft: '1px solid var(--rule)' }}>
              <h2 className="fig-title">{divided(s.plan?.way, plan.folds)}</h2>
              <p className="fig-sub">
                {whole(s.openRows)} open rows, {whole(s.sealedRows)} sealed (
                {share(s.sealedRows / Math.max(1, s.sealedRows + s.openRows), 0)}
                ), {s.plan?.column ? `divided by ${s.plan.column}` : `stratified by ${s.target}`}; seed {plan.seed}.
              </p>
              <SplitBand folds={plan.folds} repeats={plan.repeats} open={s.openRows} sealed={s.sealedRows} />
            </section>
          </div>
        )}
        <div style={{ display: 'flex', flex: 1, minHeight: 0, flexWrap: 'wrap' }}>
          <section className="col" style={{ flex: '1 1 560px', overflow: 'auto' }}>
            <div style={{ padding: '0 16px' }}>
              <Trouble error={start.error ?? learners.error ?? preparation.error} />
              {job.data && (
                <div role="status" style={{ maxWidth: 520, margin: '8px 0' }}>
                  <b>{job.data.title}</b>{' '}
                  {running ? (
                    <>
                      is running: {Math.min(fits, Math.round(running.share * (fits + 1)))} of {fits} fits done. You can leave this page.{' '}
                      <Button size="small" onClick={() => cancel.mutate(running.id)}>
                        Cancel
                      </Button>
                      <div style={{ height: 4, background: 'var(--rule)', marginTop: 6 }}>
                        <div style={{ height: 4, width: `${100 * running.share}%`, background: 'var(--verdigris)' }} />
                      </div>
                    </>
                  ) : job.data.state === 'done' ? (
                    <>
                      is done.{' '}
                      <Button
                        size="small"
                        variant="contained"
                        color="primary"
                        onClick={() => void go(`/study/${studyId}/judgment/${job.data.subject}`)}
                      >
                        Judge it
                      </Button>
                    </>
                  ) : (
                    <span className="cinn">{job.data.message ?? 'was cancelled. Nothing was changed.'}</span>
                  )}
                </div>
              )}
            </div>
            <table className="ledger" aria-label="Learners">
              <thead>
                <tr>
                  <th style={{ width: 40 }}>
                    <span className="sr">Chosen</span>
                  </th>
                  <th style={{ width: 168 }}>Learner</th>
                  <th>In short</th>
                  <th className="n" style={{ width: 112 }}>
                    Best so far, {standings.data?.measure.name}
                  </th>
                  <th className="mark" style={{ width: 96 }}>
                    <span className="sr">Interval, drawn</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {fitting.map((l) => {
                  const best = (standings.data?.trials ?? []).filter(
                    (t) => t.learner === l.name && t.value != null && t.task === s?.task,
                  )[0]
                  return (
                    <Fragment key={l.name}>
                      <tr className={learner === l.name ? 'sel' : ''}>
                        <td>
                          <Radio
                            size="small"
                            checked={learner === l.name}
                            onChange={() => setLearner(l.name)}
                            name="learner"
                            value={l.name}
                            sx={{ p: 0.25 }}
                            slotProps={{ input: { 'aria-label': l.title, id: `learner-${l.name}` } }}
                          />
                        </td>
                        <td className="nm">
                          <label htmlFor={`learner-${l.name}`} className="pressable">
                            {l.title}
                          </label>
                        </td>
                        <td
                          className="soft"
                          style={{ whiteSpace: 'normal', padding: '5px 6px', cursor: 'pointer' }}
                          onClick={() => setLearner(l.name)}
                        >
                          {l.explanation}
                        </td>
                        <td className="n">{best ? figured(best.measure, best) : <span className="soft">not tried</span>}</td>
                        <td className="mark">
                          <IntervalMark
                            value={best?.value}
                            low={best?.low}
                            high={best?.high}
                            scale={scaleOf(standings.data?.measure, standings.data?.baseline)}
                            tone={l.needsColumns ? 'verdigris' : 'brass'}
                          />
                        </td>
                      </tr>
                      {learner === l.name && l.settings.length > 0 && (
                        <tr className="sel">
                          <td />
                          <td colSpan={4} className="many-lines">
                            <Settings
                              learner={l}
                              task={study.data?.task ?? 'two classes'}
                              values={settings[l.name] ?? {}}
                              onChange={(values) => setSettings({ ...settings, [l.name]: values })}
                            />
                          </td>
                        </tr>
                      )}
                    </Fragment>
                  )
                })}
              </tbody>
            </table>
          </section>
          <section className="col pad" style={{ flex: '0 1 290px', borderLeft: '1px solid var(--rule)', gap: 8 }}>
            <h2 className="fig-title">What it learns from</h2>
            {variant ? (
              <>
                <p className="sentence size-15">
                  Prepared as{' '}
                  <Slot
                    label="Variant"
                    value={variant.letter}
                    choices={variants.map((v) => ({
                      value: v.letter,
                      label: `${v.letter} ${v.name}`,
                      effect: `${v.columnsAfter} columns`,
                    }))}
                    onChange={(v) =>
                      setParams((p) => {
                        p.set('variant', v)
                        return p
                      })
                    }
                  />
                  , {variant.name}: {count(variant.steps.filter((x) => !x.off).length, 'step')}, {count(variant.columnsAfter, 'column')}.
                </p>
                {parts.length > 0 && s && (
                  <p className="sentence size-15">
                    Learn from{' '}
                    <Slot
                      label="Rows to learn from"
                      value={String(part ?? '')}
                      choices={[
                        { value: '', label: 'all rows', effect: `about ${whole(training)} in each fit` },
                        ...parts.map((n) => ({
                          value: String(n),
                          label: `${whole(n)} rows`,
                          effect: `${share(n / training, n / training < 0.01 ? 1 : 0)} of them`,
                        })),
                      ]}
                      onChange={(v) => setPart(v === '' ? null : Number(v))}
                    />
                    .
                  </p>
                )}
                {part !== null && (
                  <p className="small brass">
                    A quick look: {whole(part)} of about {whole(training)} rows teach, drawn by chance, in less time and memory. What that
                    loses is told by a trial on all rows beside it: both are judged on the same ones. It stays marked.
                  </p>
                )}
                {variant.missingAfter > 0 && (
                  <p className="small brass">
                    {whole(variant.missingAfter)} missing cells are left. Trees send them where they do best; a regression cannot answer for
                    rows with one of them unless it is told to fill and mark: fill them first to keep those rows.
                  </p>
                )}
                {weight && (
                  <p className="small">
                    Records count by <b>{weight.name}</b>, while learning and in the figure that ranks trials.
                  </p>
                )}
                <p className="small soft">
                  Columns of text and identifiers say nothing to these learners and are left out, with a word about it. Columns known only
                  afterwards are never used.
                </p>
                <p className="small">
                  <Link to={`/study/${studyId}/preparation?variant=${variant.letter}`}>Change the steps</Link>
                </p>
              </>
            ) : (
              <Loading what="the variants" />
            )}
            {standings.data?.trials.some((t) => t.state === 'failed') && (
              <div className="note">
                <h3>Some trials could not be fitted</h3>
                {standings.data.trials
                  .filter((t) => t.state === 'failed')
                  .slice(-2)
                  .map((t) => (
                    <p key={t.id}>
                      Trial {t.number}: {t.failure}
                    </p>
                  ))}
              </div>
            )}
            <p className="small soft">
              {standings.data?.baseline != null
                ? `Doing nothing clever scores ${figure(standings.data.measure, standings.data.baseline)}; every figure is shown beside it.`
                : 'Every figure is shown beside what doing nothing clever scores.'}
            </p>
          </section>
        </div>
      </div>
      {choosing && s && register.data && (
        <TargetDialog study={s} table={register.data} onClose={() => setChoosing(false)} onDone={() => setChoosing(false)} />
      )}
    </>
  )
}
