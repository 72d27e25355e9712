import { Button, Tab, Tabs } from '@mui/material'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { useAskWhy, useBecause } from '../../data/decision'
import { useStudyId } from '../../data/study'
import {
  type Decision,
  type ListRow,
  money,
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
import { count, cutoffSaid, fixed, share, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { IntervalMark } from '../../ui/IntervalMark'
import { Ledger } from '../../ui/Ledger'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'
import { TwoVersions } from '../../ui/TwoVersions'
import { ChanceBands } from './ChanceBands'
import { Measure, MeasuredNote } from './Measure'
import { ReturnCurve } from './ReturnCurve'
import { TakeList } from './TakeList'
import { TermsDialog } from './TermsDialog'
import { Assumptions, EdgesField, FewTerms, TierLedger, TierMatrix } from './TierLedger'

const TIERS = ['I', 'II', 'III', 'IV']
const SHOWN = 200

/** From scored records to a list of actions: whom, what it costs, what it brings and how sure that is. */
export function ActionList() {
  const studyId = useStudyId()
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
      { onSuccess: () => setAsking(null) },
    )
  }
  const newer = storedInstead<{ name: string; terms: Terms }>(change.error)
  const several = data?.task === 'several classes'
  const base = `/study/${studyId}/decisions/${scoringId}`
  return (
    <>
      <Head
        title={data && data.name !== 'List' ? data.name : 'Action list'}
        small={data && `${data.tableName}, scored by trial ${data.trialNumber}; a draft`}
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

/** The outcome in a sentence. */
function Says({ decision: d }: { decision: Decision }) {
  const { unit } = d.terms
  if (d.acted.actions === 0) return <b>With these amounts no action is expected to pay.</b>
  return (
    <>
      <b>
        {whole(d.acted.actions)} of {whole(d.scored)} are acted on:
      </b>{' '}
      {d.task === 'several classes' ? (
        <>expected to bring {money(d.acted.return, unit)} more than doing nothing.</>
      ) : (
        <>
          expected to prevent {fixed(d.acted.prevented, 1)} events and to bring {money(d.acted.return, unit)} after{' '}
          {money(d.acted.cost, unit)} of cost
          {d.drawn && (
            <>
              , in 90 of 100 cases {money(d.drawn.low, unit)} to {money(d.drawn.high, unit)}
              {d.drawn.loss >= 0.005 && `; a loss in ${share(d.drawn.loss, 0)}`}
            </>
          )}
          .
        </>
      )}
    </>
  )
}

function columnsOf(d: Decision, names: string[]) {
  const several = d.task === 'several classes'
  const { unit } = d.terms
  return [
    ...names.map((name, i) => ({
      key: name,
      title: name,
      width: 96,
      gives: i === 0 ? undefined : 2 + names.length - i,
      cell: (r: ListRow) => <span title={r.cells[i] ?? ''}>{r.cells[i] ?? '–'}</span>,
    })),
    ...(several
      ? [{ key: 'action', title: 'Do', width: 120, cell: (r: ListRow) => <b>{r.action ?? '–'}</b> }]
      : [
          { key: 'chance', title: 'Chance', number: true, width: 62, cell: (r: ListRow) => share(r.chance, 0) },
          {
            key: 'mark',
            title: '',
            width: 66,
            gives: 1,
            said: () => false,
            className: 'mark',
            cell: (r: ListRow) => (
              <IntervalMark value={r.chance} scale={[0, 1]} width={62} tone={r.place != null ? 'verdigris' : r.left ? 'brass' : 'soft'} />
            ),
          },
          {
            key: 'value',
            title: 'At stake',
            number: true,
            width: 72,
            gives: 3,
            cell: (r: ListRow) => money(r.value, unit),
          },
        ]),
    { key: 'return', title: 'Return', number: true, width: 74, cell: (r: ListRow) => <b>{money(r.return, unit)}</b> },
    ...(several
      ? []
      : [{ key: 'tier', title: 'Tier', width: 40, cell: (r: ListRow) => <b>{r.rank == null ? '–' : TIERS[r.rank - 1]}</b> }]),
    {
      key: 'because',
      title: 'Because',
      least: 200,
      cell: (r: ListRow) => (
        <span title={r.because} className={r.left ? 'brass' : ''}>
          {r.left ? 'left untouched by draw' : r.because}
        </span>
      ),
    },
  ]
}

/** What the list can bear, and what a plain cut-off or no list would bring. */
function Bears({ decision: d }: { decision: Decision }) {
  const { unit } = d.terms
  const n = d.all.actions
  const plain = d.cutOff?.figures
  return (
    <div className="size-13 above-8">
      {d.costBorne != null && d.worksBorne != null && (
        <p>
          The list returns nothing when an action costs {money(d.costBorne, unit)}, or works in {share(d.worksBorne)} of cases.
        </p>
      )}
      {d.cutOff && (
        <p>
          A plain cut-off at {cutoffSaid(Number(d.cutOff.chance.toPrecision(4)))} would act on {whole(plain?.actions)} and bring{' '}
          {money(plain?.return, unit)}: right in {share(d.cutOff.precision, 0)} of them, catching {share(d.cutOff.recall, 0)} of events.
        </p>
      )}
      {n > 0 && (
        <p>
          As many drawn by chance would bring {money((d.all.return * d.acted.actions) / n, unit)}. With no list {money(d.none, unit)} are
          expected to be lost.
        </p>
      )}
    </div>
  )
}

/** The comparison group: what effect it could show, and measuring it. */
function Untouched({ decision: d, onMeasure, onTerms }: { decision: Decision; onMeasure: () => void; onTerms: () => void }) {
  if (d.left === 0)
    return (
      <p className="soft size-13 above-8">
        Nobody is left untouched, so that the effect cannot be measured later.{' '}
        <button type="button" className="link" onClick={onTerms}>
          Leave a part untouched…
        </button>
      </p>
    )
  const tooMuch = (d.visible ?? 0) > d.terms.worksHigh ? ': more than is assumed here' : ''
  return (
    <p className="size-13 above-8">
      {whole(d.left)} are left untouched by draw.{' '}
      {d.task !== 'several classes' &&
        (d.visible == null
          ? 'They are too few to show any effect.'
          : `They would show an effect from ${share(d.visible, 0)} of events prevented on, in 4 of 5 such lists${tooMuch}.`)}{' '}
      <button type="button" className="link" onClick={onMeasure}>
        Measure the effect…
      </button>
    </p>
  )
}

/** Of several classes: which action how many get. */
function Actions({ decision: d }: { decision: Decision }) {
  return (
    <section className="pad">
      <table className="ledger" aria-label="What is done">
        <thead>
          <tr>
            <th>Action</th>
            <th className="n">Records</th>
            <th className="n">Return</th>
          </tr>
        </thead>
        <tbody>
          {d.actions.map((a) => (
            <tr key={a.name}>
              <td>
                <b>{a.name}</b>
              </td>
              <td className="n">{whole(a.records)}</td>
              <td className="n">{money(a.return, d.terms.unit)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
