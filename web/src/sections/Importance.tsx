import { Link } from '@mui/material'
import { useState } from 'react'
import { count } from '../ui/format'
import { Reduce } from './Reduce'
import { weakWhenShuffled } from './weak'
import { IntervalMark } from '../ui/IntervalMark'
import { figure, figured } from '../ui/measure'
import type { Judgment, SectionOf } from '../data/judgment'

const FEW = 10

/** What a trial leans on: the figure that is lost on rows it had not seen when a column is shuffled among them. */
export function Importance({ section, judgment, studyId }: { section: SectionOf<'leaning'>; judgment: Judgment; studyId: number }) {
  const [all, setAll] = useState(false)
  const { measure } = judgment.trial
  const lines = section.columns
  const first = lines[0]
  if (!first) return null
  const clear = lines.filter((l) => (l.low ?? 0) > 0)
  const reach = Math.max(...lines.map((l) => Math.max(Math.abs(l.high ?? l.value!), Math.abs(l.low ?? l.value!))), 1e-9)
  const shown = all ? lines : lines.slice(0, FEW)
  return (
    <section className="pad ruled-above">
      <h2 className="fig-title">
        {clear.length === 0
          ? 'No single column can be told from noise'
          : clear.length === 1
            ? `It needs ${first.column}; the others cannot be told from noise`
            : `It leans on ${count(clear.length, 'column')}, on ${first.column} most`}
      </h2>
      <p className="fig-sub">
        How much worse {measure.name} gets on rows the model had not seen when one column is shuffled among them: mean over the folds with a
        95% interval. Columns that say the same stand in for each other, so neither costs much.
      </p>
      <table className="ledger" aria-label="What it leans on" style={{ maxWidth: 720 }}>
        <thead>
          <tr>
            <th>Column</th>
            <th className="n" style={{ width: 150 }}>
              {measure.name} worse by
            </th>
            <th className="mark" style={{ width: 230 }}>
              <span className="sr">
                From minus {figure(measure, reach)} to {figure(measure, reach)}
              </span>
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.map((l) => (
            <tr key={l.column} className={(l.low ?? 0) > 0 ? '' : 'aside'}>
              <td className="nm" title={l.column}>
                {l.column}
              </td>
              <td className="n">{figured(measure, l)}</td>
              <td className="mark">
                <IntervalMark
                  value={l.value}
                  low={l.low}
                  high={l.high}
                  scale={[-reach / 3, reach]}
                  width={226}
                  reference={0}
                  tone={(l.low ?? 0) > 0 ? 'verdigris' : 'soft'}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Reduce
        judgment={judgment}
        studyId={studyId}
        weak={weakWhenShuffled(judgment)}
        says="Shuffling these columns cost nothing that can be told from noise."
        head={`${measure.name} lost when shuffled`}
      />
      {lines.length > FEW && (
        <p className="small above-4">
          <Link component="button" type="button" onClick={() => setAll(!all)}>
            {all ? `Show ${FEW}` : `Show all ${lines.length}`}
          </Link>
        </p>
      )}
    </section>
  )
}
