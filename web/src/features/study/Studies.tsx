import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Snackbar, TextField } from '@mui/material'
import { type DragEvent, type FormEvent, useRef, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { count, date, share, whole } from '../../ui/format'
import { bestOf, figure, ofTask } from '../../ui/measure'
import { Head } from '../../ui/Head'
import { Loading, Trouble } from '../../ui/Trouble'
import { useNotes } from '../../ui/notes'
import { useBeginAgain } from '../../data/replay'
import { readable, upload } from '../../data/table'
import { FileButton } from './Again'
import { type Study, useBringBack, useCreateStudy, useDeletedStudies, useDeleteStudy, useStudies } from '../../data/study'

const stationNames = ['Table', 'Preparation', 'Trials', 'Judgment', 'Reasons', 'Decisions']

/** Home: what was I doing, what changed, what waits for me. */
export function Studies() {
  const studies = useStudies()
  const remove = useDeleteStudy()
  const bringBack = useBringBack()
  const [file, setFile] = useState<File | null>(null)
  const [naming, setNaming] = useState(false)
  const [over, setOver] = useState(false)
  const [gone, setGone] = useState<Study | null>(null)
  const chooser = useRef<HTMLInputElement>(null)
  const list = [...(studies.data ?? [])].sort((a, b) => b.lastAt.localeCompare(a.lastAt))
  const waiting = list.filter((s) => s.waits.length > 0)
  useNotes(0, null, 'home')
  const again = useBeginAgain()
  const navigate = useNavigate()
  const begin = (text: string) => again.mutate(text, { onSuccess: (made) => void navigate(`/study/${made.studyId}/again`) })

  function drop(event: DragEvent) {
    event.preventDefault()
    setOver(false)
    const dropped = event.dataTransfer.files[0]
    if (dropped) {
      setFile(dropped)
      setNaming(true)
    }
  }

  return (
    <>
      <Head
        title="Studies"
        small={new Date().toLocaleDateString('en-US', { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' })}
        say={
          studies.data && (
            <>
              <b>
                {waiting.length === 0
                  ? 'Nothing waits for you.'
                  : `${waiting.length} of ${count(list.length, 'study', 'studies')} ${waiting.length === 1 ? 'waits' : 'wait'} for you.`}
              </b>{' '}
              {list[0]?.lastSentence}
            </>
          )
        }
      >
        <FileButton label="From a study’s file…" busy={again.isPending} onText={begin} />
        <Button
          variant="contained"
          color="primary"
          onClick={() => {
            setFile(null)
            setNaming(true)
          }}
        >
          New study…
        </Button>
      </Head>
      <div
        className="sheet fit stack"
        onDragOver={(e) => {
          e.preventDefault()
          setOver(true)
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
      >
        {studies.isPending && <Loading what="your studies" />}
        <Trouble error={studies.error ?? remove.error ?? again.error} onRetry={() => void studies.refetch()} />
        <div className="scroll">
          <table className="ledger" aria-label="Studies">
            <thead>
              <tr>
                <th className="ln" style={{ width: 34 }}>
                  <span className="sr">Line</span>
                </th>
                <th>The question</th>
                <th style={{ width: 196 }}>Where it stands</th>
                <th style={{ width: 168 }}>Waits for you</th>
                <th style={{ width: 108 }} className="n">
                  Last
                </th>
                <th style={{ width: 78 }}>
                  <span className="sr">Actions</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {list.map((s, i) => (
                <Line key={s.id} study={s} line={i + 1} onDelete={() => remove.mutate(s.id, { onSuccess: () => setGone(s) })} />
              ))}
              <tr>
                <td className="ln">{list.length + 1}</td>
                <td colSpan={5} style={{ padding: 7, background: 'var(--ink-wash)' }}>
                  <div
                    style={{
                      border: `1px dashed ${over ? 'var(--verdigris)' : 'var(--brass)'}`,
                      background: over ? 'var(--verdigris-wash)' : 'var(--paper)',
                      padding: '8px 12px',
                      display: 'flex',
                      alignItems: 'center',
                      gap: 12,
                    }}
                  >
                    <b className="serif size-15">Drop a file here to begin a study</b>
                    <span className="soft">CSV, TSV, XLSX, ODS, JSON Lines or SQLite; read before anything is kept</span>
                    <Button sx={{ marginLeft: 'auto' }} onClick={() => chooser.current?.click()}>
                      Choose a file…
                    </Button>
                    <input
                      ref={chooser}
                      type="file"
                      accept={readable}
                      hidden
                      data-testid="new-study-file"
                      onChange={(e) => {
                        const chosen = e.target.files?.[0]
                        e.target.value = ''
                        if (chosen) {
                          setFile(chosen)
                          setNaming(true)
                        }
                      }}
                    />
                  </div>
                </td>
              </tr>
            </tbody>
          </table>
          <Deleted />
          {studies.data && list.length === 0 && (
            <div className="empty">
              <h2>A study is one question about one business matter</h2>
              <p>
                It begins with a table of records: past cases with their outcome. Drop a file, name the question, and look at its columns.
              </p>
            </div>
          )}
        </div>
      </div>
      {naming && <NewStudy file={file} onClose={() => setNaming(false)} />}
      <Snackbar
        open={gone !== null}
        onClose={() => setGone(null)}
        message={`${gone?.name ?? ''} is deleted. It can be brought back for 30 days.`}
        action={
          <Button size="small" onClick={() => gone && bringBack.mutate(gone.id, { onSuccess: () => setGone(null) })}>
            Bring back
          </Button>
        }
      />
    </>
  )
}

function Line({ study, line, onDelete }: { study: Study; line: number; onDelete: () => void }) {
  const best = bestOf(ofTask(study.trials, study.task))
  return (
    <tr className={line === 1 ? 'sel' : ''}>
      <td className="ln">{line}</td>
      <td style={{ height: 62 }}>
        <Link to={`/study/${study.id}`} style={{ font: '600 16px/22px var(--serif)', color: 'var(--ink)', textDecoration: 'none' }}>
          {study.question}
        </Link>
        <br />
        <span className="soft small">
          {study.name} · {study.rows > 0 ? `${whole(study.rows)} × ${study.columns}` : 'no table yet'}
          {best?.value != null && ` · best ${best.measure.name} ${figure(best.measure, best.value)}`}
          {study.target && ` · ${study.target}`}
        </span>
      </td>
      <td>
        <Beads study={study} />
        <br />
        <span className="soft small">
          {stationNames[study.station - 1]}
          {study.trials.length > 0 && `, ${count(study.trials.length, 'trial')}`}
        </span>
      </td>
      <td
        className={study.waits.length > 0 ? 'brass' : 'soft'}
        style={{ whiteSpace: 'normal', fontWeight: study.waits.length > 0 ? 600 : 400 }}
      >
        {study.waits.length > 0 ? study.waits.join(', ') : '–'}
      </td>
      <td className="n soft">{date(study.lastAt)}</td>
      <td>
        {study.role === 'owner' && (
          <Button size="small" variant="text" onClick={onDelete} aria-label={`Delete ${study.name}`}>
            Delete
          </Button>
        )}
      </td>
    </tr>
  )
}

/** What was deleted and can still be brought back; nothing while there is none. */
function Deleted() {
  const deleted = useDeletedStudies()
  const bringBack = useBringBack()
  if (!deleted.data || deleted.data.length === 0) return <Trouble error={deleted.error} />
  return (
    <section style={{ padding: '18px 16px' }} aria-label="Deleted studies">
      <h2 className="fig-title">{count(deleted.data.length, 'deleted study', 'deleted studies')} can be brought back</h2>
      <Trouble error={bringBack.error} />
      <ul style={{ listStyle: 'none', padding: 0 }}>
        {deleted.data.map((s) => (
          <li
            key={s.id}
            style={{ display: 'flex', alignItems: 'center', gap: 12, padding: '6px 0', borderBottom: '1px solid var(--rule)' }}
          >
            <span style={{ overflowWrap: 'anywhere' }}>
              {s.question} <span className="soft small">{s.name}</span>
            </span>
            <span className="soft small" style={{ marginLeft: 'auto', whiteSpace: 'nowrap' }}>
              deleted {date(s.deletedAt)},{' '}
              {s.daysLeft === 0 ? 'gone within a day' : `kept for ${count(s.daysLeft, 'more day', 'more days')}`}
            </span>
            <Button
              size="small"
              sx={{ flexShrink: 0 }}
              disabled={bringBack.isPending}
              onClick={() => bringBack.mutate(s.id)}
              aria-label={`Bring back ${s.name}`}
            >
              Bring back
            </Button>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** The six stations on a line, as far as the study has come. */
function Beads({ study }: { study: Study }) {
  const waits = study.waits.length > 0
  return (
    <svg width="176" height="20" role="img" aria-label={`At station ${study.station} of 6`}>
      {stationNames.map((_, i) => {
        const x = 8 + i * 32
        const reached = i < study.station
        return (
          <g key={i}>
            {i < 5 &&
              (i + 1 < study.station ? (
                [-3, -1, 1, 3].map((d) => (
                  <path
                    key={d}
                    d={`M${x} 10C${x + 8} ${10 + d * 1.6} ${x + 24} ${10 + d * 1.6} ${x + 32} 10`}
                    fill="none"
                    stroke="var(--ink)"
                  />
                ))
              ) : (
                <path d={`M${x} 10H${x + 32}`} stroke="var(--rule-firm)" strokeDasharray="1.5 3" />
              ))}
            {i === study.station - 1 ? (
              <>
                <circle
                  cx={x}
                  cy={10}
                  r={8.5}
                  fill={waits ? 'var(--paper)' : 'var(--verdigris)'}
                  stroke={waits ? 'var(--brass)' : 'var(--verdigris)'}
                  strokeWidth="1.3"
                />
                <text x={x} y={14} textAnchor="middle" fontSize="11" fontWeight="650" fill={waits ? 'var(--brass-ink)' : 'var(--paper)'}>
                  {i + 1}
                </text>
              </>
            ) : (
              <circle cx={x} cy={10} r={3.5} fill="var(--paper)" stroke={reached ? 'var(--ink)' : 'var(--rule-firm)'} />
            )}
          </g>
        )
      })}
    </svg>
  )
}

function NewStudy({ file, onClose }: { file: File | null; onClose: () => void }) {
  const go = useNavigate()
  const create = useCreateStudy()
  const [progress, setProgress] = useState<number | null>(null)
  const [error, setError] = useState<unknown>(null)

  async function submit(event: FormEvent<HTMLFormElement>) {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    setError(null)
    try {
      const uploadId = file ? await upload(file, setProgress) : null
      const study = await create.mutateAsync({ name: String(form.get('name')), question: String(form.get('question')) })
      onClose()
      await go(uploadId === null ? `/study/${study.id}` : `/study/${study.id}/import?upload=${uploadId}`)
    } catch (e) {
      setError(e)
      setProgress(null)
    }
  }

  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <form onSubmit={submit}>
        <DialogTitle>New study</DialogTitle>
        <DialogContent sx={{ display: 'flex', flexDirection: 'column', gap: 2 }}>
          {file && (
            <p>
              From <b>{file.name}</b>, {whole(file.size / 1024)} kB.
            </p>
          )}
          <TextField
            name="question"
            label="Which question should it answer?"
            autoFocus
            placeholder="Which visits will need a return trip?"
          />
          <TextField
            name="name"
            label="Short name"
            required
            defaultValue={file ? file.name.replace(/\.[^.]+$/, '') : ''}
            slotProps={{ htmlInput: { maxLength: 120 } }}
          />
          {progress !== null && <p role="status">Sending the file: {share(progress, 0)}. What has arrived is kept if the line breaks.</p>}
          <Trouble error={error} />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" color="primary" disabled={progress !== null || create.isPending}>
            {file ? 'Read the file' : 'Begin'}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  )
}
