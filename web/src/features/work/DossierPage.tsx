import { Button, Checkbox } from '@mui/material'
import { useRef, useState, type MouseEvent } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { useChangeDossier, useDossier, type Dossier } from '../../data/dossier'
import { count } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Loading, Trouble } from '../../ui/Trouble'
import { chosenWords, Comments, sentences } from './DossierComments'

/** The study told to somebody who was not there: what is in it, what is left out, and what we say beside it. */
export function DossierPage() {
  const studyId = Number(useParams().studyId)
  const dossier = useDossier(studyId)
  const change = useChangeDossier(studyId)
  const [chosen, setChosen] = useState('short')
  const [quote, setQuote] = useState('')
  const article = useRef<HTMLElement>(null)
  const navigate = useNavigate()
  const data = dossier.data
  const file = (query: string) => `/api/studies/${studyId}/dossier/file?${query}`
  const on = data?.sections.filter((s) => s.on) ?? []
  const shown = data?.sections.find((s) => s.key === chosen) ?? data?.sections[0]
  const printed = data?.comments.filter((c) => c.print).length ?? 0
  const keep = (off: string[], comments: Dossier['comments']) =>
    change.mutate({ off, comments: comments.map(({ section, text, print, quote }) => ({ section, text, print, quote })) } as never)
  const choose = (key: string) => {
    setChosen(key)
    setQuote('')
  }
  // Figures that are links open their screen within the application.
  const follow = (e: MouseEvent) => {
    const to = (e.target as Element).closest('a')?.getAttribute('href')
    if (to?.startsWith('/') && !e.ctrlKey && !e.metaKey) {
      e.preventDefault()
      void navigate(to)
    }
  }
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
                          onClick={() => choose(s.key)}
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
              <p className="small above-8">
                <a href={`/api/studies/${studyId}/saved`}>Take the study along</a> as one file, to be done again elsewhere to the last bit;{' '}
                <Link to={`/study/${studyId}/again`}>follow the file of another</Link> here.
              </p>
              <p className="soft small above-8">
                An auditor will ask for <i>Methods</i> and <i>Logbook</i>: settings, seeds, fingerprints, and who did what.
              </p>
            </nav>
            <article
              ref={article}
              onClick={follow}
              onMouseUp={() => setQuote(chosenWords(article.current) ?? quote)}
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
              sentences={sentences(shown.html)}
              quote={quote}
              onQuote={setQuote}
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
