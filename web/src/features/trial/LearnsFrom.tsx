import { useState } from 'react'
import { Link } from 'react-router'
import type { View } from '../../api/client'
import type { ColumnChoice } from '../../data/trial'
import { count, share, whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import { choiceSaid, ColumnsDialog } from './ColumnsDialog'

export type Calibration = NonNullable<View<'TrialRequest'>['calibration']>
export const CALIBRATIONS: Calibration[] = ['as they come', 'sigmoid', 'isotonic', 'whichever does better']

type Props = {
  studyId: number
  study: View<'StudyView'>
  variants: View<'VariantView'>[]
  variant: View<'VariantView'>
  onVariant: (letter: string) => void
  training: number
  part: number | null
  onPart: (part: number | null) => void
  choice: ColumnChoice | null
  onChoice: (choice: ColumnChoice | null) => void
  calibration: Calibration
  onCalibration: (way: Calibration) => void
  weight: string | undefined
}

/** What trials learn from: the preparation, its columns, the rows, and how chances are made to come true. */
export function LearnsFrom(p: Props) {
  const [choosing, setChoosing] = useState(false)
  const { variant, training, part } = p
  const parts = [1000, 5000, 20000, 100000, 500000].filter((n) => n < 0.8 * training)
  return (
    <>
      <p className="sentence size-15">
        Prepared as{' '}
        <Slot
          label="Variant"
          value={variant.letter}
          choices={p.variants.map((v) => ({ value: v.letter, label: `${v.letter} ${v.name}`, effect: `${v.columnsAfter} columns` }))}
          onChange={p.onVariant}
        />
        , {variant.name}: {count(variant.steps.filter((x) => !x.off).length, 'step')}, {count(variant.columnsAfter, 'column')}.
      </p>
      <p className="sentence size-15">
        Of these it may use{' '}
        <button type="button" className="slot" onClick={() => setChoosing(true)} title={p.choice?.names.join(', ')}>
          {choiceSaid(p.choice)}
        </button>
        .
      </p>
      {parts.length > 0 && (
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
            onChange={(v) => p.onPart(v === '' ? null : Number(v))}
          />
          .
        </p>
      )}
      {p.study.task !== 'number' && (
        <p className="sentence size-15">
          Chances{' '}
          <Slot
            label="Calibration"
            value={p.calibration}
            choices={[
              { value: 'as they come', label: 'as they come' },
              { value: 'sigmoid', label: 'calibrated by sigmoid', effect: 'a curve of two numbers' },
              { value: 'isotonic', label: 'calibrated by isotonic steps', effect: 'needs many records' },
              { value: 'whichever does better', label: 'calibrated by whichever does better' },
            ]}
            onChange={(way) => p.onCalibration(way as Calibration)}
          />
          .
        </p>
      )}
      {part !== null && (
        <p className="small brass">
          A quick look: {whole(part)} of about {whole(training)} rows teach, drawn by chance, in less time and memory. What that loses is
          told by a trial on all rows beside it: both are judged on the same ones. It stays marked.
        </p>
      )}
      {variant.missingAfter > 0 && (
        <p className="small brass">
          {whole(variant.missingAfter)} missing cells are left. Trees send them where they do best; a regression cannot answer for rows with
          one of them unless it is told to fill and mark: fill them first to keep those rows.
        </p>
      )}
      {p.weight && (
        <p className="small">
          Records count by <b>{p.weight}</b>, while learning and in the figure that ranks trials.
        </p>
      )}
      <p className="small soft">
        Columns of text and identifiers say nothing to these learners and are left out, with a word about it. Columns known only afterwards
        are never used.
      </p>
      <p className="small">
        <Link to={`/study/${p.studyId}/preparation?variant=${variant.letter}`}>Change the steps</Link>
      </p>
      {choosing && (
        <ColumnsDialog
          studyId={p.studyId}
          tableId={p.study.tableId}
          variantId={variant.id}
          choice={p.choice}
          onChoose={p.onChoice}
          onClose={() => setChoosing(false)}
        />
      )}
    </>
  )
}
