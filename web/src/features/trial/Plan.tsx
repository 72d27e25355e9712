import { Button } from '@mui/material'
import { useState } from 'react'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { count, duration, share, whole } from '../../ui/format'
import { figure } from '../../ui/measure'
import { Head } from '../../ui/Head'
import { Loading, Trouble } from '../../ui/Trouble'
import { isOver, useJob } from '../../data/job'
import { usePreparation } from '../../data/preparation'
import { asked, useStartSearch, useWeigh, type Vary } from '../../data/search'
import type { Values } from '../../data/settings'
import { useStudy, useStudyId } from '../../data/study'
import { TargetDialog } from '../../sections/TargetDialog'
import { useRegister } from '../../data/table'
import {
  type ColumnChoice,
  type Learner,
  useChoices,
  useForecasts,
  useLearners,
  useStandings,
  useStartSeveral,
  useStartTrial,
} from '../../data/trial'
import { GuidedPanel } from './GuidedPanel'
import { LearnerLedger } from './LearnerLedger'
import { CALIBRATIONS, LearnsFrom } from './LearnsFrom'
import { RankBy } from './RankBy'
import { RunningTrial } from './RunningTrial'
import { EarlierSearches, SearchPanel, type Way, WAYS } from './SearchPanel'
import { divided, SplitBand } from './SplitBand'
import { TellsTooMuch } from './TellsTooMuch'

/** Learners with their settings as a search takes them. */
function spaces(learners: Learner[], settings: Record<string, Values>, varied: Record<string, Record<string, Vary>>) {
  return learners.map((l) => ({
    learner: l.name,
    settings: {
      ...settings[l.name],
      ...Object.fromEntries(
        Object.entries(varied[l.name] ?? {}).map(([name, vary]) => [
          name,
          asked(
            l.settings.find((s) => s.name === name)!,
            vary,
          ),
        ]),
      ),
    },
  }))
}

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
  const several = useStartSeveral(studyId)
  const search = useStartSearch(studyId)
  const choices = useChoices(studyId)
  const [jobId, setJobId] = useState<number | null>(null)
  const job = useJob(jobId)
  const [choosing, setChoosing] = useState(false)
  const [part, setPart] = useState<number | null>(null)
  const [choice, setChoice] = useState<ColumnChoice | null>(null)
  const wished = CALIBRATIONS.find((c) => c === params.get('calibration'))
  const [calibration, setCalibration] = useState(wished ?? CALIBRATIONS[0]!)
  const [way, setWay] = useState<Way>({ way: WAYS[0]!, tries: '40', seed: '2026' })
  const [others, setOthers] = useState<number[]>([])
  const [named, setNamed] = useState<number[]>([])
  // Settings are kept for each learner while others are looked at.
  const [settings, setSettings] = useState<Record<string, Values>>({})
  const [varied, setVaried] = useState<Record<string, Record<string, Vary>>>({})
  const [chosen, setChosen] = useState<string[] | null>(null)
  const [looked, setLooked] = useState<string | null>(null)
  const task = study.data?.task ?? 'two classes'
  const fitting = (learners.data ?? []).filter((l) => l.tasks.includes(task))
  // The first that can predict what is asked for, until another is chosen.
  const first = fitting.find((l) => l.name === params.get('learner'))?.name ?? fitting[0]?.name
  const ticked = chosen ?? (first === undefined ? [] : [first])
  const opened = looked ?? ticked[ticked.length - 1] ?? ''
  const picked = fitting.filter((l) => ticked.includes(l.name))
  const tick = (name: string) => {
    const next = ticked.includes(name) ? ticked.filter((n) => n !== name) : [...ticked, name]
    setChosen(next)
    setLooked(ticked.includes(name) ? (next[next.length - 1] ?? name) : name)
  }
  const variants = preparation.data?.variants ?? []
  const variant = variants.find((v) => v.letter === params.get('variant')) ?? variants[0]
  const searching = picked.some((l) => Object.keys(varied[l.name] ?? {}).length > 0)
  const wanted =
    variant && searching
      ? {
          spaces: spaces(picked, settings, varied),
          variantIds: [variant.id, ...others.filter((id) => id !== variant.id)],
          choices: [
            ...(choice ? [{ ...choice, name: '' }] : []),
            ...(choices.data ?? []).filter((c) => named.includes(c.id)).map((c) => ({ names: c.names, without: c.without, name: c.name })),
          ],
          allColumns: choice === null,
          way: way.way,
          tries: way.way === WAYS[0] ? null : Number(way.tries) || 0,
          seed: Number(way.seed) || 0,
          rows: part,
        }
      : null
  const weighed = useWeigh(studyId, wanted)
  const forecast = forecasts.data?.find((f) => f.learner === picked[0]?.name)?.seconds
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
  const seconds = picked.reduce<number | null>((sum, l) => {
    const own = forecasts.data?.find((f) => f.learner === l.name)
    return sum === null || own?.seconds == null ? null : sum + own.seconds
  }, 0)
  const run = () => {
    if (!variant) return
    const common = { variantId: variant.id, rows: part, choice: choice && { ...choice, name: '' }, calibration }
    if (wanted) search.mutate(wanted, { onSuccess: (j) => void go(`/study/${studyId}/trials/search/${j.subject}`) })
    else if (picked.length > 1)
      several.mutate(
        {
          ...common,
          learners: picked.map((l) => l.name),
          settings: Object.fromEntries(picked.map((l) => [l.name, settings[l.name] ?? {}])),
        },
        { onSuccess: () => void go(`/study/${studyId}/judgment`) },
      )
    else if (picked[0])
      start.mutate({ ...common, learner: picked[0].name, settings: settings[picked[0].name] ?? {} }, { onSuccess: (j) => setJobId(j.id) })
  }
  const pending = start.isPending || several.isPending || search.isPending
  const label = pending
    ? 'Starting…'
    : running
      ? 'Fitting…'
      : wanted
        ? `Weigh ${weighed.data ? count(weighed.data.tries, 'setting') : 'these settings'}`
        : picked.length > 1
          ? `Run ${picked.length} trials`
          : 'Run this trial'

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
                {wanted
                  ? weighed.data
                    ? `${count(weighed.data.tries, 'setting')} on variant ${variant.letter}: ${whole(weighed.data.fits)} fits`
                    : `A search on variant ${variant.letter}`
                  : picked.length > 1
                    ? `${picked.length} trials on variant ${variant.letter}: ${picked.length * fits} fits`
                    : `${picked[0]?.title ?? 'Nothing'} on variant ${variant.letter}: ${picked.length * fits} fits`}
              </b>{' '}
              on {whole(s.openRows)} rows, {answered < s.openRows && `about ${whole(answered)} of them with a value in every column, `}
              {wanted
                ? weighed.data?.seconds != null
                  ? `about ${duration(weighed.data.seconds)}`
                  : 'how long is not known before a first trial'
                : picked.length > 1
                  ? seconds !== null
                    ? `about ${duration(seconds)}`
                    : 'how long is not known before a first one of each'
                  : forecast != null
                    ? `${forecast < 1 ? '' : 'about '}${duration(forecast)}`
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
          disabled={!variant || pending || running !== null || picked.length === 0 || (wanted !== null && weighed.isError)}
          onClick={run}
        >
          {label}
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
              <RankBy studyId={studyId} standings={standings.data} />
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
              <Trouble error={start.error ?? several.error ?? search.error ?? weighed.error ?? learners.error ?? preparation.error} />
              {job.data && <RunningTrial job={job.data} fits={fits} studyId={studyId} />}
            </div>
            <LearnerLedger
              learners={fitting}
              ticked={ticked}
              opened={opened}
              variantId={variant?.id}
              answers={(name) => forecasts.data?.find((f) => f.learner === name)?.answers}
              task={task}
              standings={standings.data}
              settings={settings}
              varied={varied}
              onTick={tick}
              onOpen={setLooked}
              onSettings={(name, values) => setSettings({ ...settings, [name]: values })}
              onVary={(name, how) => setVaried({ ...varied, [name]: how })}
            />
          </section>
          <section className="col pad" style={{ flex: '0 1 290px', borderLeft: '1px solid var(--rule)', gap: 8 }}>
            {register.data && s?.tableId != null && <TellsTooMuch studyId={studyId} tableId={s.tableId} columns={register.data.columns} />}
            {wanted && (
              <SearchPanel
                studyId={studyId}
                way={way}
                onWay={setWay}
                variants={variants}
                chosenVariants={wanted.variantIds}
                onVariants={setOthers}
                choice={choice}
                named={named}
                onNamed={setNamed}
              />
            )}
            {variant && !wanted && <GuidedPanel studyId={studyId} variantId={variant.id} learners={fitting} />}
            <h2 className="fig-title above-8">What a trial learns from</h2>
            {variant && s ? (
              <LearnsFrom
                studyId={studyId}
                study={s}
                variants={variants}
                variant={variant}
                onVariant={(v) =>
                  setParams((p) => {
                    p.set('variant', v)
                    return p
                  })
                }
                training={training}
                part={part}
                onPart={setPart}
                choice={choice}
                onChoice={setChoice}
                calibration={calibration}
                onCalibration={setCalibration}
                weight={weight?.name}
              />
            ) : (
              <Loading what="the variants" />
            )}
            <EarlierSearches studyId={studyId} measure={standings.data?.measure} />
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
