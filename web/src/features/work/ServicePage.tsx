import { Button } from '@mui/material'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { useStudy } from '../../data/study'
import { useApprovals, useServices, useWork, type Approval, type Service } from '../../data/work'
import { count, date, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'
import { ApproveDialog } from './ApproveDialog'
import { Calls, Callers, Drift, HowToCall, Versions } from './ServiceParts'
import { TryRecord } from './TryRecord'

/** Models at work: who approved which, and the service through which they answer. */
export function ServicePage() {
  const studyId = Number(useParams().studyId)
  const study = useStudy(studyId)
  const approvals = useApprovals(studyId)
  const services = useServices(studyId)
  const { change } = useWork(studyId)
  const [approving, setApproving] = useState(false)
  const [chosen, setChosen] = useState('')
  const s = study.data
  const done = (s?.trials ?? []).filter((t) => t.state === 'done')
  const all = services.data ?? []
  const service = all.find((o) => String(o.id) === chosen) ?? all[0]
  const inForce = (approvals.data ?? []).filter((a) => a.withdrawn == null)
  const waiting = service && inForce.find((a) => a.number > (service.version ?? 0))
  return (
    <>
      <Head
        title="Service"
        small={service && `${service.name}, since ${date(service.since)}`}
        say={
          <>
            <b>
              {service?.says ??
                (inForce.length > 0
                  ? 'A model is approved; no service answers with it yet.'
                  : approvals.data
                    ? 'No model is approved for use. What is scored until then is a draft.'
                    : '')}
            </b>
            {all.length > 1 && (
              <>
                {' '}
                <Slot
                  label="Service"
                  value={String(service?.id)}
                  choices={all.map((o) => ({ value: String(o.id), label: o.name }))}
                  onChange={setChosen}
                />
              </>
            )}
          </>
        }
      >
        {service && (
          <>
            <Button component="a" href={`/api/services/${service.id}/openapi`} target="_blank">
              OpenAPI document
            </Button>
            <Button
              disabled={change.isPending}
              onClick={() => change.mutate({ serviceId: service.id, body: { paused: !service.paused } as never })}
            >
              {service.paused ? 'Go on' : 'Pause'}
            </Button>
          </>
        )}
        {waiting ? (
          <Button
            variant="contained"
            color="primary"
            disabled={change.isPending}
            onClick={() => change.mutate({ serviceId: service.id, body: { approvalId: waiting.id } as never })}
          >
            Switch to version {waiting.number}
          </Button>
        ) : (
          <Button variant="contained" color="primary" disabled={done.length === 0} onClick={() => setApproving(true)}>
            Approve a model…
          </Button>
        )}
      </Head>
      <div className="sheet fit stack" style={{ overflow: 'auto' }}>
        <Trouble error={approvals.error ?? services.error ?? change.error} />
        {(approvals.isPending || services.isPending) && <Loading what="the service" />}
        {approvals.data && services.data && !service && (
          <Begin studyId={studyId} approvals={inForce} hasTrials={done.length > 0} onApprove={() => setApproving(true)} />
        )}
        {service && (
          <>
            <div className="parts-row">
              <Versions service={service} />
              <Callers studyId={studyId} service={service} />
            </div>
            <div className="parts-row">
              <TryRecord key={`${service.id} ${service.version}`} service={service} />
            </div>
            <div className="parts-row">
              <Calls studyId={studyId} service={service} />
              <Drift service={service} />
              <HowToCall service={service} />
            </div>
          </>
        )}
        {approvals.data && approvals.data.length > 0 && (
          <Approvals studyId={studyId} approvals={approvals.data} service={service} onApprove={() => setApproving(true)} />
        )}
      </div>
      {approving && s && (
        <ApproveDialog studyId={studyId} trials={done} isEvent={s.task === 'two classes'} onClose={() => setApproving(false)} />
      )}
    </>
  )
}

function Begin({
  studyId,
  approvals,
  hasTrials,
  onApprove,
}: {
  studyId: number
  approvals: Approval[]
  hasTrials: boolean
  onApprove: () => void
}) {
  const { open } = useWork(studyId)
  const [name, setName] = useState('')
  const first = approvals[0]
  return (
    <div className="empty">
      <h2>{first ? 'Open a service' : 'A model goes to work by name'}</h2>
      {first ? (
        <>
          <p>
            Approval {first.number}, {first.title}, by {first.by} answers at an address of its own, to callers with a token.
          </p>
          <p className="apart">
            /serve/
            <input
              aria-label="Name of the service"
              placeholder="return-visits"
              value={name}
              onChange={(e) => setName(e.target.value)}
              className="underlined"
            />{' '}
            <Button
              variant="contained"
              color="primary"
              disabled={name.trim() === '' || open.isPending}
              onClick={() => open.mutate({ name: name.trim(), approvalId: first.id })}
            >
              {open.isPending ? 'Opening…' : 'Open it'}
            </Button>
          </p>
          <Trouble error={open.error} />
        </>
      ) : (
        <>
          <p>
            The owner approves a trial with a sentence, its limits, and a day to look again. Figures, seal, split and fingerprints are kept
            with it, unchangeable. Then other programs may call it.
          </p>
          {hasTrials ? (
            <Button variant="contained" color="primary" onClick={onApprove}>
              Approve a model…
            </Button>
          ) : (
            <Button variant="contained" color="primary" component={Link} to={`/study/${studyId}/trials`}>
              Plan a trial
            </Button>
          )}
        </>
      )}
    </div>
  )
}

function Approvals({
  studyId,
  approvals,
  service,
  onApprove,
}: {
  studyId: number
  approvals: Approval[]
  service: Service | undefined
  onApprove: () => void
}) {
  const { withdraw } = useWork(studyId)
  const [leaving, setLeaving] = useState<number | null>(null)
  const [why, setWhy] = useState('')
  return (
    <section className="pad">
      <h2 className="fig-title">
        {count(approvals.length, 'approval')}, kept with {approvals.length === 1 ? 'its' : 'their'} evidence
      </h2>
      <table className="ledger" aria-label="Approvals">
        <thead>
          <tr>
            <th style={{ width: 30 }}>No.</th>
            <th style={{ width: 190 }}>Model</th>
            <th>Why, and for what not</th>
            <th style={{ width: 130 }}>By</th>
            <th style={{ width: 110 }}>Look again</th>
            <th style={{ width: 120 }}>Fingerprint</th>
            <th style={{ width: 90 }}>
              <span className="sr">Withdraw</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {approvals.map((a) => (
            <tr key={a.id}>
              <td>{a.number}</td>
              <td className="clipped" title={a.title}>
                {a.title}, trial {a.trialNumber}
              </td>
              <td style={{ whiteSpace: 'normal' }}>
                {a.withdrawn ? (
                  <span className="brass">
                    Withdrawn by {a.withdrawn.by} on {date(a.withdrawn.at ?? '')}: {a.withdrawn.why}
                  </span>
                ) : (
                  <>
                    {a.sentence} <span className="soft">Not for: {a.limits}</span>{' '}
                    {a.atRisk.length > 0 && (
                      <span className="brass small" title={a.atRisk.join('\n')}>
                        {a.atRisk.length === 1 ? 'A group at risk' : `${a.atRisk.length} findings on groups`}: {a.atRisk[0]}.
                      </span>
                    )}
                  </>
                )}
              </td>
              <td className="soft">
                {a.by}, {date(a.at)}
              </td>
              <td className={a.due && !a.withdrawn ? 'brass' : 'soft'}>{date(a.again)}</td>
              <td className="soft" title={a.stamp}>
                <code>{a.stamp.slice(0, 10)}…</code>
              </td>
              <td>
                {!a.withdrawn && (
                  <button type="button" className="link" onClick={() => setLeaving(a.id)}>
                    Withdraw…
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {leaving !== null && (
        <p className="apart above-8">
          Why is it withdrawn?{' '}
          <input
            aria-label="Why it is withdrawn"
            value={why}
            onChange={(e) => setWhy(e.target.value)}
            className="underlined"
            style={{ width: 320 }}
          />{' '}
          <Button
            size="small"
            disabled={why.trim() === '' || withdraw.isPending}
            onClick={() =>
              withdraw.mutate(
                { approvalId: leaving, why },
                {
                  onSuccess: () => {
                    setLeaving(null)
                    setWhy('')
                  },
                },
              )
            }
          >
            Withdraw it
          </Button>{' '}
          <Button size="small" variant="text" onClick={() => setLeaving(null)}>
            Keep it
          </Button>
        </p>
      )}
      <Trouble error={withdraw.error} />
      {service && (
        <p className="small above-8">
          <button type="button" className="link" onClick={onApprove}>
            Approve another model
          </button>
          , and it waits here to be switched to. {whole(approvals.filter((a) => a.withdrawn == null).length)} in force.
        </p>
      )}
    </section>
  )
}
