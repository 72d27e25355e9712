import { Button, Checkbox, FormControlLabel } from '@mui/material'
import { useState } from 'react'
import { Link } from 'react-router'
import type { View } from '../../api/client'
import { count, share, whole } from '../../ui/format'
import { figure } from '../../ui/measure'
import { Head } from '../../ui/Head'
import { Shape } from '../../ui/Shape'
import { Loading, Trouble } from '../../ui/Trouble'
import { useStudy, useStudyId } from '../../data/study'
import { type Learner, useLearners, useStartTrial } from '../../data/trial'
import { useComparison, type Variant } from '../../data/preparation'

type Compared = View<'ComparedView'>
type Beside = View<'ColumnsBesideView'>

/** Two to four variants side by side: what is left of the table, how columns are spread, and what was reached. */
export function Compare({
  variants,
  letters,
  onLetters,
  onClose,
}: {
  variants: Variant[]
  letters: string[]
  onLetters: (letters: string[]) => void
  onClose: () => void
}) {
  const studyId = useStudyId()
  const comparison = useComparison(studyId, letters)
  const task = useStudy(studyId).data?.task
  const quick = (useLearners().data ?? []).filter((l) => l.quick && l.tasks.includes(task ?? ''))
  const start = useStartTrial(studyId)
  const [all, setAll] = useState(false)
  const data = comparison.data
  const best = [...(data?.variants ?? [])].sort((a, b) => b.rows - a.rows)
  const shown = (data?.columns ?? []).filter((c) => all || differs(c))
  return (
    <>
      <Head
        title="Variants side by side"
        small={letters.join(', ')}
        say={
          data &&
          best.length > 1 && (
            <>
              <b>
                {best.map((v) => `${v.letter} keeps ${whole(v.rows)}`).join('; ')} of {count(data.rowsBefore, 'row')}.
              </b>{' '}
              {data.approximate && '≈, from a sample of the rows. '}
              {(data.columns ?? []).filter(differs).length} of {data.columns.length} columns differ.
            </>
          )
        }
      >
        {data && untried(data.variants, quick).length > 0 && (
          <Button
            disabled={start.isPending}
            onClick={() =>
              untried(data.variants, quick).forEach(([v, learner]) => start.mutate({ variantId: v.id, learner, settings: {} }))
            }
          >
            Try quick models on each
          </Button>
        )}
        <Button onClick={onClose}>Back to the steps</Button>
      </Head>
      <div className="sheet fit stack">
        <div className="narrow" role="group" aria-label="Variants compared">
          {variants.map((v) => (
            <label key={v.id} style={{ display: 'inline-flex', gap: 5, alignItems: 'center', marginRight: 12 }}>
              <input
                type="checkbox"
                checked={letters.includes(v.letter)}
                disabled={letters.includes(v.letter) ? letters.length <= 2 : letters.length >= 4}
                onChange={() =>
                  onLetters(variants.map((o) => o.letter).filter((l) => (l === v.letter ? !letters.includes(l) : letters.includes(l))))
                }
                style={{ accentColor: 'var(--verdigris)', width: 'auto' }}
              />
              {v.letter} {v.name}
            </label>
          ))}
          <span className="to-right">
            <FormControlLabel
              control={<Checkbox size="small" checked={all} onChange={(e) => setAll(e.target.checked)} />}
              label="also columns that are the same"
              slotProps={{ typography: { sx: { fontSize: 13 } } }}
            />
          </span>
        </div>
        <Trouble error={comparison.error ?? start.error} />
        {comparison.isPending && <Loading what="the variants" />}
        {data && (
          <div className="scroll" tabIndex={0} role="region" aria-label="Variants side by side">
            <table className="ledger" aria-label="Variants">
              <thead>
                <tr>
                  <th style={{ width: 190, paddingLeft: 16 }}>
                    <span className="sr">Figure</span>
                  </th>
                  {data.variants.map((v) => (
                    <th key={v.id}>
                      <b>{v.letter}</b> {v.name}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                <Line label="Steps" of={data.variants} cell={(v) => whole(v.steps)} />
                <Line
                  label="Rows kept"
                  of={data.variants}
                  cell={(v) => `${whole(v.rows)}, ${share(v.rows / Math.max(1, data.rowsBefore))}`}
                />
                <Line label="Columns" of={data.variants} cell={(v) => whole(v.columns)} />
                <Line label="Missing cells" of={data.variants} cell={(v) => (v.missing === 0 ? 'none' : whole(v.missing))} />
                <Line label="Best so far" of={data.variants} cell={(v) => <Reached variant={v} studyId={studyId} />} />
                {quick.map((l) => (
                  <Line key={l.name} label={l.title} of={data.variants} cell={(v) => <Quick variant={v} learner={l.name} />} />
                ))}
                {data.variants.some((v) => v.problem != null) && (
                  <Line label="Cannot be done" of={data.variants} cell={(v) => <span className="cinn">{v.problem}</span>} />
                )}
                <tr>
                  <th colSpan={1 + data.variants.length} style={{ paddingLeft: 16, textAlign: 'left' }}>
                    {shown.length === 0 ? 'Every column is the same in all of them.' : 'Columns'}
                  </th>
                </tr>
                {shown.slice(0, 300).map((c) => (
                  <tr key={c.name}>
                    <td className="nm indented" title={c.name}>
                      {c.name}
                    </td>
                    {data.variants.map((v, i) => (
                      <td key={v.id} title={said(c, i)}>
                        {c.kinds[i] == null ? (
                          <span className="soft">not there</span>
                        ) : (
                          <span style={{ display: 'inline-flex', gap: 10, alignItems: 'center' }}>
                            <Shape
                              bars={(c.counts[i] ?? []).map((n) => ({ count: n }))}
                              steps={c.kinds[i] === 'number' || c.kinds[i] === 'date'}
                              width={76}
                            />
                            <span className="soft small">
                              {c.kinds[i]}
                              {(c.missing[i] ?? 0) > 0 && `, ${whole(c.missing[i])} missing`}
                            </span>
                          </span>
                        )}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
            {shown.length > 300 && (
              <p className="soft small" style={{ padding: '6px 16px' }}>
                And {whole(shown.length - 300)} more.
              </p>
            )}
          </div>
        )}
      </div>
    </>
  )
}

function Line({ label, of, cell }: { label: string; of: Compared[]; cell: (v: Compared) => React.ReactNode }) {
  return (
    <tr>
      <td className="indented">{label}</td>
      {of.map((v) => (
        <td key={v.id}>
          <b>{cell(v)}</b>
        </td>
      ))}
    </tr>
  )
}

function Reached({ variant, studyId }: { variant: Compared; studyId: number }) {
  const best = variant.trials[0]
  if (!best) return <Link to={`/study/${studyId}/trials?variant=${variant.letter}`}>not tried yet: plan a trial</Link>
  return (
    <span>
      {figure(best.measure, best.value)}{' '}
      <span className="soft">
        ({figure(best.measure, best.low)} to {figure(best.measure, best.high)})
      </span>{' '}
      <span className="soft small">
        trial {best.number}, {best.title.toLowerCase()}
      </span>
      {best.stale && <span className="brass small"> stale</span>}
    </span>
  )
}

function untried(variants: Compared[], quick: Learner[]): [Compared, string][] {
  return variants.flatMap((v) =>
    quick.filter((l) => !v.trials.some((t) => t.learner === l.name && !t.stale)).map((l): [Compared, string] => [v, l.name]),
  )
}

function Quick({ variant, learner }: { variant: Compared; learner: string }) {
  const best = variant.trials.find((t) => t.learner === learner)
  if (!best) return <span className="soft">not tried yet</span>
  return (
    <span>
      {figure(best.measure, best.value)}{' '}
      <span className="soft">
        ({figure(best.measure, best.low)} to {figure(best.measure, best.high)}) {best.size}
      </span>
      {best.stale && <span className="brass small"> stale</span>}
    </span>
  )
}

function differs(c: Beside): boolean {
  const same = (list: unknown[]) => list.every((v) => JSON.stringify(v) === JSON.stringify(list[0]))
  return !(same(c.kinds) && same(c.missing) && same(c.counts))
}

function said(c: Beside, i: number): string {
  const counts = c.counts[i] ?? []
  return counts.length === 0 ? c.name : (c.labels[i] ?? []).map((l, j) => `${l}: ${whole(counts[j])}`).join('\n')
}
