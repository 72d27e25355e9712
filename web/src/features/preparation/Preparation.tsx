import { Button } from '@mui/material'
import { useEffect, useMemo, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { storedInstead } from '../../api/client'
import { count, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Loading, Trouble } from '../../ui/Trouble'
import { TwoVersions } from '../../ui/TwoVersions'
import { useStudy, useStudyId } from '../../data/study'
import {
  columnsOf,
  type Described,
  freshStep,
  settingsOf,
  type Step,
  useChangeVariant,
  type Variant,
  useCreateVariant,
  useDiscardVariant,
  useExactTolls,
  usePreparation,
  usePreview,
  useSteps,
} from '../../data/preparation'
import { Compare } from './Compare'
import { More } from './More'
import { PreviewPanel } from './PreviewPanel'
import { Proposed } from './Proposed'
import { StepList } from './StepList'
import { StillMissing } from './StillMissing'

/** The steps of a variant with their tolls; a step is previewed before it is applied, and can be undone after. */
export function Preparation() {
  const studyId = useStudyId()
  const study = useStudy(studyId)
  const hasTable = study.data?.tableId != null
  const preparation = usePreparation(studyId, hasTable)
  const [params, setParams] = useSearchParams()
  const change = useChangeVariant()
  const create = useCreateVariant(studyId)
  const discard = useDiscardVariant()
  const variants = preparation.data?.variants ?? []
  const variant = variants.find((v) => v.letter === params.get('variant')) ?? variants[0]
  const steps = useMemo(() => variant?.steps.map(settingsOf) ?? [], [variant])
  const [draft, setDraft] = useState<Draft | null>(null)
  const open = (step: Step, at = steps.length) => setDraft({ at, step, fresh: at >= steps.length, opened: Symbol('draft') })
  const kinds = useSteps()
  const asked = params.get('step')
  const [trouble, setTrouble] = useState<unknown>(null)
  const [past, setPast] = useState<Step[][]>([])
  const [future, setFuture] = useState<Step[][]>([])
  const proposed = draft ? [...steps.slice(0, draft.at), draft.step, ...steps.slice(draft.at + 1)] : null
  const preview = usePreview(variant, proposed, draft?.at ?? 0)

  useExactTolls(draft ? preview.data : variant, proposed ?? steps)

  /** Steps in the place of those there are; a draft that they come from closes once they are kept, one opened meanwhile stays. */
  function apply(next: Step[], closes: Draft | null = null, remember = true) {
    if (!variant) return
    if (remember) {
      setPast([...past, steps])
      setFuture([])
    }
    change.mutate(
      { variant, steps: next },
      { onSuccess: () => setDraft((d) => (d?.opened === closes?.opened ? null : placed(d, steps, next))) },
    )
  }
  const undo = () => {
    const before = past[past.length - 1]
    if (!before) return
    setPast(past.slice(0, -1))
    setFuture([steps, ...future])
    apply(before, null, false)
  }
  const redo = () => {
    const next = future[0]
    if (!next) return
    setFuture(future.slice(1))
    setPast([...past, steps])
    apply(next, null, false)
  }

  // A finding sent us here with a remedy: the step is drafted, not applied.
  useEffect(() => {
    if (asked === null || !variant) return
    try {
      const step = JSON.parse(asked) as Step
      setDraft({ at: steps.length, step, fresh: true, opened: Symbol('draft') })
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
          onCopy={(name) =>
            variant && create.mutate({ name, copyFrom: variant.id }, { onSuccess: (v) => setParams({ variant: v.letter }) })
          }
          onRename={(name) => variant && change.mutate({ variant, name })}
          onDiscard={() => variant && discard.mutate(variant.id, { onSuccess: () => setParams({}) })}
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
            <div
              className="narrow"
              role="tablist"
              aria-label="Variants"
              style={{ flex: '0 0 auto', display: 'flex', flexWrap: 'wrap', height: 'auto', rowGap: 4 }}
            >
              {variants.map((v) => (
                <button
                  key={v.id}
                  type="button"
                  role="tab"
                  aria-selected={v.id === variant?.id}
                  className="slot"
                  style={{
                    maxWidth: '100%',
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
              <Trouble
                error={preparation.error ?? change.error ?? create.error ?? discard.error ?? trouble}
                onRetry={() => void preparation.refetch()}
              />
            )}
          </div>
          {shown && variant && preparation.data && (
            <StepList
              view={shown}
              kinds={kinds.data?.steps ?? []}
              draftAt={draft?.at ?? null}
              onAdd={(k) => open(freshStep(k))}
              onCopy={(at) => apply([...steps.slice(0, at + 1), steps[at]!, ...steps.slice(at + 1)])}
              onEdit={(at) => open(steps[at]!, at)}
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
        {!draft && variant && study.data?.tableId != null && (
          <Proposed
            tableId={study.data.tableId}
            there={(preparation.data?.columns ?? [])
              .filter((c) => c.kind !== 'identifier')
              .map((c) => c.name)
              .filter((name) => !isSetAside(steps, name))}
            onDraft={(step) => open(step)}
          />
        )}
        {!draft && variant && (
          <StillMissing variant={variant} busy={change.isPending} onTake={(next) => apply(next)} onDraft={(step) => open(step)} />
        )}
        {draft && preparation.data && (
          <PreviewPanel
            at={draft.at}
            step={draft.step}
            kinds={kinds.data}
            preview={preview.data}
            columns={preparation.data.columns}
            event={study.data?.event ?? null}
            error={preview.error ?? kinds.error}
            pending={preview.isPending}
            busy={preview.isPlaceholderData || change.isPending}
            known={variant?.advice ?? []}
            onChange={(step) => setDraft({ ...draft, step })}
            onTake={(next) => apply(next, draft)}
            onApply={() => proposed && apply(proposed, draft)}
            onDiscard={() => setDraft(null)}
          />
        )}
      </div>
    </>
  )
}

/** A step that is written and not kept yet: a new one at the end, or another form of one that is there. */
type Draft = { at: number; step: Step; fresh: boolean; opened: symbol }

/** Where a draft stands once other steps were kept: a new one at their end, a changed one where its step is now; none where it is gone. */
function placed(draft: Draft | null, before: Step[], after: Step[]): Draft | null {
  if (draft === null) return null
  if (draft.fresh) return { ...draft, at: after.length }
  const own = JSON.stringify(before[draft.at])
  const at = after.findIndex((s) => JSON.stringify(s) === own)
  if (at >= 0) return { ...draft, at }
  // Switched off, or changed elsewhere: it is still the one at this place.
  return after.length === before.length ? draft : null
}

/** Whether a step that is switched on takes the column out already. */
function isSetAside(steps: Step[], name: string): boolean {
  const named = (s: Step) => ((s.columns as string[] | undefined) ?? []).includes(name)
  return steps.some((s) => !s.off && ((s.step === 'set_aside' && named(s)) || (s.step === 'keep_only' && !named(s))))
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
