import { Button, TextField } from '@mui/material'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, take, type View } from '../../api/client'
import { count, date } from '../../ui/format'
import { Loading, Trouble } from '../../ui/Trouble'

/** How one's own account is kept safe: a second step of signing in, and where one is signed in. */
export function Safety() {
  const queries = useQueryClient()
  const safety = useQuery({ queryKey: ['safety'], queryFn: () => take<View<'SafetyView'>>(api.GET('/api/me/safety')) })
  const onSuccess = () => queries.invalidateQueries({ queryKey: ['safety'] })
  const begin = useMutation({ mutationFn: () => take<View<'SecondFactorView'>>(api.POST('/api/me/second-factor')) })
  const confirm = useMutation({
    mutationFn: (code: string) =>
      take<View<'SecondFactorView'>>(api.POST('/api/me/second-factor/confirm', { body: { code, password: '' } })),
    onSuccess,
  })
  const off = useMutation({
    mutationFn: (password: string) => take(api.POST('/api/me/second-factor/end', { body: { code: '', password } })),
    onSuccess: () => {
      begin.reset()
      confirm.reset()
      return onSuccess()
    },
  })
  const end = useMutation({
    mutationFn: (hash: string) => take(api.DELETE('/api/me/sessions/{hash}', { params: { path: { hash } } })),
    onSuccess,
  })
  const [word, setWord] = useState('')
  const submit = (then: (word: string) => void) => (event: FormEvent) => {
    event.preventDefault()
    then(word)
    setWord('')
  }
  const data = safety.data
  return (
    <section className="pad">
      <h2 className="fig-title">How you sign in</h2>
      {safety.isPending && <Loading what="your account" />}
      <Trouble error={safety.error ?? begin.error ?? confirm.error ?? off.error ?? end.error} />
      {confirm.data && (
        <div className="note" role="status">
          <p>
            The second step is on. Keep these codes where you find them when the telephone is lost; each opens once, and they are shown only
            now.
          </p>
          <p style={{ fontFamily: 'var(--mono)' }}>{confirm.data.codes.join('  ')}</p>
        </div>
      )}
      {data && !data.secondFactor && !begin.data && (
        <p>
          With your password alone.{' '}
          <button type="button" className="link" disabled={begin.isPending} onClick={() => begin.mutate()}>
            Ask for a code from an app too
          </button>
        </p>
      )}
      {data && !data.secondFactor && begin.data && (
        <form onSubmit={submit((code) => confirm.mutate(code))} className="col" style={{ gap: 8, maxWidth: 560 }}>
          <p>
            Add this secret to the app on your telephone that shows codes of six digits, or{' '}
            <a href={begin.data.link}>open it in an app of this machine</a>:
          </p>
          <p style={{ fontFamily: 'var(--mono)', overflowWrap: 'anywhere' }}>{begin.data.secret.match(/.{4}/g)?.join(' ')}</p>
          <TextField
            label="The code it shows now"
            value={word}
            onChange={(e) => setWord(e.target.value)}
            autoComplete="one-time-code"
            slotProps={{ htmlInput: { inputMode: 'numeric' } }}
          />
          <Button type="submit" disabled={word.trim() === '' || confirm.isPending} sx={{ alignSelf: 'start' }}>
            Switch it on
          </Button>
        </form>
      )}
      {data?.secondFactor && (
        <form onSubmit={submit((password) => off.mutate(password))} style={{ display: 'flex', gap: 10, alignItems: 'end', maxWidth: 620 }}>
          <p style={{ flex: 1 }}>With your password and a code; {count(data.codesLeft, 'spare code')} left.</p>
          <TextField
            label="Your password"
            type="password"
            value={word}
            onChange={(e) => setWord(e.target.value)}
            autoComplete="current-password"
          />
          <Button type="submit" disabled={word === '' || off.isPending}>
            Switch it off
          </Button>
        </form>
      )}
      {data && data.places.length > 0 && (
        <table className="ledger above-8" aria-label="Where you are signed in">
          <thead>
            <tr>
              <th style={{ width: 150 }}>Signed in from</th>
              <th>With</th>
              <th style={{ width: 120 }}>Since</th>
              <th style={{ width: 120 }}>Last seen</th>
              <th style={{ width: 110 }}>
                <span className="sr">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {data.places.map((p) => (
              <tr key={p.hash}>
                <td>{p.address === '' ? 'unknown' : p.address}</td>
                <td className="clipped" title={p.agent}>
                  {p.agent}
                </td>
                <td>{date(p.began)}</td>
                <td>{date(p.seen)}</td>
                <td>
                  {p.own ? (
                    <span className="soft">here</span>
                  ) : (
                    <Button size="small" variant="text" disabled={end.isPending} onClick={() => end.mutate(p.hash)}>
                      Sign out
                    </Button>
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

interface Health {
  says: string[]
  store: string
  freeDiskMb: number | null
  queueAgeSeconds: number | null
  workers: { lanes: string[]; pid: number; machine: string }[]
}

/** What the installation runs on, for its owner. */
export function Machines() {
  const health = useQuery({
    queryKey: ['health'],
    refetchInterval: 15_000,
    // It answers 503 where something is amiss, and says what.
    queryFn: async () => (await (await fetch('/api/health')).json()) as Partial<Health>,
  })
  const told = health.data
  const data = told?.workers && told.says ? (told as Health) : undefined
  const machines = [...new Set((data?.workers ?? []).map((w) => w.machine))]
  return (
    <section className="pad ruled-above">
      <h2 className="fig-title">What it runs on</h2>
      {data && (
        <p>
          Kept in {data.store}; {count(data.workers.length, 'worker')} on {count(machines.length, 'machine')}
          {data.freeDiskMb != null && `; ${count(Math.round(data.freeDiskMb / 1024), 'GB', 'GB')} free here`}.{' '}
          {data.says.length === 0 ? 'All is well.' : data.says.join(' ')}
        </p>
      )}
      {data && data.workers.length > 0 && (
        <table className="ledger" aria-label="Workers">
          <thead>
            <tr>
              <th style={{ width: 260 }}>Machine</th>
              <th style={{ width: 120 }}>Process</th>
              <th>Takes</th>
            </tr>
          </thead>
          <tbody>
            {data.workers.map((w) => (
              <tr key={w.machine + w.pid}>
                <td className="clipped" title={w.machine}>
                  {w.machine}
                </td>
                <td>{w.pid}</td>
                <td>{w.lanes.map((l) => (l === 'quick' ? 'short work' : 'long work')).join(' and ')}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  )
}

/** What was done to the installation, for its owner. */
export function Happened() {
  const audit = useQuery({ queryKey: ['audit'], queryFn: () => take<View<'AuditView'>[]>(api.GET('/api/audit')) })
  return (
    <section className="pad ruled-above">
      <h2 className="fig-title">What was done here</h2>
      <Trouble error={audit.error} />
      <div style={{ maxHeight: 260, overflow: 'auto' }} tabIndex={0} role="region" aria-label="What was done here">
        <table className="ledger" aria-label="What was done here">
          <thead>
            <tr>
              <th style={{ width: 120 }}>When</th>
              <th style={{ width: 150 }}>Who</th>
              <th>What</th>
              <th style={{ width: 140 }}>From</th>
            </tr>
          </thead>
          <tbody>
            {(audit.data ?? []).map((e, i) => (
              <tr key={i}>
                <td>{date(e.at)}</td>
                <td className="clipped" title={e.who}>
                  {e.who}
                </td>
                <td className="clipped" title={e.what}>
                  {e.what}
                </td>
                <td className="soft">{e.address}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="soft small">
        The newest 200. Nothing in Dokimos changes or removes an entry; each holds a fingerprint of the one before it, and{' '}
        <code>dokimos:audit</code> checks them all.
      </p>
    </section>
  )
}
