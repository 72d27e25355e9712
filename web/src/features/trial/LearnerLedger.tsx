import { Fragment } from 'react'
import { duration } from '../../ui/format'
import { figured, scaleOf } from '../../ui/measure'
import { IntervalMark } from '../../ui/IntervalMark'
import type { Vary } from '../../data/search'
import type { Values } from '../../data/settings'
import type { Learner, Standings } from '../../data/trial'
import { Settings } from './Settings'

type Props = {
  learners: Learner[]
  ticked: string[]
  opened: string
  variantId: number | undefined
  task: string
  standings: Standings | undefined
  settings: Record<string, Values>
  varied: Record<string, Record<string, Vary>>
  /** Seconds that 10,000 answers of a learner will take, where that is long. */
  answers: (name: string) => number | null | undefined
  onTick: (name: string) => void
  onOpen: (name: string) => void
  onSettings: (name: string, values: Values) => void
  onVary: (name: string, varied: Record<string, Vary>) => void
}

/** The learners: ticked ones are tried, the opened one shows its settings. */
export function LearnerLedger({ learners, ticked, opened, variantId, task, standings, settings, varied, answers, ...on }: Props) {
  const scale = scaleOf(standings?.measure, standings?.baseline)
  return (
    <table className="ledger" aria-label="Learners">
      <thead>
        <tr>
          <th style={{ width: 36 }}>
            <span className="sr">Tried</span>
          </th>
          <th style={{ width: 168 }}>Learner</th>
          <th>In short</th>
          <th className="n" style={{ width: 112 }}>
            Best so far, {standings?.measure.name}
          </th>
          <th className="mark" style={{ width: 96 }}>
            <span className="sr">Interval, drawn</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {learners.map((l) => {
          const best = (standings?.trials ?? []).filter((t) => t.learner === l.name && t.value != null && t.task === task)[0]
          const isOpen = opened === l.name
          const slow = answers(l.name) ?? 0
          const count = Object.keys(varied[l.name] ?? {}).length
          return (
            <Fragment key={l.name}>
              <tr className={ticked.includes(l.name) ? 'sel' : ''}>
                <td>
                  <input
                    type="checkbox"
                    className="accented"
                    id={`learner-${l.name}`}
                    aria-label={l.title}
                    checked={ticked.includes(l.name)}
                    onChange={() => on.onTick(l.name)}
                  />
                </td>
                <td className="nm">
                  <label htmlFor={`learner-${l.name}`} className="pressable">
                    {l.title}
                  </label>
                </td>
                <td className="soft" style={{ whiteSpace: 'normal', padding: '5px 6px' }}>
                  {l.explanation}{' '}
                  {slow >= 3 && (
                    <b>Scoring will be slow: 10,000 records take about {duration(slow)}, since every answer looks at all training rows. </b>
                  )}
                  {l.settings.length > 0 && !isOpen && (
                    <button type="button" className="link" aria-label={`Settings of ${l.title}`} onClick={() => on.onOpen(l.name)}>
                      {count > 0 ? `${count} settings vary` : 'Settings'}
                    </button>
                  )}
                </td>
                <td className="n">{best ? figured(best.measure, best) : <span className="soft">not tried</span>}</td>
                <td className="mark">
                  <IntervalMark
                    value={best?.value}
                    low={best?.low}
                    high={best?.high}
                    scale={scale}
                    tone={l.needsColumns ? 'verdigris' : 'brass'}
                  />
                </td>
              </tr>
              {isOpen && l.settings.length > 0 && (
                <tr className={ticked.includes(l.name) ? 'sel' : ''}>
                  <td />
                  <td colSpan={4} className="many-lines">
                    <Settings
                      variantId={variantId}
                      learner={l}
                      task={task}
                      values={settings[l.name] ?? {}}
                      varied={varied[l.name] ?? {}}
                      onChange={(values) => on.onSettings(l.name, values)}
                      onVary={(how) => on.onVary(l.name, how)}
                    />
                  </td>
                </tr>
              )}
            </Fragment>
          )
        })}
      </tbody>
    </table>
  )
}
