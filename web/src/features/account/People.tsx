import { Button, TextField } from '@mui/material'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, take, type View } from '../../api/client'
import { count, date } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'
import { useStudies } from '../../data/study'
import { useSession } from '../../data/account'
import { Happened, Machines, Safety } from './Safety'

type Member = View<'MemberView'>
type Role = 'owner' | 'editor' | 'reader'
const roles: { value: Role; label: string; effect: string }[] = [
  { value: 'owner', label: 'owner', effect: 'everything, also deleting and members' },
  { value: 'editor', label: 'editor', effect: 'everything but that' },
  { value: 'reader', label: 'reader', effect: 'looks only' },
]

/** Who can sign in, and who is a member of which of my studies. */
export function People() {
  const session = useSession()
  const owner = session.data?.owner ?? false
  const queries = useQueryClient()
  const accounts = useQuery({
    queryKey: ['accounts'],
    enabled: owner,
    queryFn: () => take<View<'AccountView'>[]>(api.GET('/api/accounts')),
  })
  const invite = useMutation({ mutationFn: () => take<View<'InvitationView'>>(api.POST('/api/invitations')) })
  const disable = useMutation({
    mutationFn: (id: number) => take(api.POST('/api/accounts/{id}/disable', { params: { path: { id: String(id) } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['accounts'] }),
  })
  const studies = useStudies()
  const mine = (studies.data ?? []).filter((s) => s.role === 'owner')
  const link = invite.data ? location.origin + invite.data.path : null
  return (
    <>
      <Head title="People" small="who can sign in, and what they see" say="A study is open to its members only.">
        {owner && (
          <Button variant="contained" color="primary" disabled={invite.isPending} onClick={() => invite.mutate()}>
            Invite by link
          </Button>
        )}
      </Head>
      <div className="sheet fit stack" style={{ overflow: 'auto' }}>
        <Trouble error={accounts.error ?? invite.error ?? disable.error ?? studies.error} />
        {link && invite.data && (
          <section className="pad" style={{ background: 'var(--brass-wash)', borderBottom: '1px solid var(--brass)' }}>
            <p>Send this link to one person; it makes one account and is good until {date(invite.data.expiresAt)}. It is shown only now.</p>
            <p style={{ fontFamily: 'var(--mono)', overflowWrap: 'anywhere' }}>{link}</p>
            <Button size="small" onClick={() => void navigator.clipboard.writeText(link)}>
              Copy
            </Button>
          </section>
        )}
        {owner && (
          <section className="pad">
            <h2 className="fig-title">{count(accounts.data?.length ?? 0, 'account')}</h2>
            {accounts.isPending && <Loading what="the accounts" />}
            <table className="ledger" aria-label="Accounts">
              <thead>
                <tr>
                  <th>Name</th>
                  <th>Signs in as</th>
                  <th>State</th>
                  <th style={{ width: 110 }}>
                    <span className="sr">Actions</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {(accounts.data ?? []).map((a) => (
                  <tr key={a.id}>
                    <td className="nm">{a.name}</td>
                    <td>{a.login}</td>
                    <td>{a.disabled ? <span className="brass">disabled</span> : a.owner ? 'owner of this installation' : 'can sign in'}</td>
                    <td>
                      {!a.disabled && a.id !== session.data?.id && (
                        <Button size="small" variant="text" onClick={() => disable.mutate(a.id)} aria-label={`Disable ${a.name}`}>
                          Disable
                        </Button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        )}
        <Safety />
        {mine.map((s) => (
          <Members key={s.id} studyId={s.id} name={s.name} keepDays={s.keepDays} />
        ))}
        {owner && <Machines />}
        {owner && <Happened />}
      </div>
    </>
  )
}

const KEPT = [0, 30, 90, 365]

function Members({ studyId, name, keepDays }: { studyId: number; name: string; keepDays: number }) {
  const queries = useQueryClient()
  const path = { params: { path: { id: String(studyId) } } }
  const members = useQuery({ queryKey: ['members', studyId], queryFn: () => take<Member[]>(api.GET('/api/studies/{id}/members', path)) })
  const set = useMutation({
    mutationFn: (body: { login: string; role: Role | null }) => take<Member[]>(api.PUT('/api/studies/{id}/members', { ...path, body })),
    onSuccess: (list) => queries.setQueryData(['members', studyId], list),
  })
  const keep = useMutation({
    mutationFn: (days: number) => take(api.PUT('/api/studies/{id}/keeping', { ...path, body: { days } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['studies'] }),
  })
  const [login, setLogin] = useState('')
  function add(event: FormEvent) {
    event.preventDefault()
    set.mutate({ login: login.trim(), role: 'editor' }, { onSuccess: () => setLogin('') })
  }
  return (
    <section className="pad ruled-above">
      <h2 className="fig-title">
        {name}: {count(members.data?.length ?? 0, 'member')}
      </h2>
      <Trouble error={members.error ?? set.error ?? keep.error} />
      {(members.data ?? []).map((m) => (
        <p key={m.login} style={{ borderBottom: '1px solid var(--rule)', padding: '4px 0' }}>
          <b>{m.name}</b> <span className="soft">{m.login}</span>,{' '}
          <Slot
            label={`Role of ${m.name}`}
            value={m.role}
            choices={[...roles, { value: 'none', label: 'no longer a member' }]}
            onChange={(v) => set.mutate({ login: m.login, role: v === 'none' ? null : (v as Role) })}
          />
        </p>
      ))}
      <p className="above-8">
        What is scored stays{' '}
        <Slot
          label={`How long what is scored in ${name} stays`}
          value={String(keepDays)}
          choices={[...new Set([...KEPT, keepDays])].map((d) => ({
            value: String(d),
            label: d === 0 ? 'for good' : `for ${count(d, 'day')}`,
          }))}
          onChange={(v) => keep.mutate(Number(v))}
        />
        .
      </p>
      <form onSubmit={add} style={{ display: 'flex', gap: 10, alignItems: 'end', maxWidth: 420, marginTop: 8 }}>
        <TextField label="Add by sign-in name" value={login} onChange={(e) => setLogin(e.target.value)} />
        <Button type="submit" disabled={login.trim() === '' || set.isPending}>
          Add
        </Button>
      </form>
    </section>
  )
}
