import { Button } from '@mui/material'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { useRecheck, useRechecks, type Recheck } from '../../data/recheck'
import { useStudy } from '../../data/study'
import { useRegister, useTables } from '../../data/table'
import { useJobs, isOver } from '../../data/job'
import { useApprovals } from '../../data/work'
import { count, date, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'
import { Columns, Figures, Promises, Scale } from './RecheckParts'
import { Remedies } from './RecheckRemedies'
import { Groups, Periods } from './RecheckSlices'

/** Newer records put a model to the test: does it still hold, why not, and what is to be done. */
export function RecheckPage() {
  const studyId = Number(useParams().studyId)
  const rechecks = useRechecks(studyId)
  const study = useStudy(studyId)
  const [chosen, setChosen] = useState<string>()
  const [asking, setAsking] = useState(false)
  const all = rechecks.data ?? []
  const recheck = all.find((r) => String(r.id) === chosen) ?? all[0]
  const waits = (useJobs().data ?? []).some((j) => j.kind === 'recheck' && j.studyId === studyId && !isOver(j))
  const told = recheck?.state === 'done' ? recheck.told : undefined
  return (
    <>
      <Head
        title="Recheck"
        small={recheck && `trial ${recheck.trialNumber} on ${recheck.tableName}, ${count(recheck.rows, 'record')}, ${date(recheck.at)}`}
        say={
          recheck && (
            <>
              <b>
                {recheck.state === 'waiting'
                  ? 'Newer records are being answered.'
                  : recheck.state === 'failed'
                    ? `It was not rechecked: ${recheck.failure}`
                    : `${recheck.verdict[0]?.toUpperCase()}${recheck.verdict.slice(1)}: ${told?.reasons.join(' ')}`}
              </b>{' '}
              {all.length > 1 && (
                <Slot
                  label="Recheck"
                  value={String(recheck.id)}
                  choices={all.map((r) => ({
                    value: String(r.id),
                    label: `no. ${r.number}: trial ${r.trialNumber} on ${r.tableName}, ${r.verdict || r.state}`,
                  }))}
                  onChange={setChosen}
                />
              )}
            </>
          )
        }
      >
        {recheck && (
          <Button onClick={() => setAsking(!asking)} aria-expanded={asking}>
            Recheck again…
          </Button>
        )}
      </Head>
      <div className="sheet fit stack" style={{ overflow: 'auto' }}>
        <Trouble error={rechecks.error ?? study.error} />
        {rechecks.isPending && <Loading what="the rechecks" />}
        {rechecks.data && study.data && (asking || !recheck) && (
          <Ask studyId={studyId} first={!recheck} onDone={() => setAsking(false)} busy={waits} />
        )}
        {recheck?.state === 'waiting' && <Loading what="the newer records" />}
        {recheck && told && <Answer recheck={recheck} studyId={studyId} />}
      </div>
    </>
  )
}

function Answer({ recheck, studyId }: { recheck: Recheck; studyId: number }) {
  const { told } = recheck
  return (
    <>
      <div className="parts-row">
        <Scale told={told} at={recheck.at} />
        <Figures told={told} tableName={recheck.tableName} />
      </div>
      <div className="parts-row">
        <Promises told={told} />
        <Columns columns={told.columns} event={told.event} />
      </div>
      <div className="parts-row">
        <Periods told={told} by={recheck.by ?? null} />
        <Remedies recheck={recheck} studyId={studyId} />
      </div>
      {told.groups.map((g) => (
        <div className="parts-row" key={g.by}>
          <Groups told={told} by={g.by} groups={g.groups} />
        </div>
      ))}
    </>
  )
}

function Ask({ studyId, first, busy, onDone }: { studyId: number; first: boolean; busy: boolean; onDone: () => void }) {
  const study = useStudy(studyId).data
  const tables = (useTables(studyId).data ?? []).filter((t) => t.id !== study?.tableId && t.state === 'ready')
  const approvals = useApprovals(studyId).data ?? []
  const { start } = useRecheck()
  const done = (study?.trials ?? []).filter((t) => t.state === 'done')
  const inForce = approvals.find((a) => a.withdrawn == null)
  const usual = done.find((t) => t.number === inForce?.trialNumber) ?? done[0]
  const [trialId, setTrial] = useState<string>()
  const [tableId, setTable] = useState<string>()
  const [group, setGroup] = useState('')
  const trial = done.find((t) => String(t.id) === trialId) ?? usual
  const table = tables.find((t) => String(t.id) === tableId) ?? tables.find((t) => t.name.includes('recent')) ?? tables[0]
  const columns = useRegister(table?.id)
  if (!trial || !table) {
    return (
      <div className="empty">
        <h2>{trial ? 'Bring newer records' : 'Nothing to recheck yet'}</h2>
        <p>
          {trial
            ? 'A recheck holds a model against records that came after it was made. Import them as another table of this study.'
            : 'A fitted trial is held against newer records whose outcomes are known. Fit one first.'}
        </p>
        <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/${trial ? 'import' : 'trials'}`}>
          {trial ? 'Import newer records' : 'Plan a trial'}
        </Button>
      </div>
    )
  }
  return (
    <section className="pad">
      {first && <h2 className="fig-title">Does it still hold?</h2>}
      <p className="sentence size-15">
        Hold{' '}
        <Slot
          label="Trial"
          value={String(trial.id)}
          choices={done.map((t) => ({ value: String(t.id), label: `trial ${t.number}, ${t.title}` }))}
          onChange={setTrial}
        />{' '}
        against{' '}
        <Slot
          label="Newer records"
          value={String(table.id)}
          choices={tables.map((t) => ({ value: String(t.id), label: `${t.name}, ${whole(t.rows)} records` }))}
          onChange={setTable}
        />
        , told{' '}
        <Slot
          label="Groups"
          value={group}
          choices={[
            { value: '', label: 'of all together' },
            ...(columns.data?.columns ?? [])
              .filter((c) => c.kind === 'category' || c.kind === 'yes/no')
              .map((c) => ({ value: c.name, label: `by ${c.name} too` })),
          ]}
          onChange={setGroup}
        />
        .
      </p>
      <p className="soft small">
        The same figures are told as when it was examined, each with its interval and tested for a difference. Where outcomes are not known
        yet, what moved in the columns and in the answers is told alone.
      </p>
      <Button
        variant="contained"
        color="primary"
        disabled={start.isPending || busy}
        onClick={() =>
          start.mutate(
            {
              trialId: trial.id,
              body: { tableId: table.id, cutoff: inForce?.cutoff ?? null, groups: group === '' ? [] : [group] } as never,
            },
            { onSuccess: onDone },
          )
        }
      >
        {busy ? 'Rechecking…' : 'Recheck'}
      </Button>
      <Trouble error={start.error} />
    </section>
  )
}
