import { Link } from 'react-router'
import { useSearches } from '../../data/search'
import type { View } from '../../api/client'
import type { ColumnChoice } from '../../data/trial'
import { useChoices } from '../../data/trial'
import { figure, type Figure } from '../../ui/measure'
import { count } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import { useWritten } from '../../ui/useWritten'
import { choiceSaid } from './ColumnsDialog'

type Through = NonNullable<View<'SearchRequest'>['way']>
export type Way = { way: Through; tries: string; seed: string }
export const WAYS: Through[] = ['all combinations', 'a sample of them', 'random draws']

type Props = {
  studyId: number
  way: Way
  onWay: (way: Way) => void
  variants: View<'VariantView'>[]
  chosenVariants: number[]
  onVariants: (ids: number[]) => void
  choice: ColumnChoice | null
  named: number[]
  onNamed: (ids: number[]) => void
}

/** How a search goes through its settings, and which preparations and columns each of them meets. */
export function SearchPanel({ studyId, way, onWay, variants, chosenVariants, onVariants, choice, named, onNamed }: Props) {
  const choices = useChoices(studyId)
  const toggle = (all: number[], id: number) => (all.includes(id) ? all.filter((o) => o !== id) : [...all, id])
  return (
    <>
      <h2 className="fig-title">How it searches</h2>
      <p className="sentence size-15">
        It weighs{' '}
        <Slot
          label="Way through the settings"
          value={way.way}
          choices={WAYS.map((w) => ({ value: w, label: w }))}
          onChange={(w) => onWay({ ...way, way: w as Through })}
        />
        {way.way !== WAYS[0] && (
          <>
            , <Small label="Tries" value={way.tries} onDone={(tries) => onWay({ ...way, tries })} /> tries, seed{' '}
            <Small label="Seed of the search" value={way.seed} onDone={(seed) => onWay({ ...way, seed })} />
          </>
        )}
        .
      </p>
      {variants.length > 1 && (
        <fieldset className="bare">
          <legend className="small soft">On these preparations</legend>
          {variants.map((v) => (
            <label key={v.id} className="size-13 ticked">
              <input
                type="checkbox"
                className="accented"
                checked={chosenVariants.includes(v.id)}
                onChange={() => onVariants(toggle(chosenVariants, v.id))}
              />
              {v.letter} {v.name}
            </label>
          ))}
        </fieldset>
      )}
      {(choices.data?.length ?? 0) > 0 && (
        <fieldset className="bare">
          <legend className="small soft">Beside {choiceSaid(choice)}, also on</legend>
          {choices.data!.map((c) => (
            <label key={c.id} className="size-13 ticked" title={choiceSaid(c)}>
              <input type="checkbox" className="accented" checked={named.includes(c.id)} onChange={() => onNamed(toggle(named, c.id))} />
              {c.name}
            </label>
          ))}
        </fieldset>
      )}
      <p className="small soft">
        Figures while searching hold luck and do not rank. At the end the luck of the best is taken out, and it becomes a trial.
      </p>
    </>
  )
}

function Small({ label, value, onDone }: { label: string; value: string; onDone: (v: string) => void }) {
  const { text, write, done } = useWritten(value, onDone)
  return (
    <input
      aria-label={label}
      value={text}
      inputMode="numeric"
      onChange={(e) => write(e.target.value)}
      onBlur={done}
      onKeyDown={(e) => e.key === 'Enter' && done()}
      style={{ width: 48, textAlign: 'right' }}
    />
  )
}

/** Searches of the study, newest first. */
export function EarlierSearches({ studyId, measure }: { studyId: number; measure: Figure | undefined }) {
  const searches = useSearches(studyId)
  if (!searches.data || searches.data.length === 0) return null
  return (
    <>
      <h2 className="fig-title above-8">Searches</h2>
      <ul className="bare" style={{ listStyle: 'none' }}>
        {searches.data.slice(0, 6).map((s) => (
          <li key={s.id} className="size-13">
            <Link to={`/study/${studyId}/trials/${s.guided ? 'guided' : 'search'}/${s.id}`}>
              {s.guided ? 'Guided search' : 'Search'} {s.number}
            </Link>{' '}
            <span className="soft">
              {s.guided ? count(s.learners.length, 'learner') : s.learners.join(', ').toLowerCase()}, {s.done} of {s.tries}
              {s.state === 'running' ? ', running' : s.corrected != null ? `, ${figure(measure, s.corrected)}` : `, ${s.state}`}
              {s.stale && ', stale'}
            </span>
          </li>
        ))}
      </ul>
    </>
  )
}
