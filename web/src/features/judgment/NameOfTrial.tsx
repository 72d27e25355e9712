import { Link } from 'react-router'
import type { View } from '../../api/client'
import { told } from '../../data/told'
import type { Trial } from '../../data/trial'
import { whole } from '../../ui/format'
import { figure } from '../../ui/measure'
import { Octagon } from './FinalistsBand'

/** A trial by its name, with everything that sets it apart from the others and what there is to know of it. */
export function NameOfTrial({
  trial: t,
  among,
  letters,
  finalists,
  fitting,
  studyId,
  onNote,
}: {
  trial: Trial
  among: Trial[]
  /** Whether there are several variants to be told apart. */
  letters: boolean
  finalists: View<'StandingsView'>['finalists'] | undefined
  /** The share of its fit that is done, where it is under way. */
  fitting: number | undefined
  studyId: number
  onNote: () => void
}) {
  return (
    <>
      {t.id === finalists?.strongest && (
        <>
          <Octagon mark="full" />{' '}
        </>
      )}
      {t.id === finalists?.clearest && t.id !== finalists?.strongest && (
        <>
          <Octagon mark="ring" />{' '}
        </>
      )}
      <Link
        to={`/study/${studyId}/judgment/${t.id}`}
        style={{ color: 'var(--ink)', fontWeight: 560, textDecoration: 'none' }}
        onClick={(e) => e.stopPropagation()}
      >
        {t.title}
      </Link>{' '}
      <span className="soft" title={t.settings.join('; ')}>
        trial {t.number}
        {letters && `, variant ${t.variantLetter ?? '–'}`}
        {told(t, among)}
      </span>
      {t.part != null && <span className="brass"> on {whole(t.part)} rows</span>}
      {t.stale.length > 0 && (
        <span className="brass" title={t.stale.join('; ')}>
          {' '}
          stale
        </span>
      )}
      {t.chosen && (
        <span className="brass" title={`While searching it looked like ${figure(t.measure, t.chosen.searching)}`}>
          {' '}
          best of {whole(t.chosen.tries)}
        </span>
      )}
      {t.calibration !== 'as they come' && <span className="soft"> calibrated</span>}
      {t.handedRows != null && <span className="verd"> in use</span>}{' '}
      <button
        type="button"
        className="link small"
        title={t.note || 'Write a note beside it'}
        aria-label={`Note of trial ${t.number}`}
        onClick={(e) => {
          e.stopPropagation()
          onNote()
        }}
      >
        {t.note ? t.note.slice(0, 40) + (t.note.length > 40 ? '…' : '') : 'note'}
      </button>
      {t.state !== 'done' && (
        <span className={t.state === 'failed' ? 'cinn' : 'verd'}> {t.state === 'waiting' ? <Filling share={fitting} /> : t.state}</span>
      )}
    </>
  )
}

/** How many of its folds are through. */
function Filling({ share }: { share: number | undefined }) {
  if (share === undefined) return <>being fitted</>
  return (
    <>
      being fitted{' '}
      <svg width="62" height="9" role="img" aria-label={`${Math.round(100 * share)}% done`}>
        {Array.from({ length: 10 }, (_, i) => (
          <rect
            key={i}
            x={i * 6}
            y="1"
            width="4.5"
            height="7"
            fill={share * 10 > i + 0.5 ? 'var(--verdigris)' : 'none'}
            stroke="var(--verdigris)"
          />
        ))}
      </svg>
    </>
  )
}
