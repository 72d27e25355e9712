import { Button, TextField } from '@mui/material'
import { useState } from 'react'
import { Slot } from '../ui/Slot'
import { Trouble } from '../ui/Trouble'
import { useAddConnection, useConnections, useForgetConnection, useReadFrom } from '../data/connection'

/** Databases on servers, as sources of a table. Without a server listed by the operator there is nothing to choose. */
export function Connections({ onTaken }: { onTaken: (uploadId: number) => void }) {
  const known = useConnections()
  const read = useReadFrom()
  const forget = useForgetConnection()
  const [adding, setAdding] = useState(false)
  if (!known.data) return null
  const { hosts, connections } = known.data
  if (hosts.length === 0 && connections.length === 0) {
    return (
      <p className="soft small" style={{ marginTop: 18 }}>
        PostgreSQL databases can be read too, once whoever runs this installation lists their servers.
      </p>
    )
  }
  const busy = read.isPending || forget.isPending
  return (
    <div style={{ marginTop: 18, textAlign: 'left', maxWidth: 620 }}>
      <h3 className="fig-title">Or read from a PostgreSQL database</h3>
      {connections.length > 0 && (
        <table className="ledger above-6" aria-label="Databases">
          <tbody>
            {connections.map((c) => (
              <tr key={c.id}>
                <td className="nm" style={{ width: 140 }} title={c.database}>
                  {c.database}
                </td>
                <td className="soft" title={`on ${c.host} as ${c.login}`}>
                  on {c.host} as {c.login}
                </td>
                <td style={{ width: 74 }}>
                  <Button size="small" disabled={busy} aria-label={`Forget ${c.database} on ${c.host}`} onClick={() => forget.mutate(c.id)}>
                    Forget
                  </Button>
                </td>
                <td style={{ width: 70 }}>
                  <Button
                    size="small"
                    disabled={busy}
                    aria-label={`Read from ${c.database} on ${c.host}`}
                    onClick={() => read.mutate(c.id, { onSuccess: (u) => onTaken(u.id) })}
                  >
                    Read
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Trouble error={read.error ?? forget.error} />
      {adding ? (
        <NewConnection hosts={hosts} onClose={() => setAdding(false)} />
      ) : (
        <Button size="small" sx={{ marginTop: '6px' }} disabled={hosts.length === 0} onClick={() => setAdding(true)}>
          Another database…
        </Button>
      )}
    </div>
  )
}

function NewConnection({ hosts, onClose }: { hosts: string[]; onClose: () => void }) {
  const add = useAddConnection()
  const [host, setHost] = useState(hosts[0]!)
  const [text, setText] = useState({ database: '', login: '', password: '' })
  const field = (name: keyof typeof text, label: string, type?: string) => (
    <TextField
      label={label}
      size="small"
      type={type}
      value={text[name]}
      autoFocus={name === 'database'}
      onChange={(e) => setText({ ...text, [name]: e.target.value })}
      slotProps={{ htmlInput: { maxLength: name === 'password' ? 1000 : 120, autoComplete: 'off', spellCheck: false } }}
    />
  )
  return (
    <form
      aria-label="Another database"
      style={{ marginTop: 8 }}
      onSubmit={(e) => {
        e.preventDefault()
        add.mutate({ host, ...text }, { onSuccess: onClose })
      }}
    >
      <p className="sentence">
        The server is <Slot label="Server" value={host} choices={hosts.map((h) => ({ value: h, label: h }))} onChange={setHost} />.
      </p>
      <div style={{ display: 'flex', gap: 10, margin: '8px 0' }}>
        {field('database', 'Database')}
        {field('login', 'Read as')}
        {field('password', 'Password', 'password')}
      </div>
      <p className="soft small">
        It is tried first, and only ever read. The password is kept encrypted; nobody else can use this connection.
      </p>
      <Trouble error={add.error} />
      <Button size="small" onClick={onClose}>
        Leave it
      </Button>{' '}
      <Button
        size="small"
        type="submit"
        variant="contained"
        color="primary"
        disabled={add.isPending || text.database.trim() === '' || text.login.trim() === ''}
      >
        {add.isPending ? 'Trying it…' : 'Try and keep it'}
      </Button>
    </form>
  )
}
