import { Button, Checkbox } from '@mui/material'
import { useState } from 'react'
import { useParams } from 'react-router'
import { useChangeDossier, useDossier, useReplay, type Dossier } from '../../data/dossier'
import { count, date } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Loading, Trouble } from '../../ui/Trouble'

/** The study told to somebody who was not there: what is in it, what is left out, and what we say beside it. */
export function DossierPage() {
  const studyId = Number(useParams().studyId)
  const dossier = useDossier(studyId)
  const change = useChangeDossier(studyId)
  const [chosen, setChosen] = useState('short')
  const data = dossier.data
  const file = (query: string) => `/api/studies/${studyId}/dossier/file?${query}`
  const on = data?.sections.filter((s) => s.on) ?? []
  const shown = data?.sections.find((s) => s.key === chosen) ?? data?.sections[0]
  const printed = data?.comments.filter((c) => c.print).length ?? 0
  const keep = (off: string[], comments: Dossier['comments']) =>
    change.mutate({ off, comments: comments.map(({ section, text, print }) => ({ section, text, print })) } as never)
  const off = data?.sections.filter((s) => !s.on).map((s) => s.key) ?? []
  return (
    <>
      <Head
        title="Dossier"
        small="the study in sentences"
        say={
          data && (
            <>
              <b>
                {count(data.pages, 'page')} in {count(on.length, 'section')}, written from the study as it stands
              </b>
              ; nothing is computed for it.{' '}
              {data.comments.length > 0 && `${count(data.comments.length, 'comment')}, ${printed} to be printed.`}
            </>
          )
        }
      >
        <Button component="a" href={file('format=pdf&short=1')} download>
          Short form, 1 page
        </Button>
        <Button component="a" href={file('format=html')} download>
          Download HTML
        </Button>
        <Button component="a" href={file('format=pdf')} download variant="contained" color="primary">
          Download PDF{data ? `, ${count(data.pages, 'page')}` : ''}
        </Button>
      </Head>
      <div className="sheet fit" style={{ display: 'flex', minHeight: 0 }}>
        {dossier.isPending && <Loading what="the dossier" />}
        <Trouble error={dossier.error ?? change.error} />
        {data && shown && (
          <>
            <nav className="pad" style={{ flex: '0 0 250px', overflow: 'auto', borderRight: '1px solid var(--ink)' }} aria-label="Sections">
              <h2 className="fig-title">What it tells</h2>
              <table className="ledger" aria-label="Sections">
                <thead>
                  <tr>
                    <th style={{ width: 34 }}>
                      <span className="sr">Told</span>
                    </th>
                    <th>Section</th>
                    <th className="n" style={{ width: 44 }}>
                      Page
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {data.sections.map((s) => (
                    <tr key={s.key} className={s.key === shown.key ? 'sel' : ''}>
                      <td style={{ textOverflow: 'clip' }}>
                        <Checkbox
                          size="small"
                          checked={s.on}
                          disabled={change.isPending}
                          slotProps={{ input: { 'aria-label': `Tell ${s.name}` } }}
                          onChange={() => keep(s.on ? [...off, s.key] : off.filter((k) => k !== s.key), data.comments)}
                          sx={{ padding: '2px' }}
                        />
                      </td>
                      <td>
                        <button
                          type="button"
                          className="link plain-link"
                          aria-current={s.key === shown.key || undefined}
                          onClick={() => setChosen(s.key)}
                        >
                          {s.name}
                        </button>
                      </td>
                      <td className="n soft">{s.page ?? 'off'}</td>
                    </tr>
                  ))}
                </tbody>
                <tfoot>
                  <tr>
                    <td />
                    <td>
                      {on.length} of {data.sections.length} sections
                    </td>
                    <td className="n">{data.pages}</td>
                  </tr>
                </tfoot>
              </table>
              <Along studyId={studyId} />
              <p className="soft small above-8">
                An auditor will ask for <i>Methods</i> and <i>Logbook</i>: settings, seeds, fingerprints, and who did what.
              </p>
            </nav>
            <article
              className="pad dossier"
              style={{ flex: '1 1 480px', overflow: 'auto' }}
              tabIndex={0}
              aria-label={`${shown.name}, as it is told`}
            >
              {shown.on ? (
                // Made by the server from what it escaped itself; it holds no scripts and nothing from outside.
                <div dangerouslySetInnerHTML={{ __html: shown.html }} />
              ) : (
                <p className="soft">{shown.name} is left out of the dossier.</p>
              )}
            </article>
            <Comments
              key={shown.key}
              section={shown.key}
              name={shown.name}
              data={data}
              busy={change.isPending}
              onKeep={(c) => keep(off, c)}
            />
          </>
        )}
      </div>
    </>
  )
}

/** The study itself as one file, and another study's file followed here. */
function Along({ studyId }: { studyId: number }) {
  const replay = useReplay(studyId)
  return (
    <div className="small above-8">
      <p>
        <a href={`/api/studies/${studyId}/saved`}>Take the study along</a> as one file, to be done again elsewhere to the last bit.
      </p>
      <label>
        Follow a study's file here{' '}
        <input
          type="file"
          accept=".json,application/json"
          disabled={replay.isPending}
          onChange={(e) => {
            const file = e.target.files?.[0]
            if (file) void file.text().then((text) => replay.mutate(text))
          }}
        />
      </label>
      <Trouble error={replay.error} />
      {replay.data && (
        <div className="note" role="status">
          <p>{replay.data.says.length === 0 ? 'Followed: its trials are being fitted.' : 'Followed, but for this:'}</p>
          <ul>
            {replay.data.says.map((s) => (
              <li key={s}>{s}</li>
            ))}
          </ul>
        </div>
      )}
    </div>
  )
}

function Comments({
  section,
  name,
  data,
  busy,
  onKeep,
}: {
  section: string
  name: string
  data: Dossier
  busy: boolean
  onKeep: (comments: Dossier['comments']) => void
}) {
  const [text, setText] = useState('')
  const own = data.comments.filter((c) => c.section === section)
  return (
    <aside
      className="pad"
      style={{ flex: '0 0 230px', overflow: 'auto', borderLeft: '1px solid var(--rule)', background: 'var(--desk)' }}
      aria-label="Comments"
    >
      <label className="small" htmlFor="comment">
        Comment on {name}
      </label>
      <textarea
        id="comment"
        className="underlined"
        rows={3}
        value={text}
        onChange={(e) => setText(e.target.value)}
        style={{ width: '100%', font: 'inherit', resize: 'vertical' }}
      />
      <Button
        size="small"
        disabled={text.trim() === '' || busy}
        onClick={() => {
          onKeep([...data.comments, { section, text: text.trim(), print: false, by: '', at: '' }])
          setText('')
        }}
      >
        Say it
      </Button>
      {own.map((c) => (
        <div key={c.text} className="note above-8">
          <p className="soft small">
            <b>{c.by}</b> {date(c.at)}
          </p>
          <p>{c.text}</p>
          <label className="small">
            <Checkbox
              size="small"
              checked={c.print}
              disabled={busy}
              onChange={() => onKeep(data.comments.map((o) => (o === c ? { ...c, print: !c.print } : o)))}
              sx={{ padding: '2px' }}
            />
            print in the dossier
          </label>{' '}
          <button type="button" className="link small" onClick={() => onKeep(data.comments.filter((o) => o !== c))}>
            Take it back
          </button>
        </div>
      ))}
    </aside>
  )
}
