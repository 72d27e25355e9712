import { Button, TextField } from '@mui/material'
import { useEffect, useMemo, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { storedInstead } from '../../api/client'
import { count, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Loading, Trouble } from '../../ui/Trouble'
import { TwoVersions } from '../../ui/TwoVersions'
import { useStudy, useStudyId } from '../study/api'
import { AdviceNotes } from './AdviceNotes'
import {
  type BinsLook,
  columnsOf,
  type Described,
  freshStep,
  type Look,
  settingsOf,
  type Step,
  useChangeVariant,
  type Variant,
  useCreateVariant,
  usePreparation,
  usePreview,
  useSteps,
} from './api'
import { Compare } from './Compare'
import { CutPoints } from './CutPoints'
import { More } from './More'
import { StepForm } from './StepForm'
import { StepList } from './StepList'
import { StepLook } from './StepLook'
import { Ways } from './Ways'
import { TollLedger } from './TollLedger'

/** The steps of a variant with their tolls; a step is previewed before it is applied, and can be undone after. */
export function Preparation() {
  const studyId = useStudyId()
  const study = useStudy(studyId)
  const hasTable = study.data?.tableId != null
  const preparation = usePreparation(studyId, hasTable)
  const [params, setParams] = useSearchParams()
  const change = useChangeVariant()
  const create = useCreateVariant(studyId)
  const variants = preparation.data?.variants ?? []
  const variant = variants.find((v) => v.letter === params.get('variant')) ?? variants[0]
  const steps = useMemo(() => variant?.steps.map(settingsOf) ?? [], [variant])
  const [draft, setDraft] = useState<{ at: number; step: Step } | null>(null)
  const kinds = useSteps()
  const asked = params.get('step')
  const [trouble, setTrouble] = useState<unknown>(null)
  const [past, setPast] = useState<Step[][]>([])
  const [future, setFuture] = useState<Step[][]>([])
  const proposed = draft ? [...steps.slice(0, draft.at), draft.step, ...steps.slice(draft.at + 1)] : null
  const preview = usePreview(variant, proposed, draft?.at ?? 0)
  const drafted = proposed ? preview.data?.steps[draft?.at ?? 0] : undefined
  const look = preview.data?.look
  const kind = draft ? kinds.data?.steps.find((k) => k.step === draft.step.step) : undefined

  function apply(next: Step[], remember = true) {
    if (!variant) return
    if (remember) {
      setPast([...past, steps])
      setFuture([])
    }
    change.mutate({ variant, steps: next }, { onSuccess: () => setDraft(null) })
  }
  const undo = () => {
    const before = past[past.length - 1]
    if (!before) return
    setPast(past.slice(0, -1))
    setFuture([steps, ...future])
    apply(before, false)
  }
  const redo = () => {
    const next = future[0]
    if (!next) return
    setFuture(future.slice(1))
    setPast([...past, steps])
    apply(next, false)
  }

  // A finding sent us here with a remedy: the step is drafted, not applied.
  useEffect(() => {
    if (asked === null || !variant) return
    try {
      setDraft({ at: steps.length, step: JSON.parse(asked) as Step })
    } catch {
      // An address that was cut short: nothing is drafted.
    }
    setParams(
      (p) => {
        p.delete('step')
        return p
      },
      { replace: true },
    )
  }, [asked, variant, steps, setParams])

  // On the window, because after a click on plain text nothing inside the page has the focus.
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (!(e.ctrlKey || e.metaKey) || e.key.toLowerCase() !== 'z') return
      if (change.isPending || (e.target instanceof Element && e.target.closest('input, textarea'))) return
      e.preventDefault()
      if (e.shiftKey) redo()
      else undo()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  })

  if (study.data && !hasTable) return <NoTable studyId={studyId} />
  const compared = params.get('compare')
  if (compared !== null && variants.length > 1)
    return (
      <Compare
        variants={variants}
        letters={compared.split(',')}
        onLetters={(letters) => setParams({ compare: letters.join(',') })}
        onClose={() => setParams({})}
      />
    )
  const shown = draft && preview.data ? preview.data : variant
  const stored = storedInstead<Variant>(change.error)
  return (
    <>
      <Head
        title="Preparation"
        small={variant && `variant ${variant.letter}, ${variant.name}`}
        say={
          variant && (
            <>
              <b>
                {variant.letter} keeps {whole(variant.rowsAfter)} of {count(variant.rowsBefore, 'row')} and has{' '}
                {count(variant.columnsAfter, 'column')}.
              </b>{' '}
              {variant.approximate && '≈, from a sample of the rows. '}
              {variant.missingAfter === 0
                ? 'No cell is missing.'
                : `${whole(variant.missingAfter)} of ${whole(variant.missingBefore)} missing cells are left.`}{' '}
              {variant.problem}
            </>
          )
        }
      >
        <Button disabled={past.length === 0 || change.isPending} onClick={undo} title="Ctrl+Z">
          Undo
        </Button>
        <Button disabled={future.length === 0 || change.isPending} onClick={redo} title="Ctrl+Shift+Z">
          Redo
        </Button>
        <More
          variant={variant}
          several={variants.length > 1}
          onCompare={() =>
            setParams({
              compare: variants
                .slice(0, 4)
                .map((v) => v.letter)
                .join(','),
            })
          }
          onCopy={() =>
            variant &&
            create.mutate({ name: `From ${variant.letter}`, copyFrom: variant.id }, { onSuccess: (v) => setParams({ variant: v.letter }) })
          }
          onRead={(name, steps) => {
            setTrouble(null)
            create.mutate({ name: name.slice(0, 120), steps }, { onSuccess: (v) => setParams({ variant: v.letter }) })
          }}
          onTrouble={setTrouble}
        />
        <Button
          component={Link}
          to={`/study/${studyId}/trials${variant ? `?variant=${variant.letter}` : ''}`}
          variant="contained"
          color="primary"
        >
          Plan a trial
        </Button>
      </Head>
      <div className="sheet fit split">
        <section className="col" style={{ flex: 1, overflow: 'auto' }}>
          {variants.length > 1 && (
            <div className="narrow" role="tablist" aria-label="Variants">
              {variants.map((v) => (
                <button
                  key={v.id}
                  type="button"
                  role="tab"
                  aria-selected={v.id === variant?.id}
                  className="slot"
                  style={{
                    borderBottom: v.id === variant?.id ? '2px solid var(--ink)' : '0',
                    fontWeight: v.id === variant?.id ? 640 : 400,
                  }}
                  onClick={() => {
                    setParams({ variant: v.letter })
                    setDraft(null)
                    setPast([])
                    setFuture([])
                  }}
                >
                  {v.letter} {v.name}{' '}
                  <span className="soft">
                    {v.columnsAfter} columns, {whole(v.missingAfter)} missing
                  </span>
                </button>
              ))}
            </div>
          )}
          {preparation.isPending && hasTable && <Loading what="the steps" />}
          <div style={{ padding: '0 16px' }}>
            {stored && change.variables?.steps ? (
              <TwoVersions
                rows={bothLists(change.variables.steps, stored.steps.map(settingsOf), kinds.data?.steps ?? [])}
                busy={change.isPending}
                onMine={() => change.mutate({ variant: stored, steps: change.variables?.steps ?? [] }, { onSuccess: () => setDraft(null) })}
                onStored={() => {
                  change.reset()
                  setDraft(null)
                }}
              />
            ) : (
              <Trouble error={preparation.error ?? change.error ?? create.error ?? trouble} onRetry={() => void preparation.refetch()} />
            )}
          </div>
          {shown && variant && preparation.data && (
            <StepList
              view={shown}
              kinds={kinds.data?.steps ?? []}
              draftAt={draft?.at ?? null}
              onAdd={(k) => setDraft({ at: steps.length, step: freshStep(k) })}
              onCopy={(at) => apply([...steps.slice(0, at + 1), steps[at]!, ...steps.slice(at + 1)])}
              onEdit={(at) => setDraft({ at, step: steps[at]! })}
              onRemove={(at) => apply(steps.filter((_, i) => i !== at))}
              onToggle={(at) => apply(steps.map((s, i) => (i === at ? { ...s, off: !s.off } : s)))}
              onMove={(at, by) => {
                const next = [...steps]
                const [moved] = next.splice(at, 1)
                next.splice(at + by, 0, moved!)
                apply(next)
              }}
            />
          )}
        </section>
        {!draft && variant && (
          <section className="col pad" style={{ width: 320, overflow: 'auto' }} aria-label="Still missing">
            <AdviceNotes advice={variant.advice} busy={change.isPending} onTake={(next) => apply(next)} />
            <h2 className="fig-title">
              {variant.left.length === 0
                ? 'Nothing is missing any more'
                : `${count(variant.left.length, 'column still has', 'columns still have')} missing cells`}
            </h2>
            <p className="fig-sub">A regression cannot answer for a row with a missing value in a column it uses.</p>
            <table className="ledger" aria-label="Columns with missing cells" style={{ marginTop: 8 }}>
              <thead>
                <tr>
                  <th>Column</th>
                  <th style={{ width: 80 }}>Kind</th>
                  <th className="n" style={{ width: 76 }}>
                    Missing
                  </th>
                </tr>
              </thead>
              <tbody>
                {variant.left.map((c) => (
                  <tr key={c.name}>
                    <td className="nm" title={c.name}>
                      {c.name}
                    </td>
                    <td>{c.kind}</td>
                    <td className="n">{whole(c.missing)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {variant.left.some((c) => c.kind !== 'text' && c.kind !== 'identifier') && (
              <p style={{ marginTop: 10 }}>
                <Button
                  size="small"
                  onClick={() =>
                    setDraft({
                      at: steps.length,
                      step: {
                        step: 'fill_missing',
                        columns: variant.left.filter((c) => c.kind !== 'text' && c.kind !== 'identifier').map((c) => c.name),
                        method: 'median',
                        mark: false,
                      },
                    })
                  }
                >
                  Fill these…
                </Button>
              </p>
            )}
            {variant.left.some((c) => c.kind === 'text' || c.kind === 'identifier') && (
              <p style={{ marginTop: 8 }}>
                <Button
                  size="small"
                  onClick={() =>
                    setDraft({
                      at: steps.length,
                      step: {
                        step: 'set_aside',
                        columns: variant.left.filter((c) => c.kind === 'text' || c.kind === 'identifier').map((c) => c.name),
                      },
                    })
                  }
                >
                  Set the texts aside…
                </Button>
              </p>
            )}
          </section>
        )}
        {draft && preparation.data && (
          <section className="col" style={{ width: 404, overflow: 'hidden' }} aria-label="Preview">
            <header
              style={{
                minHeight: 34,
                display: 'flex',
                gap: 8,
                alignItems: 'center',
                padding: '0 12px',
                background: 'var(--brass-wash)',
                borderBottom: '1px solid var(--brass)',
                fontSize: 13,
              }}
            >
              <b>Preview</b> step {draft.at + 1}. Nothing is applied yet.
            </header>
            <div
              style={{ padding: '10px 14px', display: 'flex', flexDirection: 'column', gap: 10, flex: 1, minHeight: 0, overflow: 'auto' }}
            >
              {kind && kinds.data && (
                <StepForm
                  key={draft.at + kind.step}
                  step={draft.step}
                  kind={kind}
                  kinds={kinds.data}
                  columns={look?.columns ?? preparation.data.columns}
                  problem={drafted?.problem ?? null}
                  onChange={(step) => setDraft({ ...draft, step })}
                />
              )}
              <Trouble error={preview.error ?? kinds.error} />
              {preview.isPending && <Loading what="what it costs" />}
              {drafted && <TollLedger step={drafted} />}
              {look && draft && (look.ways ?? []).length > 0 && (
                <Ways
                  ways={look.ways}
                  chosen={draft.step.step === 'drop_rows' ? 'drop rows' : String(draft.step.method ?? 'median')}
                  onChoose={(method) => {
                    const { columns, note } = draft.step
                    const kept = { columns, ...(note ? { note } : {}) }
                    setDraft({
                      ...draft,
                      step:
                        method === 'drop rows'
                          ? { step: 'drop_rows', ...kept }
                          : {
                              ...(draft.step.step === 'fill_missing' ? draft.step : { step: 'fill_missing', mark: true, ...kept }),
                              method,
                            },
                    })
                  }}
                />
              )}
              {look?.bins && (
                <CutPoints
                  look={look.bins as unknown as BinsLook}
                  event={study.data?.event ?? null}
                  onCuts={(cuts) =>
                    setDraft({ ...draft, step: { ...draft.step, method: 'own cut points', cuts: [...cuts].sort((a, b) => a - b) } })
                  }
                />
              )}
              {look?.look && !look.bins && <StepLook look={look.look as unknown as Look} />}
              <AdviceNotes
                advice={(preview.data?.advice ?? []).filter((a) => !variant?.advice.some((o) => o.says === a.says))}
                busy={change.isPending}
                onTake={(next) => apply(next)}
              />
              <TextField
                label="Note (why)"
                value={draft.step.note ?? ''}
                onChange={(e) => setDraft({ ...draft, step: { ...draft.step, note: e.target.value } })}
                slotProps={{ htmlInput: { maxLength: 500 } }}
              />
            </div>
            <div style={{ display: 'flex', gap: 8, alignItems: 'center', padding: '8px 14px', borderTop: '1px solid var(--ink)' }}>
              <Button
                variant="contained"
                color="primary"
                disabled={!proposed || !drafted || drafted.problem != null || preview.isPlaceholderData || change.isPending}
                onClick={() => proposed && apply(proposed)}
              >
                Apply step {draft.at + 1}
              </Button>
              <Button onClick={() => setDraft(null)}>Discard</Button>
              <span className="soft small">Learned on training rows only.</span>
            </div>
          </section>
        )}
      </div>
    </>
  )
}

/** Two lists of steps, line by line. */
function bothLists(mine: Step[], stored: Step[], kinds: Described[]) {
  const say = (s: Step | undefined) =>
    s
      ? `${kinds.find((k) => k.step === s.step)?.title ?? s.step}: ${columnsOf(s)}${typeof s.method === 'string' ? `, ${s.method}` : ''}${s.off ? ', switched off' : ''}`
      : ''
  return Array.from({ length: Math.max(mine.length, stored.length) }, (_, i) => ({
    name: `Step ${i + 1}`,
    mine: say(mine[i]),
    stored: say(stored[i]),
  }))
}

function NoTable({ studyId }: { studyId: number }) {
  return (
    <>
      <Head title="Preparation" say="There is no table to prepare yet." />
      <div className="sheet fit">
        <div className="empty">
          <h2>Here the table is made ready for a model</h2>
          <p>Each step says what it costs before it is applied, can be undone, and is repeated for every new record.</p>
          <Button component={Link} to={`/study/${studyId}/import`} variant="contained" color="primary">
            Import a table
          </Button>
        </div>
      </div>
    </>
  )
}
