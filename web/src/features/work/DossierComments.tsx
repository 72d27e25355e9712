import { Button, Checkbox } from '@mui/material'
import { useState } from 'react'
import type { Dossier } from '../../data/dossier'
import { date } from '../../ui/format'

const LONGEST = 300

/** Words that are marked with the mouse within a text; nothing where none are. */
export function chosenWords(within: HTMLElement | null): string | undefined {
  const chosen = document.getSelection()
  const words = chosen?.toString().trim() ?? ''
  const inside = chosen?.anchorNode != null && within?.contains(chosen.anchorNode)
  return inside && words !== '' && words.length <= LONGEST && !words.includes('\n') ? words : undefined
}

/** The sentences of a section's paragraphs, for those who choose by keyboard. */
export function sentences(html: string): string[] {
  const page = new DOMParser().parseFromString(html, 'text/html')
  return [...page.querySelectorAll('p:not(.name):not(.says):not(.comment):not(.picture)')]
    .flatMap((p) => (p.textContent ?? '').match(/[^.!?]+(?:[.!?](?=\S)[^.!?]*)*[.!?]?/g) ?? [])
    .map((s) => s.trim())
    .filter((s) => s.length > 3 && s.length <= LONGEST)
}

/** What is said beside a section, or beside words of it. */
export function Comments({
  section,
  name,
  sentences: own,
  quote,
  onQuote,
  data,
  busy,
  onKeep,
}: {
  section: string
  name: string
  sentences: string[]
  quote: string
  onQuote: (quote: string) => void
  data: Dossier
  busy: boolean
  onKeep: (comments: Dossier['comments']) => void
}) {
  const [text, setText] = useState('')
  const said = data.comments.filter((c) => c.section === section)
  return (
    <aside
      className="pad"
      style={{ flex: '0 0 230px', overflow: 'auto', borderLeft: '1px solid var(--rule)', background: 'var(--desk)' }}
      aria-label="Comments"
    >
      <label className="small" htmlFor="comment-on">
        Comment on
      </label>
      <select
        id="comment-on"
        className="underlined"
        style={{ width: '100%', font: 'inherit' }}
        value={quote}
        onChange={(e) => onQuote(e.target.value)}
      >
        <option value="">{name}, as a whole</option>
        {quote !== '' && !own.includes(quote) && <option value={quote}>{quote}</option>}
        {own.map((s) => (
          <option key={s} value={s}>
            {s}
          </option>
        ))}
      </select>
      <label className="small" htmlFor="comment">
        {quote === '' ? 'What is to be said' : 'What is to be said of these words'}
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
          onKeep([...data.comments, { section, text: text.trim(), print: false, by: '', at: '', quote }])
          setText('')
          onQuote('')
        }}
      >
        Say it
      </Button>
      <p className="soft small">Words of the text can also be marked with the mouse.</p>
      {said.map((c) => (
        <div key={c.quote + c.text} className="note above-8">
          <p className="soft small">
            <b>{c.by}</b> {date(c.at)}
          </p>
          {c.quote !== '' && <p className="soft small">“{c.quote}”</p>}
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
