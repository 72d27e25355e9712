import { Menu, MenuItem } from '@mui/material'
import { useQueryClient } from '@tanstack/react-query'
import { type ReactNode, useEffect, useMemo, useRef, useState } from 'react'
import { Link, matchPath, Outlet, useLocation, useNavigate, useSearchParams } from 'react-router'
import { usePreparation } from '../data/preparation'
import { count, date } from '../ui/format'
import { useKeys } from '../ui/keys'
import { Thread } from '../ui/Thread'
import { type Session, signOut } from '../data/account'
import { Pill } from '../sections/Pill'
import { useStudies, useStudy } from '../data/study'
import { Find } from './Find'
import { KeysHelp } from './KeysHelp'
import { NotesContext } from '../ui/notes'
import { Notices } from './Notices'
import { stationPaths, stationsOf } from './stations'
import { rememberTour, Tour, tourSeen } from './Tour'

/** Bar, thread, sheet and margin: what every screen stands in. */
export function Frame({ session }: { session: Session }) {
  const { pathname } = useLocation()
  const [params] = useSearchParams()
  const go = useNavigate()
  const match = matchPath('/study/:studyId/*', pathname)
  const studyId = Number(match?.params.studyId ?? 0)
  const tableId = Number(matchPath('/study/:studyId/table/:tableId/*', pathname)?.params.tableId ?? 0)
  const study = useStudy(studyId)
  const [finding, setFinding] = useState(false)
  const [helping, setHelping] = useState(false)
  const [noted, setNoted] = useState(false)
  const [touring, setTouring] = useState(false)
  const [offered, setOffered] = useState(() => !tourSeen())
  const [notes, setNotes] = useState<{ count: number; content: ReactNode }>({ count: 0, content: null })

  const keys = useMemo(() => {
    const map: Record<string, () => void> = { '/': () => setFinding(true), '?': () => setHelping(true), n: () => setNoted((v) => !v) }
    if (studyId > 0) {
      stationPaths.forEach((p, i) => (map[String(i + 1)] = () => void go(`/study/${studyId}/${p}`)))
      map.l = () => void go(`/study/${studyId}/logbook`)
    }
    return map
  }, [studyId, go])
  useKeys(keys)

  // On a new page the focus goes to its heading, so that keys and a reader begin there.
  const first = useRef(true)
  useEffect(() => {
    if (!first.current) document.querySelector<HTMLElement>('#main h1')?.focus({ preventScroll: true })
    first.current = false
  }, [pathname])

  const data = study.data
  const preparing = pathname.endsWith('/preparation') && data?.tableId != null
  const variants = usePreparation(studyId, preparing).data?.variants
  const variant = variants?.find((v) => v.letter === params.get('variant')) ?? variants?.[0]
  return (
    <NotesContext.Provider value={setNotes}>
      <div className={`frame ${noted ? 'noted' : ''}`}>
        <a className="skip" href="#main">
          To the sheet
        </a>
        <header className="bar">
          <Link className="wordmark" to="/">
            Dokimos
          </Link>
          {studyId > 0 ? <StudyMenu name={data?.name ?? '…'} /> : <span className="study">Studies</span>}
          {data && <p className="question nowrap clipped">{data.question}</p>}
          <span className="gap" />
          <button className="find" type="button" onClick={() => setFinding(true)}>
            <svg width="13" height="13" viewBox="0 0 13 13" aria-hidden="true">
              <circle cx="5.3" cy="5.3" r="4.1" fill="none" stroke="currentColor" strokeWidth="1.2" />
              <path d="M8.4 8.4l3.8 3.8" stroke="currentColor" strokeWidth="1.2" />
            </svg>
            <span>Find</span>
            <kbd>/</kbd>
          </button>
          <Pill />
          <Who session={session} onTour={() => setTouring(true)} />
        </header>
        <Notices />
        {offered && !touring && pathname === '/' && (
          <p className="tour-offer" role="note">
            New here?{' '}
            <button type="button" className="link" onClick={() => setTouring(true)}>
              A tour in five steps
            </button>{' '}
            points at the things themselves.{' '}
            <button
              type="button"
              className="link"
              onClick={() => {
                rememberTour()
                setOffered(false)
              }}
            >
              Not now
            </button>
          </p>
        )}
        {data ? (
          <Thread
            stations={stationsOf(data, pathname, tableId || data.tableId || null, variant)}
            seal={data.sealedRows > 0 ? { opened: data.sealOpenings > 0 } : null}
            renderLink={(to, className, content, current) => (
              <Link to={to} className={className} aria-current={current ? 'step' : undefined}>
                {content}
              </Link>
            )}
            foot={
              <Link to={`/study/${data.id}/logbook`} style={{ color: 'inherit', textDecoration: 'none' }}>
                <span>Logbook</span>
                <span className="soft">{count(data.logEntries, 'entry', 'entries')}</span>
              </Link>
            }
          />
        ) : (
          <HomeThread />
        )}
        <main id="main" className="desk" tabIndex={-1}>
          <Outlet />
        </main>
        <aside className={`notes ${noted ? 'open' : ''}`} aria-label="Margin notes">
          <button type="button" aria-expanded={noted} title="Open the margin notes (N)" onClick={() => setNoted(true)}>
            <span className="count">{notes.count}</span>
            <span className="lab">Margin notes</span>
            <kbd>N</kbd>
          </button>
          {noted && (
            <div className="panel">
              <div style={{ display: 'flex', justifyContent: 'space-between', marginBottom: 12 }}>
                <h2 className="fig-title">Margin notes</h2>
                <button type="button" className="slot" onClick={() => setNoted(false)}>
                  Close
                </button>
              </div>
              {notes.content ?? <p className="soft small">Nothing to note on this screen.</p>}
            </div>
          )}
        </aside>
      </div>
      {finding && <Find study={data} onClose={() => setFinding(false)} />}
      {helping && <KeysHelp onClose={() => setHelping(false)} />}
      {touring && (
        <Tour
          onClose={() => {
            setTouring(false)
            setOffered(false)
          }}
        />
      )}
    </NotesContext.Provider>
  )
}

function StudyMenu({ name }: { name: string }) {
  const studies = useStudies()
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const [open, setOpen] = useState(false)
  return (
    <>
      <button
        ref={setAnchor}
        className="study nowrap"
        type="button"
        aria-haspopup="menu"
        aria-expanded={open}
        onClick={() => setOpen(true)}
      >
        {name}
        <svg width="9" height="6" viewBox="0 0 9 6" aria-hidden="true">
          <path d="M1 1l3.5 3.6L8 1" fill="none" stroke="currentColor" strokeWidth="1.3" />
        </svg>
      </button>
      <Menu open={open} anchorEl={anchor} onClose={() => setOpen(false)}>
        {(studies.data ?? []).map((s) => (
          <MenuItem key={s.id} component={Link} to={`/study/${s.id}`} onClick={() => setOpen(false)}>
            {s.name}
          </MenuItem>
        ))}
        <MenuItem component={Link} to="/" onClick={() => setOpen(false)}>
          All studies
        </MenuItem>
      </Menu>
    </>
  )
}

function Who({ session, onTour }: { session: Session; onTour: () => void }) {
  const queries = useQueryClient()
  const go = useNavigate()
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const [open, setOpen] = useState(false)
  return (
    <>
      <button
        ref={setAnchor}
        type="button"
        className="who"
        style={{ background: 'none', cursor: 'pointer', padding: 0 }}
        aria-haspopup="menu"
        aria-label={`${session.initials}, account of ${session.name}`}
        onClick={() => setOpen(true)}
      >
        {session.initials}
      </button>
      <Menu open={open} anchorEl={anchor} onClose={() => setOpen(false)}>
        <MenuItem disabled>{session.name}</MenuItem>
        <MenuItem component={Link} to="/people" onClick={() => setOpen(false)}>
          People
        </MenuItem>
        <MenuItem
          onClick={() => {
            setOpen(false)
            onTour()
          }}
        >
          A short tour
        </MenuItem>
        <MenuItem
          onClick={async () => {
            await signOut()
            queries.clear()
            await go('/')
            location.reload()
          }}
        >
          Sign out
        </MenuItem>
      </Menu>
    </>
  )
}

/** At home the thread runs through the studies, oldest first. */
function HomeThread() {
  const studies = useStudies()
  const list = [...(studies.data ?? [])].sort((a, b) => a.lastAt.localeCompare(b.lastAt)).slice(-8)
  return (
    <Thread
      stations={list.map((s, i) => ({
        number: i + 1,
        label: s.name,
        to: `/study/${s.id}`,
        figures: [`last ${date(s.lastAt)}`],
        waits: s.waits[0],
        state: s.waits.length > 0 ? 'waits' : 'done',
        share: Math.min(1, s.station / 6),
      }))}
      renderLink={(to, className, content) => (
        <Link to={to} className={className}>
          {content}
        </Link>
      )}
    />
  )
}
