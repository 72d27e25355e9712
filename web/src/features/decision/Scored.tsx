import { Button, Tab, Tabs } from '@mui/material'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { useAddress } from '../../ui/address'
import type { View } from '../../api/client'
import { count, date, fixed, number, share, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { IntervalMark } from '../../ui/IntervalMark'
import { Ledger } from '../../ui/Ledger'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'
import { NamedSelections } from '../../sections/NamedSelections'
import { useStudyId } from '../../data/study'
import { useDecisions, useMakeDecision } from '../../data/list'
import { Download } from './Download'
import { GroupsBeside } from './GroupsBeside'
import { Helps } from './Helps'
import { BatchesBeside } from './BatchesBeside'
import { parseConditions } from '../../data/conditions'
import { bandOf, Narrowing, scaleOf } from './Narrowing'
import { KeepAsTable } from './KeepAsTable'
import { SaveRoutine } from './SaveRoutine'
import { type Scoring, useScoredRows, useScoring, type Which, useAskWhy, useBatches, useBecause } from '../../data/decision'

/** The scored records as a ledger: narrowed, sorted, searched, downloaded. */
export function Scored() {
  const studyId = useStudyId()
  const go = useNavigate()
  const id = Number(useParams().scoringId)
  const scoring = useScoring(id)
  const [params, set] = useAddress()
  const [taking, setTaking] = useState(false)
  const [helping, setHelping] = useState(false)
  const [groups, setGroups] = useState(false)
  const [keeping, setKeeping] = useState(false)
  const [again, setAgain] = useState(false)
  const [beside, setBeside] = useState(false)
  const data = scoring.data
  const which = (params.get('which') ?? 'all') as Which
  const sort = params.get('sort') ?? 'chance'
  const descending = params.get('up') !== '1'
  const search = params.get('search') ?? ''
  const carry = params.has('columns') ? params.get('columns')!.split(',') : (data?.columns.slice(0, 5) ?? [])
  const scale = scaleOf(data)
  const band = bandOf(params, data)
  const where = parseConditions(params.get('where')).length === 0 ? null : params.get('where')
  const any = params.get('any') === '1'
  const rows = useScoredRows(
    id,
    { which, sort, descending, search, carry, of: params.get('class'), band, where, any },
    data?.state === 'done',
  )
  // Some learners give no reasons by themselves: an empty column would say that nothing speaks for it.
  const silent = rows.data !== undefined && rows.data.rows.length > 0 && rows.data.rows.every((r) => !r.why && !r.reasons)
  const isEvent = data?.task === 'two classes'
  const because = useBecause(id, data?.state === 'done')
  const why = useAskWhy(id)
  const of = params.get('class')
  const left = data ? data.scored - data.called : 0
  const lists = useDecisions(id, data?.state === 'done')
  const make = useMakeDecision(id)
  const batches = useBatches(studyId, data?.state === 'done')
  const others = (batches.data ?? []).filter(
    (b) => b.id !== id && b.state === 'done' && b.tableId === data?.tableId && b.task === data.task,
  )
  return (
    <>
      <Head
        title={data ? `${data.tableName}, scored` : 'Scored records'}
        small={
          data && (
            <span title={date(data.createdAt)}>
              by trial {data.trialNumber}
              {data.draft && '; a draft'}
            </span>
          )
        }
        say={
          data?.state === 'done' && (
            <>
              <Outcome scoring={data} />
              {because.data && because.data.looked > 0 && <Why because={because.data} />}
              {(because.data?.groups.filter((g) => g.effects.length > 0).length ?? 0) > 1 && (
                <>
                  {' '}
                  <button type="button" className="link" onClick={() => setGroups(true)}>
                    Groups side by side
                  </button>
                </>
              )}
              {because.data && because.data.looked === 0 && (
                <>
                  {' '}
                  <button
                    type="button"
                    className="link"
                    disabled={why.isPending || because.data.jobId != null}
                    onClick={() => why.mutate()}
                  >
                    {because.data.jobId != null ? 'Looking at reasons…' : 'Add reasons to the list'}
                  </button>
                </>
              )}{' '}
              {data.task !== 'several classes' && data.scored > 0 && (
                <>
                  <button type="button" className="link" onClick={() => setHelping(true)}>
                    What would help most
                  </button>{' '}
                </>
              )}
              {others.length > 0 && (
                <>
                  <button type="button" className="link" onClick={() => setBeside(true)}>
                    Beside another trial
                  </button>{' '}
                </>
              )}
              <button type="button" className="link" onClick={() => setAgain(true)}>
                Save as a routine
              </button>
              {data.scored < data.rows && ` ${whole(data.rows - data.scored)} could not be scored and are listed.`}
            </>
          )
        }
      >
        <Button component={Link} to={`/study/${studyId}/decisions`}>
          Another table…
        </Button>
        <Button disabled={data?.state !== 'done'} onClick={() => setKeeping(true)}>
          As a table…
        </Button>
        <Button disabled={data?.state !== 'done'} onClick={() => setTaking(true)}>
          Download list…
        </Button>
        <Button
          variant="contained"
          color="primary"
          disabled={data?.state !== 'done' || data.scored === 0 || !lists.data || make.isPending}
          onClick={() => {
            const first = lists.data?.[0]
            if (first) void go(`/study/${studyId}/decisions/${id}/list/${first.id}`)
            else make.mutate({ name: '' }, { onSuccess: (d) => void go(`/study/${studyId}/decisions/${id}/list/${d.id}`) })
          }}
        >
          Action list
        </Button>
      </Head>
      <div className="sheet fit split">
        <section className="col grows">
          <div style={{ display: 'flex', alignItems: 'center', borderBottom: '1px solid var(--rule)', padding: '0 12px' }}>
            <Tabs value={which} onChange={(_, v: Which) => set({ which: v === 'all' ? null : v })} aria-label="Narrow the list">
              <Tab value="all" label={`All ${whole(data?.rows)}`} />
              {isEvent && <Tab value="called" label={`To call ${whole(data?.called)}`} />}
              {isEvent && <Tab value="left" label={`Left alone ${whole(left)}`} />}
              {data && data.doubtful !== 0 && (
                <Tab value="low" label={`Low confidence${data.doubtful == null ? '' : ` ${whole(data.doubtful)}`}`} />
              )}
              <Tab value="unscored" label={`Not scored ${whole(data ? data.rows - data.scored : 0)}`} />
            </Tabs>
            {data && data.classes.length > 0 && (
              <span className="small" style={{ paddingLeft: 12 }}>
                <Slot
                  label="Likeliest class"
                  value={of ?? ''}
                  choices={[
                    { value: '', label: 'every class' },
                    ...data.classes.map((c) => ({ value: c.name, label: c.name, effect: count(c.records, 'record') })),
                  ]}
                  onChange={(v) => set({ class: v === '' ? null : v })}
                />
              </span>
            )}
            <button
              type="button"
              className="link small"
              style={{ marginLeft: 12 }}
              aria-expanded={band !== null || params.has('by')}
              disabled={data?.state !== 'done' || data.scored === 0}
              onClick={() =>
                set(
                  band === null && !params.has('by')
                    ? { from: String(scale[0]), to: String(scale[1]) }
                    : { from: null, to: null, by: null },
                )
              }
            >
              {band === null && !params.has('by') ? 'By band…' : 'No band'}
            </button>
            {!params.has('where') && (
              <button
                type="button"
                className="link small"
                style={{ marginLeft: 12 }}
                disabled={data?.state !== 'done'}
                onClick={() => set({ where: '[]' })}
              >
                By condition…
              </button>
            )}
            <NamedSelections
              studyId={studyId}
              view={`decisions/${id}`}
              query={params.toString()}
              records={rows.data?.total}
              narrowed={which !== 'all' || search !== '' || band !== null || of !== null || where !== null}
            />
            <input
              value={search}
              onChange={(e) => set({ search: e.target.value || null })}
              placeholder="Search in all columns"
              aria-label="Search in all columns"
              style={{
                marginLeft: 'auto',
                width: 180,
                border: 0,
                borderBottom: '1px solid var(--rule-firm)',
                background: 'none',
                fontSize: 13,
              }}
            />
          </div>
          {data?.state === 'done' && <Narrowing scoring={data} params={params} set={set} total={rows.data?.total} />}
          {(scoring.isPending || data?.state === 'waiting' || rows.isLoading) && <Loading what="the scored records" />}
          {(data?.state === 'failed' || data?.state === 'cancelled') && (
            <Trouble
              error={
                new Error(
                  `The scoring ${data.state === 'failed' ? 'did not finish' : 'was cancelled'}. The table and the model are as they were; score again.`,
                )
              }
            />
          )}
          <Trouble error={scoring.error ?? rows.error ?? make.error} />
          {rows.data && rows.data.total === 0 && <p className="soft pad">No record here{search !== '' && ` holds “${search}”`}.</p>}
          {rows.data && rows.data.total > 0 && (
            <>
              <Ledger
                label="Scored records"
                rows={rows.data.rows}
                rowKey={(r) => r.number}
                selected={null}
                onSelect={(r) => void go(`/study/${studyId}/reasons?batch=${id}&record=${r.number}`)}
                sort={{ key: sort, descending }}
                onSort={(key) => set({ sort: key === 'chance' ? null : key, up: sort === key && descending ? '1' : null })}
                lineNumber={(r) => r.number}
                columns={[
                  ...rows.data.names.map((name, i, names) => ({
                    key: name,
                    title: name,
                    width: 96,
                    // The last of what came with the records gives way first; what tells a record apart stays.
                    gives: i === 0 ? undefined : 2 + names.length - i,
                    sortable: true,
                    cell: (r: { cells: (string | null)[] }) => <span title={r.cells[i] ?? ''}>{r.cells[i] ?? '–'}</span>,
                  })),
                  ...(data?.task === 'several classes'
                    ? [{ key: 'class', title: data.target, width: 110, cell: (r: Row) => <b>{r.class ?? '–'}</b> }]
                    : []),
                  {
                    key: 'chance',
                    title: data?.task === 'number' ? data.target : 'Chance',
                    number: true,
                    width: data?.task === 'number' ? 110 : 72,
                    sortable: true,
                    cell: (r: Row) =>
                      data?.task === 'number' ? (
                        <b>{number(r.answer)}</b>
                      ) : (
                        <b title={data?.classes.map((c, i) => `${c.name} ${share(r.shares[i])}`).join(', ')}>{share(r.chance)}</b>
                      ),
                  },
                  {
                    key: 'mark',
                    title: '',
                    width: 76,
                    gives: 1,
                    said: () => false,
                    className: 'mark',
                    cell: (r) => (
                      <IntervalMark
                        value={data?.task === 'number' ? r.answer : r.chance}
                        scale={data?.task === 'number' ? [data.lowest ?? 0, data.highest ?? 1] : [0, 1]}
                        width={72}
                        tone={r.called ? 'verdigris' : 'soft'}
                        reference={data?.task === 'number' ? (data.mean ?? undefined) : isEvent ? data?.cutoff : undefined}
                      />
                    ),
                  },
                  ...(isEvent
                    ? [
                        {
                          key: 'called',
                          title: 'Call',
                          width: 46,
                          cell: (r: Row) =>
                            r.called == null ? '–' : r.called ? <b className="verd">yes</b> : <span className="soft">no</span>,
                        },
                      ]
                    : []),
                  {
                    key: 'because',
                    least: silent ? 0 : 300,
                    title: silent ? '' : 'Because',
                    cell: (r) => (
                      <span title={r.why ?? r.reasons} className={r.why ? 'brass' : ''}>
                        {r.why ?? r.reasons}
                      </span>
                    ),
                  },
                ]}
              />
              <p className="soft small" style={{ padding: '6px 14px', borderTop: '1px solid var(--ink)' }}>
                {whole(rows.data.rows.length)} of {whole(rows.data.total)} shown; the download holds all. Enter opens a record’s reasons.
              </p>
            </>
          )}
        </section>
      </div>
      {groups && data && because.data && <GroupsBeside scoring={data} because={because.data} onClose={() => setGroups(false)} />}
      {beside && data && others.length > 0 && <BatchesBeside scoring={data} others={others} onClose={() => setBeside(false)} />}
      {again && data && <SaveRoutine scoring={data} onClose={() => setAgain(false)} />}
      {keeping && data && <KeepAsTable scoring={data} onClose={() => setKeeping(false)} />}
      {helping && data && <Helps scoring={data} onClose={() => setHelping(false)} />}
      {taking && data && (
        <Download scoring={data} carry={carry} onClose={() => setTaking(false)} onCarry={(c) => set({ columns: c.join(',') })} />
      )}
    </>
  )
}

type Row = View<'ScoredRowView'>

/** What mainly speaks for the records looked at: "why are the 120 on the list". */
function Why({ because }: { because: View<'BecauseView'> }) {
  const [first, second, third] = because.groups
  return (
    <>
      {' '}
      Of the {whole(because.looked)} highest, {whole(first?.records)} mainly by {first?.says}
      {second && `, ${whole(second.records)} by ${second.says}`}
      {third && `, ${whole(third.records)} by ${third.says}`}.
    </>
  )
}

/** What came out, in a sentence. */
function Outcome({ scoring }: { scoring: Scoring }) {
  if (scoring.task === 'number')
    return (
      <>
        <b>
          {whole(scoring.scored)} of {whole(scoring.rows)} have a number.
        </b>{' '}
        {scoring.mean != null &&
          `${scoring.target} is ${number(scoring.mean)} on average, from ${number(scoring.lowest)} to ${number(scoring.highest)}.`}
      </>
    )
  if (scoring.task === 'several classes')
    return (
      <>
        <b>
          {whole(scoring.scored)} of {whole(scoring.rows)} have a likeliest class.
        </b>{' '}
        {scoring.classes.map((c) => `${c.name} ${whole(c.records)}`).join(', ')}.
      </>
    )
  return (
    <>
      <b>
        {whole(scoring.called)} of {whole(scoring.rows)} reach {share(scoring.cutoff, 0)}.
      </b>{' '}
      About {whole(scoring.expectedEvents)} “{scoring.event}” are expected in all ({fixed(scoring.expectedEvents, 1)} by the sum of
      chances).
    </>
  )
}
