import { Button, Checkbox, FormControlLabel, TextField } from '@mui/material'
import { useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { ApiError } from '../../api/client'
import { Trouble } from '../../ui/Trouble'
import { acceptInvitation, setUp, signIn, useSetup } from '../../data/account'

const texts = {
  title: 'Tried, and found genuine',
  small: 'dókimos, of a coin that has passed the assay',
  points: [
    ['Bring a table', 'of visits, orders or households.'],
    ['See what each step costs', 'before it is taken.'],
    ['Leave with a list, a rule or a service', 'you can defend.'],
  ] as const,
}

export function SignIn() {
  const setup = useSetup()
  const queries = useQueryClient()
  const demo = setup.data?.demo ?? false
  const invitation = new URLSearchParams(location.search).get('invitation')
  const owner = setup.data?.needsOwner ?? false
  const fresh = owner || invitation !== null
  const [error, setError] = useState<unknown>(null)
  const [busy, setBusy] = useState(false)
  const [second, setSecond] = useState(false)

  async function submit(event: FormEvent<HTMLFormElement>) {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    const text = (name: string) => String(form.get(name) ?? '')
    setBusy(true)
    setError(null)
    try {
      const session = fresh
        ? await (owner ? setUp : acceptInvitation)({
            code: owner ? text('code') : (invitation ?? ''),
            name: text('name'),
            login: text('login'),
            password: text('password'),
          })
        : await signIn(text('login'), text('password'), form.has('stay'), text('second'))
      queries.setQueryData(['session'], session)
      await queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'session' })
    } catch (e) {
      setError(e)
      setBusy(false)
      if (!fresh && e instanceof ApiError && e.field === 'code') setSecond(true)
    }
  }

  const field = error instanceof ApiError ? error.field : null
  return (
    <main style={{ minHeight: '100%', display: 'grid', placeItems: 'center', padding: 24 }}>
      <div className="sheet" style={{ width: 'min(864px, 100%)', minHeight: 520, flex: 'none' }}>
        <section className="col" style={{ flex: 1.32, padding: '40px 44px' }}>
          <p style={{ font: '640 21px/1 var(--serif)', marginBottom: 28 }}>Dokimos</p>
          <h1 style={{ font: '600 31px/40px var(--serif)', letterSpacing: '-.012em' }}>{texts.title}</h1>
          <p className="soft" style={{ font: 'italic 400 17px/26px var(--serif)', marginBottom: 26 }}>
            {texts.small}
          </p>
          <ol className="ruled-above">
            {texts.points.map(([strong, rest], i) => (
              <li key={strong} style={{ borderBottom: '1px solid var(--rule)', padding: '9px 0', display: 'flex', gap: 16 }}>
                <span className="serif soft">{i + 1}</span>
                <span>
                  <b>{strong}</b> {rest}
                </span>
              </li>
            ))}
          </ol>
          <p className="soft small to-bottom">Runs on a machine of your company; no table leaves it.</p>
        </section>
        <section className="col" style={{ flex: 1, padding: '40px 36px' }}>
          <h2 style={{ font: '600 19px/26px var(--serif)', marginBottom: 14 }}>
            {owner ? 'Make the owner’s account' : fresh ? 'Make your account' : 'Sign in'}
          </h2>
          {!setup.isPending && (
            <form onSubmit={submit} style={{ display: 'flex', flexDirection: 'column', gap: 14 }}>
              {owner && <TextField name="code" label="One-time code, printed by the server" required autoFocus error={field === 'code'} />}
              {fresh && <TextField name="name" label="Your name" required error={field === 'name'} autoComplete="name" />}
              <TextField
                name="login"
                label="Sign-in name"
                required
                autoFocus={!owner}
                defaultValue={demo && !fresh ? 'mara' : ''}
                error={field === 'login'}
                autoComplete="username"
              />
              <TextField
                name="password"
                label="Password"
                type="password"
                required
                defaultValue={demo && !fresh ? 'ember-walk' : ''}
                error={field === 'password'}
                autoComplete={fresh ? 'new-password' : 'current-password'}
                helperText={fresh ? 'At least 10 characters' : undefined}
              />
              {second && (
                <TextField
                  name="second"
                  label="Code from your app"
                  required
                  autoFocus
                  autoComplete="one-time-code"
                  error={field === 'code'}
                  helperText="Or one of your spare codes"
                />
              )}
              {!fresh && (
                <FormControlLabel
                  control={<Checkbox name="stay" size="small" />}
                  label="Stay signed in on this machine for 30 days"
                  slotProps={{ typography: { sx: { fontSize: 13 } } }}
                />
              )}
              <Trouble error={error} />
              <Button type="submit" variant="contained" color="primary" disabled={busy} sx={{ height: 36 }}>
                {fresh ? 'Make the account' : 'Sign in'}
              </Button>
              {!fresh && <p className="soft small">Forgotten? The owner of this installation sets a new one.</p>}
            </form>
          )}
          {demo && !fresh && (
            <div className="note to-bottom">
              <h3>This is the demo</h3>
              <p>
                Sign in as <code>mara</code> with <code>ember-walk</code>, already filled in. All names and tables are made up.
              </p>
            </div>
          )}
        </section>
      </div>
    </main>
  )
}
