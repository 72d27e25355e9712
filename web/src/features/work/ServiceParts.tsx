import { Button } from '@mui/material'
import { useState } from 'react'
import { useWork, type Service } from '../../data/work'
import { count, date, fixed, whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'

export function Versions({ service }: { service: Service }) {
  const [copied, setCopied] = useState(false)
  const address = `${window.location.origin}${service.path}`
  const resting = service.versions.filter((v) => v.state === 'rests').length
  return (
    <section className="pad" style={{ flex: '1 1 560px', minWidth: 0 }}>
      <h2 className="fig-title">
        {service.version == null ? 'No version answers' : `Version ${service.version} ${service.paused ? 'is paused' : 'answers'}`}
        {resting > 0 && `; ${resting === 1 ? 'another rests' : `${resting} others rest`}`}
      </h2>
      <p className="apart">
        <code className="clipped">
          <b>POST</b> {address}
        </code>{' '}
        <Button
          size="small"
          onClick={() =>
            void navigator.clipboard?.writeText(address).then(
              () => setCopied(true),
              () => undefined,
            )
          }
        >
          {copied ? 'Copied' : 'Copy'}
        </Button>
      </p>
      <table className="ledger" aria-label="Versions">
        <thead>
          <tr>
            <th style={{ width: 30 }}>No.</th>
            <th>Model</th>
            <th style={{ width: 100 }}>Approved</th>
            <th className="n" style={{ width: 64 }}>
              {service.versions[0]?.measure ?? 'Figure'}
            </th>
            <th className="n" style={{ width: 70 }}>
              Calls
            </th>
            <th style={{ width: 90 }}>State</th>
          </tr>
        </thead>
        <tbody>
          {service.versions.map((v) => (
            <tr key={v.number} className={v.state === 'answers' ? 'sel' : ''}>
              <td>{v.number}</td>
              <td className="clipped" title={v.title}>
                {v.title}
              </td>
              <td className="soft clipped" title={`by ${v.by}`}>
                {date(v.at)}
              </td>
              <td className="n">{fixed(v.value)}</td>
              <td className="n">{whole(v.calls)}</td>
              <td className={v.state === 'answers' ? 'verd' : v.state === 'withdrawn' ? 'brass' : 'soft'}>{v.state}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

export function Callers({ studyId, service }: { studyId: number; service: Service }) {
  const { token, revoke } = useWork(studyId)
  const [caller, setCaller] = useState<string | null>(null)
  const [perDay, setPerDay] = useState('20000')
  const shown = token.data?.shown
  return (
    <section className="pad" style={{ flex: '1 1 380px', borderLeft: '1px solid var(--rule)', minWidth: 0 }}>
      <h2 className="fig-title">
        {service.tokens.length === 0 ? 'Nobody may call yet' : `${count(service.tokens.length, 'caller')}, a token each`}
      </h2>
      <p className="fig-sub">
        No input is stored.{' '}
        <button type="button" className="link" onClick={() => setCaller('')}>
          New token…
        </button>
      </p>
      {caller !== null && (
        <p className="apart">
          For{' '}
          <input
            aria-label="Who calls"
            placeholder="Online booking"
            value={caller}
            onChange={(e) => setCaller(e.target.value)}
            className="underlined"
          />
          , at most{' '}
          <input
            aria-label="Calls a day"
            value={perDay}
            inputMode="numeric"
            onChange={(e) => setPerDay(e.target.value)}
            className="underlined"
            style={{ width: 64 }}
          />{' '}
          calls a day{' '}
          <Button
            size="small"
            disabled={caller.trim() === '' || token.isPending}
            onClick={() =>
              token.mutate(
                { serviceId: service.id, body: { caller, perDay: Number(perDay), perMinute: 600, expires: null, reasons: true } as never },
                { onSuccess: () => setCaller(null) },
              )
            }
          >
            Make it
          </Button>
        </p>
      )}
      {shown && (
        <div className="note">
          <h3>Copy it now: it is shown this once</h3>
          <p>
            <code style={{ overflowWrap: 'anywhere' }}>{shown}</code>
          </p>
        </div>
      )}
      <Trouble error={token.error ?? revoke.error} />
      {service.tokens.length > 0 && (
        <table className="ledger" aria-label="Callers">
          <thead>
            <tr>
              <th>Caller</th>
              <th style={{ width: 64 }}>Token</th>
              <th className="n" style={{ width: 60 }}>
                Calls
              </th>
              <th className="n" style={{ width: 116 }}>
                Most a day
              </th>
              <th style={{ width: 66 }}>
                <span className="sr">Revoke</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {service.tokens.map((t) => (
              <tr key={t.id}>
                <td className="clipped" title={t.caller}>
                  {t.caller}
                </td>
                <td className="soft">
                  <code>…{t.tail}</code>
                </td>
                <td className="n">{whole(t.calls)}</td>
                <td className={`n ${t.mostADay > 0.9 * t.perDay ? 'brass' : ''}`}>
                  {whole(t.mostADay)} of {whole(t.perDay)}
                </td>
                <td>
                  {t.revoked ? (
                    <span className="soft">revoked</span>
                  ) : (
                    <button
                      type="button"
                      className="link"
                      aria-label={`Revoke the token of ${t.caller}`}
                      onClick={() => revoke.mutate({ serviceId: service.id, token: t.id })}
                    >
                      Revoke
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  )
}

export function Calls({ studyId, service }: { studyId: number; service: Service }) {
  const { change } = useWork(studyId)
  const days = service.days.slice(-14)
  const most = Math.max(...days.map((d) => d.calls), 1)
  return (
    <section className="pad" style={{ flex: '1 1 320px', minWidth: 0 }}>
      <h2 className="fig-title">
        {service.half == null ? 'No call has come yet' : `Half of all answers come within ${Math.round(service.half)} ms`}
      </h2>
      {service.most != null && <p className="fig-sub">95 of 100 within {Math.round(service.most)} ms, measured at the server.</p>}
      {days.length > 0 && (
        <table className="ledger" aria-label="Calls by day">
          <thead>
            <tr>
              <th style={{ width: 98 }}>Day</th>
              <th style={{ width: 52 }}>Version</th>
              <th>
                <span className="sr">Calls, drawn</span>
              </th>
              <th className="n" style={{ width: 44 }}>
                Calls
              </th>
              <th className="n" style={{ width: 58 }}>
                Refused
              </th>
              <th className="n" style={{ width: 56 }}>
                Half, ms
              </th>
            </tr>
          </thead>
          <tbody>
            {days.map((d) => (
              <tr key={`${d.day} ${d.version}`}>
                <td>{date(d.day)}</td>
                <td className="soft">{d.version}</td>
                <td>
                  <svg width="100%" height="10" aria-hidden="true">
                    <rect width={`${(100 * d.calls) / most}%`} height="10" fill="var(--verdigris)" />
                  </svg>
                </td>
                <td className="n">{whole(d.calls)}</td>
                <td className="n">{whole(d.refused)}</td>
                <td className="n">{d.half == null ? '–' : Math.round(d.half)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="small above-8">
        What callers send is{' '}
        <Slot
          label="For how long what callers send is kept"
          value={String(service.keepDays)}
          choices={[
            { value: '0', label: 'not kept' },
            { value: '7', label: 'kept for 7 days' },
            { value: '30', label: 'kept for 30 days' },
            { value: '90', label: 'kept for 90 days' },
          ]}
          onChange={(days) => change.mutate({ serviceId: service.id, body: { keepDays: Number(days) } as never })}
        />
        {service.keepDays > 0 ? (
          <>
            , with its answers; <a href={`/api/services/${service.id}/kept`}>take it along</a>.
          </>
        ) : (
          '; only counts are.'
        )}
      </p>
      <Trouble error={change.error} />
    </section>
  )
}

export function Drift({ service }: { service: Service }) {
  const moved = service.columns.filter((c) => c.index >= 0.1)
  return (
    <section className="pad" style={{ flex: '1 1 290px', minWidth: 0, borderLeft: '1px solid var(--rule)' }}>
      <h2 className="fig-title">
        {service.columns.length === 0
          ? 'Calls against training'
          : moved.length === 0
            ? 'Calls look like training'
            : `${moved
                .map((c) => c.column)
                .slice(0, 2)
                .join(' and ')} moved since training`}
      </h2>
      {service.columns.length === 0 ? (
        <p className="soft">From 100 records on, each column is held against what training had. Counts are kept, not values.</p>
      ) : (
        <>
          <p className="fig-sub">Stability index of each column; from 0.1 on it is noticeable.</p>
          <table className="ledger" aria-label="Columns in calls against training">
            <tbody>
              {service.columns.slice(0, 8).map((c) => (
                <tr key={c.column}>
                  <td className="clipped" title={c.column}>
                    {c.column}
                  </td>
                  <td className={`n ${c.index >= 0.1 ? 'brass' : ''}`} style={{ width: 54 }}>
                    {c.index.toFixed(2)}
                  </td>
                  <td className={c.index >= 0.1 ? 'brass' : 'soft'} style={{ whiteSpace: 'normal' }}>
                    {c.says}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </section>
  )
}

export function HowToCall({ service }: { service: Service }) {
  const [language, setLanguage] = useState('curl')
  const code = (service.examples.find((e) => e.language === language)?.code ?? '').replaceAll('{host}', window.location.origin)
  return (
    <section className="pad" style={{ flex: '1 1 270px', borderLeft: '1px solid var(--rule)', minWidth: 0 }}>
      <h2 className="fig-title">One request, one record</h2>
      <p className="fig-sub">
        In{' '}
        <Slot
          label="Language"
          value={language}
          choices={service.examples.map((e) => ({ value: e.language, label: e.language }))}
          onChange={setLanguage}
        />
        ; a list of up to 1,000 records goes in one call, and ?reasons=1 asks why.
      </p>
      <pre
        className="small"
        style={{ overflow: 'auto', maxHeight: 260, margin: 0 }}
        tabIndex={0}
        aria-label={`How to call it with ${language}`}
      >
        {code}
      </pre>
      <Button size="small" onClick={() => void navigator.clipboard?.writeText(code)}>
        Copy
      </Button>
    </section>
  )
}
