import { Fragment, useState } from 'react'
import { count, number, pValue } from '../ui/format'
import type { Judgment, SectionOf } from '../data/judgment'
import { Reduce } from './Reduce'
import { weakByChoice } from './weak'

type Step = SectionOf<'choice'>['steps'][number]

const said: Record<string, string> = { start: 'begins with', enter: 'enters', remove: 'leaves', stop: 'nothing more' }

/** How a regression chose its columns, step by step or size by size. */
export function Choice({ section, judgment, studyId }: { section: SectionOf<'choice'>; judgment: Judgment; studyId: number }) {
  const [open, setOpen] = useState<number | null>(null)
  const all = section.steps
  const taken = [...all].reverse().find((s) => s.action !== 'stop')
  const subsets = taken?.action === 'choose'
  const steps = all.filter((s) => s.action !== 'choose')
  const { by } = section
  const squares = steps.some((s) => s.rss != null)
  const isTaken = (s: Step) => subsets && s.columns.join() === taken.columns.join()
  return (
    <section className="pad">
      <h2 className="fig-title">
        {count(taken?.columns.length ?? 0, 'column was', 'columns were')} chosen{' '}
        {subsets ? `among the best subsets of ${count(steps.length, 'size')}` : `in ${count(steps.length, 'step')}`}
      </h2>
      <p className="fig-sub">
        On all open rows; in each fold the choice was made anew, so the figures above stay honest. Losses are those of each{' '}
        {subsets ? 'subset' : 'step'} fitted on four fifths of the rows, and of the fifth kept back from it. <b>weighed</b> shows what else
        could have been {subsets ? 'taken' : 'done'}.
      </p>
      <table className="ledger" aria-label="Choice of columns">
        <thead>
          <tr>
            <th className="n" style={{ width: subsets ? 64 : 40 }}>
              {subsets ? 'Columns' : 'Step'}
            </th>
            {!subsets && <th style={{ width: 220 }}>What happens</th>}
            <th className="n" style={{ width: 100 }}>
              {by === 'p-value' ? 'p' : by === 'error on held rows' ? 'Held error' : by}
            </th>
            <th className="n" style={{ width: 92 }}>
              Training loss
            </th>
            <th className="n" style={{ width: 92 }}>
              On held rows
            </th>
            {squares && (
              <>
                <th className="n" style={{ width: 100 }} title="Sum of squared residuals on all rows used">
                  Residual sum
                </th>
                <th className="n" style={{ width: 64 }} title="Mallows' Cp: near the number of terms, little is left unsaid">
                  Cp
                </th>
              </>
            )}
            <th>{subsets ? 'Against the size before' : 'Columns after it'}</th>
            <th style={{ width: 100 }} />
          </tr>
        </thead>
        <tbody>
          {steps.map((s, i) => (
            <Fragment key={i}>
              <tr className={isTaken(s) ? 'sel' : ''}>
                <td className={subsets ? 'n' : 'n soft'}>{subsets ? s.columns.length : i + 1}</td>
                {!subsets && (
                  <td>
                    {s.column && <b>{s.column}</b>} {said[s.action] ?? s.action}
                  </td>
                )}
                <td className="n">{s.p != null ? pValue(s.p) : s.value != null ? criterion(by, s.value) : ''}</td>
                <td className="n soft">{s.action === 'stop' ? '' : number(s.training)}</td>
                <td className="n">{s.action === 'stop' ? '' : number(s.held)}</td>
                {squares && (
                  <>
                    <td className="n soft">{s.rss != null ? number(s.rss) : ''}</td>
                    <td className="n">{s.cp != null ? number(s.cp) : ''}</td>
                  </>
                )}
                <td className={isTaken(s) ? '' : 'soft'} title={s.columns.join(', ')}>
                  {subsets ? against(s, steps[i - 1]) : s.action === 'stop' ? '' : s.columns.length === 0 ? 'none' : s.columns.join(', ')}
                  {isTaken(s) && <b>{i > 0 ? ', ' : ''}taken</b>}
                </td>
                <td>
                  {s.weighed.length > 0 && (
                    <button type="button" className="link small" aria-expanded={open === i} onClick={() => setOpen(open === i ? null : i)}>
                      weighed {s.weighed.length}
                    </button>
                  )}
                </td>
              </tr>
              {open === i && <Weighed step={s} by={by} width={(squares ? 9 : 7) - (subsets ? 1 : 0)} />}
            </Fragment>
          ))}
        </tbody>
      </table>
      <Reduce
        judgment={judgment}
        studyId={studyId}
        weak={weakByChoice(judgment)}
        says="The choice left these columns out. Without them it does not choose again: the trial says what they were worth to it."
        head="Chosen"
      />
    </section>
  )
}

/** AIC and BIC differ by single units, whatever their size. */
function criterion(by: string, value: number): string {
  return by === 'AIC' || by === 'BIC'
    ? value.toLocaleString('en-US', { minimumFractionDigits: 1, maximumFractionDigits: 1 })
    : number(value)
}

/** What a subset has that the next smaller one has not, and the other way round. */
function against(step: Step, before?: Step): string {
  if (!before) return step.columns.length === 0 ? 'none' : step.columns.join(', ')
  const more = step.columns.filter((c) => !before.columns.includes(c))
  const less = before.columns.filter((c) => !step.columns.includes(c))
  return [more.length > 0 ? `+ ${more.join(', ')}` : '', less.length > 0 ? `\u2212 ${less.join(', ')}` : ''].filter(Boolean).join('  ')
}

/** What a step could have done, best first. */
function Weighed({ step, by, width }: { step: Step; by: string; width: number }) {
  // Whoever leaves by p-value is the one that says least.
  const least = by === 'p-value' && step.action === 'remove' ? -1 : 1
  const sorted = [...step.weighed].sort((a, b) => least * ((a.value ?? Infinity) - (b.value ?? Infinity)))
  return (
    <tr>
      <td />
      <td colSpan={width - 1} style={{ whiteSpace: 'normal', height: 'auto', padding: '4px 0 8px' }}>
        <ul className="small" aria-label="What was weighed" style={{ columns: '260px', margin: 0, padding: 0, listStyle: 'none' }}>
          {sorted.map((w, k) => (
            <li key={k} style={{ breakInside: 'avoid' }}>
              {w.action === 'none' ? 'leave all as it is' : w.what}
              {w.action === 'enter' ? ' in' : w.action === 'remove' ? ' out' : ''}{' '}
              <span className="soft">{w.value == null ? '–' : by === 'p-value' ? `p ${pValue(w.value)}` : criterion(by, w.value)}</span>
            </li>
          ))}
        </ul>
      </td>
    </tr>
  )
}
