import type { ThreadStation } from '../ui/Thread'
import { count, whole } from '../ui/format'
import { bestOf, figure, ofTask } from '../ui/measure'
import type { Study } from '../data/study'
import type { Variant } from '../data/preparation'
import { titled } from '../data/table'

/** Steps of a preparation that the thread shows at most. */
const MOST_STEPS = 12

/** Rows or columns left at each step of a variant. */
function stepsOf(variant: Variant, to: string): NonNullable<ThreadStation['steps']> {
  return variant.steps.slice(0, MOST_STEPS).map((s, i) => {
    const t = s.toll
    const lost = t != null && t.rowsAfter < t.rowsBefore
    return {
      key: `step${i}`,
      label: `${i + 1} ${s.step.replace(/_/g, ' ')}`,
      figure: t == null ? (s.off ? 'off' : 'not done') : lost ? whole(t.rowsAfter) : `× ${t.columnsAfter}`,
      to,
      pending: t == null,
      ...(t == null ? {} : { left: t.rowsAfter / Math.max(1, variant.rowsBefore) }),
    }
  })
}

export const stationPaths = ['table', 'preparation', 'trials', 'judgment', 'reasons', 'decisions'] as const

/** The six stations of a study with what the thread says of each. */
export function stationsOf(study: Study, here: string, tableId: number | null, variant?: Variant): ThreadStation[] {
  const base = `/study/${study.id}`
  const at = stationPaths.findIndex((p) => here.startsWith(`${base}/${p}`))
  const openShare = study.rows > 0 ? study.openRows / study.rows : 1
  const stale = study.trials.some((t) => t.stale)
  const done = study.trials.filter((t) => t.state === 'done')
  const best = bestOf(ofTask(done, study.task))
  const shares = [1, 1, openShare, openShare, openShare, null]
  const state = (i: number) => (at === i ? 'now' : i < study.station ? 'done' : 'todo') as ThreadStation['state']
  const reached = (i: number) => (i < Math.max(study.station - 1, at) ? shares[i]! : null)
  const registers = study.tables.map((t) => ({
    key: `t${t.id}`,
    label: titled(t),
    figure: t.state === 'ready' ? whole(t.rows) : 'reading',
    to: `${base}/table/${t.id}`,
    open: t.id === tableId,
    pending: t.state !== 'ready',
  }))
  const openTable = study.tables.find((t) => t.id === tableId)
  const tableSteps = registers.flatMap((r) =>
    r.open && openTable
      ? [
          r,
          ...(openTable.id === study.tableId && study.target != null
            ? [
                {
                  key: 'target',
                  label: 'Target',
                  figure: study.target,
                  to: `${base}/table/${openTable.id}/goes-with`,
                  open: here === `${base}/table/${openTable.id}/goes-with`,
                },
              ]
            : []),
          {
            key: 'rows',
            label: 'Rows',
            figure: whole(openTable.rows),
            to: `${base}/table/${openTable.id}/rows`,
            open: here.endsWith('/rows'),
          },
          {
            key: 'pictures',
            label: 'Pictures',
            figure: '7',
            to: `${base}/table/${openTable.id}/pictures`,
            open: here.endsWith('/pictures'),
          },
        ]
      : [r],
  )
  return [
    {
      number: 1,
      label: 'Table',
      to: `${base}/table`,
      figures: study.rows > 0 ? [`${whole(study.rows)} × ${study.columns}`] : [],
      waits: study.tableId == null ? 'import a table' : study.target == null ? 'choose the target' : undefined,
      state: state(0),
      steps: at === 0 ? tableSteps : [],
      share: reached(0),
    },
    {
      number: 2,
      label: 'Preparation',
      to: `${base}/preparation`,
      figures: at === 1 && variant ? [`${variant.letter}, ${variant.name}`] : [],
      state: state(1),
      share: at === 1 && variant ? 1 : reached(1),
      steps: at === 1 && variant ? stepsOf(variant, `${base}/preparation?variant=${variant.letter}`) : [],
    },
    {
      number: 3,
      label: 'Trials',
      to: `${base}/trials`,
      figures: study.trials.length > 0 ? [count(study.trials.length, 'trial')] : [],
      waits: study.target != null && study.trials.length === 0 ? 'a first trial waits' : undefined,
      state: state(2),
      share: reached(2),
      stale,
      steps: at === 2 || at === 3 ? [{ key: 'open', label: 'Training', figure: whole(study.openRows), to: `${base}/trials` }] : [],
    },
    {
      number: 4,
      label: 'Judgment',
      to: `${base}/judgment`,
      figures: done.length > 0 ? [best?.value != null ? `best ${best.measure.name} ${figure(best.measure, best.value)}` : ''] : [],
      state: state(3),
      share: reached(3),
      stale,
      steps:
        at === 3
          ? [
              {
                key: 'standings',
                label: 'Standings',
                figure: String(done.length),
                to: `${base}/judgment`,
                open: here === `${base}/judgment`,
              },
              ...(done.length > 1
                ? [
                    {
                      key: 'beside',
                      label: 'Side by side',
                      figure: '',
                      to: `${base}/judgment/beside`,
                      open: here === `${base}/judgment/beside`,
                    },
                  ]
                : []),
              ...done.slice(0, 6).map((t) => ({
                key: `j${t.id}`,
                label: `Trial ${t.number}`,
                figure: figure(t.measure, t.value),
                to: `${base}/judgment/${t.id}`,
                open: here === `${base}/judgment/${t.id}`,
              })),
              {
                key: 'seal',
                label: study.sealOpenings > 0 ? 'Seal opened' : 'Sealed',
                figure: study.sealOpenings > 0 ? count(study.sealOpenings, 'time') : whole(study.sealedRows),
                to: `${base}/judgment`,
                pending: study.sealOpenings === 0,
              },
            ]
          : [],
    },
    {
      number: 5,
      label: 'Reasons',
      to: `${base}/reasons`,
      state: state(4),
      share: reached(4),
      steps:
        at === 4 && done.length > 0
          ? [
              { key: 'all', label: 'All records', figure: '', to: `${base}/reasons`, open: here === `${base}/reasons` },
              { key: 'one', label: 'One record', figure: '', to: `${base}/reasons?record=1` },
            ]
          : [],
    },
    {
      number: 6,
      label: 'Decisions',
      to: `${base}/decisions`,
      state: state(5),
      share: null,
      steps:
        at === 5
          ? [
              ...study.scorings.map((s) => ({
                key: `s${s.id}`,
                label: s.tableName,
                // Two numbers of six digits are wider than the thread.
                figure: study.event == null ? whole(s.rows) : s.rows < 100_000 ? `${whole(s.called)} of ${whole(s.rows)}` : whole(s.called),
                to: `${base}/decisions/${s.id}`,
                open: here === `${base}/decisions/${s.id}`,
              })),
              ...(done.length > 0
                ? [
                    { key: 'away', label: 'Take away', figure: '', to: `${base}/decisions/away`, open: here === `${base}/decisions/away` },
                    {
                      key: 'recheck',
                      label: 'Recheck',
                      figure: '',
                      to: `${base}/decisions/recheck`,
                      open: here === `${base}/decisions/recheck`,
                    },
                    {
                      key: 'service',
                      label: 'Service',
                      figure: '',
                      to: `${base}/decisions/service`,
                      open: here === `${base}/decisions/service`,
                    },
                    {
                      key: 'dossier',
                      label: 'Dossier',
                      figure: '',
                      to: `${base}/decisions/dossier`,
                      open: here === `${base}/decisions/dossier`,
                    },
                  ]
                : []),
            ]
          : [],
    },
  ]
}
