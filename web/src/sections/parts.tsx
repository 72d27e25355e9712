import { atCutoff, type Judgment, type Section, sectionOf } from '../data/judgment'
import { cutoffSaid, share, whole } from '../ui/format'
import { useCutoff } from '../ui/useCutoff'
import { AddedCurves } from './AddedCurves'
import { Bends } from './Bends'
import { Blend } from './Blend'
import { Calibrated } from './Calibrated'
import { Choice } from './Choice'
import { ClassJudgment, ClassSentence } from './ClassJudgment'
import { Coefficients } from './Coefficients'
import { Course } from './Course'
import { EventJudgment } from './EventJudgment'
import { Evidence } from './Evidence'
import { Importance } from './Importance'
import { Neighbors } from './Neighbors'
import { Network } from './Network'
import { NumberJudgment, NumberSentence } from './NumberJudgment'
import { Rules } from './Rules'
import { Tables } from './Tables'
import { Trees } from './Trees'

/** A part of a trial's page: one component for each kind of section. */
export function Part({ section, judgment, studyId }: { section: Section; judgment: Judgment; studyId: number }) {
  switch (section.kind) {
    case 'event':
      return <EventJudgment section={section} judgment={judgment} studyId={studyId} />
    case 'number':
      return <NumberJudgment section={section} judgment={judgment} studyId={studyId} />
    case 'classes':
      return <ClassJudgment section={section} judgment={judgment} studyId={studyId} />
    case 'calibrated':
      return <Calibrated section={section} judgment={judgment} />
    case 'rules':
      return <Rules section={section} trialId={judgment.trial.id} />
    case 'choice':
      return <Choice section={section} judgment={judgment} studyId={studyId} />
    case 'leaning':
      return <Importance section={section} judgment={judgment} studyId={studyId} />
    case 'trees':
      return <Trees section={section} />
    case 'curves':
      return <AddedCurves section={section} />
    case 'network':
      return <Network section={section} />
    case 'evidence':
      return <Evidence section={section} />
    case 'neighbors':
      return <Neighbors section={section} />
    case 'course':
      return <Course section={section} />
    case 'bends':
      return <Bends section={section} />
    case 'blend':
      return <Blend section={section} studyId={studyId} />
    case 'tables':
      return <Tables section={section} />
    case 'coefficients':
      return <Coefficients section={section} judgment={judgment} studyId={studyId} />
    case 'leaves':
      // Read on a page of its own.
      return null
  }
}

/** Where a trial stands, in a sentence. */
export function Sentence({ judgment }: { judgment: Judgment }) {
  const cutoff = useCutoff(judgment.cutoff)
  const number = sectionOf(judgment, 'number')
  const classes = sectionOf(judgment, 'classes')
  const event = sectionOf(judgment, 'event')
  const at = atCutoff(event?.cutoffs ?? [], cutoff)
  if (number) return <NumberSentence section={number} judgment={judgment} />
  if (classes) return <ClassSentence section={classes} judgment={judgment} />
  if (!event || !at) return null
  return (
    <>
      <b>
        At a cut-off of {cutoffSaid(at.cutoff)} it catches {whole(at.tp)} of {whole(at.tp + at.fn)} ({share(at.recall.value)})
      </b>{' '}
      by calling {whole(at.tp + at.fp)} of {whole(event.rows - event.unanswered)} rows it had not seen
      {event.unanswered > 0 && ` and could answer, of ${whole(event.rows)}`}.{' '}
      {judgment.sealed ? 'The seal has been opened.' : 'The seal is closed.'}
    </>
  )
}
