import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { count, cutoffSaid, whole } from '../../ui/format'
import { figure } from '../../ui/measure'
import { Head } from '../../ui/Head'
import { Note } from '../../ui/Note'
import { Loading, Trouble } from '../../ui/Trouble'
import { useNotes } from '../../ui/notes'
import { useStudyId } from '../../data/study'
import { type Judgment, sectionOf, useJudgment, useOpenSeal } from '../../data/judgment'
import { Examined } from './Examined'
import { useCutoff } from '../../ui/useCutoff'
import { Part, Sentence } from '../../sections/parts'
import { missed } from '../../sections/Calibration'
import { LearningCurve } from '../../sections/LearningCurve'
import { Groups } from '../../sections/Groups'

/** Where a trial is right, where wrong, at which cut-off, beside doing nothing. */
export function JudgmentPage() {
  const studyId = useStudyId()
  const trialId = Number(useParams().trialId)
  const judgment = useJudgment(trialId)
  const data = judgment.data
  const cutoff = useCutoff(data?.cutoff)
  const unanswered = data?.unanswered ?? 0
  const off = missed(sectionOf(data, 'event')?.calibration ?? []).length
  const uncalibrated = off > 1 && data?.trial.calibration === 'as they come' ? data : null
  useNotes(
    (uncalibrated ? 1 : 0) +
      (data?.trial.chosen ? 1 : 0) +
      (data?.notes.length ?? 0) +
      (unanswered > 0 ? 1 : 0) +
      (data?.trial.stale.length ? 1 : 0) +
      (data?.trial.weight ? 1 : 0),
    <>
      {data && data.trial.stale.length > 0 && (
        <Note title="This trial is stale">Since it was fitted, {data.trial.stale.join('; ')}. Its figures are those of then.</Note>
      )}
      {uncalibrated && (
        <Note title="Its chances do not hold">
          In {off} of ten groups what came lies outside what was said. Costs are weighed wrongly by such chances.{' '}
          <Link to={`/study/${studyId}/trials?learner=${uncalibrated.trial.learner}&calibration=whichever does better`}>
            Try it calibrated
          </Link>
        </Note>
      )}
      {unanswered > 0 && (
        <Note title={`${count(unanswered, 'row')} cannot be answered`}>
          They have a missing value in a column that the model uses. Fill those columns in Preparation to have a chance for every row.
        </Note>
      )}
      {data?.trial.weight && (
        <Note title={`Records count by ${data.trial.weight}`}>
          While learning, and in the figure that ranks trials, log loss, Brier, RMSE, MAE and bias. Counts, curves and the other figures
          count each record once.{' '}
          {data.trial.weightSum != null && `Together the open rows stand for ${whole(data.trial.weightSum)} records. `}
          {data.trial.weightless > 0 &&
            ` ${count(data.trial.weightless, 'open row has', 'open rows have')} no weight above 0: they taught nothing.`}
        </Note>
      )}
      {data?.trial.chosen && (
        <Note title={`The best of ${whole(data.trial.chosen.tries)} settings`}>
          While searching it looked like {figure(data.trial.measure, data.trial.chosen.searching)}; with the luck of being chosen taken out
          it is {figure(data.trial.measure, data.trial.chosen.value)}, which ranks. Other figures on this page still hold that luck.{' '}
          <Link to={`/study/${studyId}/trials/search/${data.trial.chosen.searchId}`}>See the search</Link>
        </Note>
      )}
      {data?.notes.map((n) => (
        <Note key={n} title="About this fit">
          {n}
        </Note>
      ))}
    </>,
    `judgment ${trialId} ${off} ${data?.notes.length} ${data?.trial.stale.length} ${data?.trial.weight}`,
  )

  return (
    <>
      <Head
        title={data ? `${data.trial.title}, ${count(data.trial.columns, 'column')}` : 'Judgment'}
        small={
          data &&
          `trial ${data.trial.number}, variant ${data.trial.variantLetter ?? '–'}${data.trial.part != null ? `, a quick look on ${whole(data.trial.part)} rows` : ''}`
        }
        say={data && <Sentence judgment={data} />}
      >
        {data && (
          <Button component={Link} to={`/study/${studyId}/reasons?trial=${trialId}`}>
            Reasons
          </Button>
        )}
        {sectionOf(data, 'leaves') && (
          <Button component={Link} to={`/study/${studyId}/reasons/tree?trial=${trialId}`}>
            The tree
          </Button>
        )}
        {data && (
          <Button component={Link} to={`/study/${studyId}/judgment/beside?trials=${trialId}`}>
            Side by side
          </Button>
        )}
        {data && !data.sealed && data.sealedRows > 0 && <SealButton judgment={data} />}
        {!data || data.trial.task === 'two classes' ? (
          <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/decisions?trial=${trialId}&cutoff=${cutoff}`}>
            Score records at {cutoffSaid(cutoff)}
          </Button>
        ) : (
          <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/decisions?trial=${trialId}`}>
            Score records
          </Button>
        )}
      </Head>
      <div className="sheet stack">
        {judgment.isPending && <Loading what="the figures" />}
        <Trouble error={judgment.error} onRetry={() => void judgment.refetch()} />
        {data && <Examined judgment={data} />}
        {data?.sections.map((section) => (
          <Part key={section.kind} section={section} judgment={data} studyId={studyId} />
        ))}
        {data && !sectionOf(data, 'blend') && <LearningCurve trialId={trialId} />}
        {data && data.trial.task !== 'two classes' && (
          <section className="pad" style={{ borderTop: '1px solid var(--rule)', maxWidth: 760 }}>
            <Groups judgment={data} cutoff={cutoff} />
          </section>
        )}
      </div>
    </>
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
