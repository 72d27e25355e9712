import { Button, Tab, Tabs } from '@mui/material'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { useAskWhy, useBecause } from '../../data/decision'
import { useStudyId } from '../../data/study'
import { isDraft, useApprovals } from '../../data/work'
import {
  type Decision,
  sheetUrl,
  type Terms,
  useChangeDecision,
  useDecision,
  useDecisions,
  useListRows,
  useMakeDecision,
  useRemoveDecision,
  type WhichOfList,
} from '../../data/list'
import { storedInstead } from '../../api/client'
import { useAddress } from '../../ui/address'
import { count, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Ledger } from '../../ui/Ledger'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'
import { TwoVersions } from '../../ui/TwoVersions'
import { ChanceBands } from './ChanceBands'
import { Actions, Bears, columnsOf, Says, Untouched } from './ListParts'
import { Measure, MeasuredNote } from './Measure'
import { ReturnCurve } from './ReturnCurve'
import { TakeList } from './TakeList'
import { TermsDialog } from './TermsDialog'
import { Assumptions, EdgesField, FewTerms, TierLedger, TierMatrix } from './TierLedger'

const SHOWN = 200

/** From scored records to a list of actions: whom, what it costs, what it brings and how sure that is. */
export function ActionList() {
  const studyId = useStudyId()
  const approvals = useApprovals(studyId)
  const go = useNavigate()
  const id = Number(useParams().decisionId)
  const scoringId = Number(useParams().scoringId)
  const decision = useDecision(id)
  const others = useDecisions(scoringId, true)
  const [params, set] = useAddress()
  const [asking, setAsking] = useState<'terms' | 'take' | 'measure' | null>(null)
  const [mine, setMine] = useState<{ name: string; terms: Terms } | null>(null)
  const change = useChangeDecision(decision.data)
  const make = useMakeDecision(scoringId)
  const remove = useRemoveDecision(decision.data)
  const data = decision.data
  const which = (params.get('which') ?? 'acted') as WhichOfList
  const carry = params.has('columns') ? params.get('columns')!.split(',').filter(Boolean) : usual(data)
  const because = useBecause(scoringId, data !== undefined)
  const why = useAskWhy(scoringId)
  const rows = useListRows(id, which, carry, SHOWN, `${because.data?.jobId ?? ''} ${because.data?.looked ?? ''}`, data !== undefined)
  const silent = which === 'acted' && (rows.data?.rows.some((r) => r.because === '') ?? false)
  const save = (terms: Terms, name?: string, over?: number) => {
    setMine({ name: name ?? data?.name ?? '', terms })
    change.mutate(
      { terms, ...(name === undefined ? {} : { name }), ...(over === undefined ? {} : { over }) },
      // An edge that was moved is kept meanwhile: what was opened since stays open.
      { onSuccess: () => setAsking((open) => (open === 'terms' ? null : open)) },
    )
  }
  const newer = storedInstead<{ name: string; terms: Terms }>(change.error)
  const several = data?.task === 'several classes'
  const base = `/study/${studyId}/decisions/${scoringId}`
  return (
    <>
      <Head
        title={data && data.name !== 'List' ? data.name : 'Action list'}
        small={
          data && `${data.tableName}, scored by trial ${data.trialNumber}${isDraft(approvals.data, data.trialNumber) ? '; a draft' : ''}`
        }
        say={data && <Says decision={data} />}
      >
        {others.data && (
          <span className="size-13">
            <Slot
              label="List"
              value={String(id)}
              choices={[
                ...others.data.map((d) => ({ value: String(d.id), label: d.name })),
                { value: 'new', label: 'another list beside it…', effect: 'with the terms of this one' },
                ...(others.data.length > 1 ? [{ value: 'remove', label: 'remove this list' }] : []),
              ]}
              onChange={(v) => {
                if (v === 'new')
                  make.mutate(data ? { name: '', terms: data.terms } : { name: '' }, { onSuccess: (d) => void go(`${base}/list/${d.id}`) })
                else if (v === 'remove')
                  remove.mutate(undefined, {
                    onSuccess: () => void go(`${base}/list/${others.data.find((d) => d.id !== id)?.id}`),
                  })
                else void go(`${base}/list/${v}`)
              }}
            />
          </span>
        )}
        <Button component={Link} to={base}>
          All {whole(data?.rows)}
        </Button>
        <Button onClick={() => setAsking('terms')} disabled={!data}>
          Change costs…
        </Button>
        <Button component="a" href={sheetUrl(id, carry)} target="_blank" rel="noopener" disabled={!data}>
          Sheet
        </Button>
        <Button variant="contained" color="primary" disabled={!data} onClick={() => setAsking('take')}>
          Take along…
        </Button>
      </Head>
      <div className="sheet stack">
        {decision.isPending && <Loading what="the list" />}
        <Trouble error={decision.error ?? make.error ?? remove.error ?? (newer || asking === 'terms' ? null : change.error)} />
        {newer && mine && (
          <TwoVersions
            rows={differences(mine, newer)}
            busy={change.isPending}
            onMine={() => void decision.refetch().then((now) => save(mine.terms, mine.name, now.data?.version))}
            onStored={() => {
              change.reset()
              setAsking(null)
              void decision.refetch()
            }}
          />
        )}
        {data && (
          <>
            {data.own && (
              <p className="brass small pad">These are the records the model was fitted on: the list looks better than it is.</p>
            )}
            <MeasuredNote decision={data} />
            {several ? (
              <Actions decision={data} />
            ) : (
              <div className="zones even">
                <section className="col pad">
                  <ChanceBands decision={data} onEdges={(chanceEdges) => save({ ...data.terms, chanceEdges })} />
                </section>
                <section className="col pad">
                  <ReturnCurve decision={data} />
                </section>
              </div>
            )}
            <div className="zones ruled">
              <section className="col pad" style={{ width: 'min(360px, 38%)' }}>
                {!several && (
                  <>
                    <TierMatrix decision={data} />
                    <p className="above-4" style={{ display: 'flex', gap: 10, flexWrap: 'wrap' }}>
                      <EdgesField
                        label="Edges, chance"
                        ofChance
                        edges={data.terms.chanceEdges as number[]}
                        onDone={(chanceEdges) => save({ ...data.terms, chanceEdges })}
                      />
                      {data.terms.worthColumn != null && (
                        <EdgesField
                          label="Edges, value"
                          ofChance={false}
                          edges={data.terms.valueEdges as number[]}
                          onDone={(valueEdges) => save({ ...data.terms, valueEdges })}
                        />
                      )}
                    </p>
                    <TierLedger decision={data} />
                    <FewTerms terms={data.terms} onChange={(c) => save({ ...data.terms, ...c })} />
                    <Assumptions decision={data} />
                    <Bears decision={data} />
                  </>
                )}
                {several && <ReturnCurve decision={data} />}
                <Untouched decision={data} onMeasure={() => setAsking('measure')} onTerms={() => setAsking('terms')} />
              </section>
              <section className="col grows">
                <Tabs
                  value={which}
                  onChange={(_, v: WhichOfList) => set({ which: v === 'acted' ? null : v })}
                  aria-label="Which records"
                  sx={{ px: 1.5 }}
                >
                  <Tab value="acted" label={`Act on ${whole(data.acted.actions)}`} />
                  {data.left > 0 && <Tab value="left" label={`Left untouched ${whole(data.left)}`} />}
                  <Tab value="all" label={`All by return ${whole(data.scored - data.unknown)}`} />
                </Tabs>
                <Trouble error={rows.error} />
                {rows.isLoading && <Loading what="the records" />}
                {rows.data && rows.data.total === 0 && (
                  <p className="soft pad">{which === 'acted' ? 'With these amounts no action is expected to pay.' : 'No record here.'}</p>
                )}
                {rows.data && rows.data.total > 0 && (
                  <>
                    <Ledger
                      label="The list"
                      rows={rows.data.rows}
                      rowKey={(r) => r.number}
                      selected={null}
                      onSelect={(r) => void go(`/study/${studyId}/reasons?batch=${scoringId}&record=${r.number}`)}
                      lineNumber={(r) => r.place ?? ''}
                      columns={columnsOf(data, rows.data.names)}
                    />
                    <p className="soft small" style={{ padding: '6px 14px', borderTop: '1px solid var(--ink)' }}>
                      {whole(rows.data.rows.length)} of {whole(rows.data.total)} shown; what is taken along holds all. Enter opens a
                      record’s reasons.
                      {silent && (
                        <>
                          {' '}
                          <button
                            type="button"
                            className="link"
                            disabled={why.isPending || because.data?.jobId != null}
                            onClick={() => why.mutate()}
                          >
                            {because.data?.jobId != null ? 'Looking at reasons…' : 'Add the reasons that are missing'}
                          </button>
                        </>
                      )}
                      {data.unknown > 0 &&
                        ` ${count(data.unknown, 'record has', 'records have')} no value in ${data.terms.worthColumn}: not on the list.`}
                    </p>
                  </>
                )}
              </section>
            </div>
          </>
        )}
      </div>
      {asking === 'terms' && data && (
        <TermsDialog
          decision={data}
          busy={change.isPending}
          error={newer ? null : change.error}
          onClose={() => {
            change.reset()
            setAsking(null)
          }}
          onSave={(name, terms) => save(terms, name)}
        />
      )}
      {asking === 'take' && data && <TakeList decision={data} which={which} onClose={() => setAsking(null)} />}
      {asking === 'measure' && data && <Measure decision={data} onClose={() => setAsking(null)} />}
    </>
  )
}

/** What tells a record apart, and what capacity goes by, stand beside it. */
function usual(data: Decision | undefined): string[] {
  if (!data) return []
  const first = data.key ?? data.columns[0]
  const date = data.columns.find((c) => /date|day/i.test(c) && c !== first)
  return [...new Set([first, data.terms.eachBy ?? date].filter((c): c is string => c != null))]
}

function differences(mine: { name: string; terms: Terms }, stored: { name: string; terms: Terms }) {
  const keys = Object.keys(mine.terms) as (keyof Terms)[]
  return [
    { name: 'name', mine: mine.name, stored: stored.name },
    ...keys
      .filter((k) => JSON.stringify(mine.terms[k]) !== JSON.stringify(stored.terms[k]))
      .map((k) => ({ name: k, mine: JSON.stringify(mine.terms[k]), stored: JSON.stringify(stored.terms[k]) })),
  ]
}
