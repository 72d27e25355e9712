import { Popover } from '@mui/material'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { useNameSelection, useSelections } from '../data/selection'
import { whole } from '../ui/format'
import { Trouble } from '../ui/Trouble'

/** Names what a view is narrowed to, and goes to what was named before. */
export function NamedSelections({
  studyId,
  view,
  query,
  records,
  narrowed,
}: {
  studyId: number
  /** Below the study, such as "table/3/rows". */
  view: string
  query: string
  records: number | undefined
  narrowed: boolean
}) {
  const go = useNavigate()
  const selections = useSelections(studyId)
  const { keep, remove } = useNameSelection(studyId)
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const [name, setName] = useState('')
  const own = (selections.data ?? []).filter((s) => s.view === view)
  if (!narrowed && own.length === 0) return null
  return (
    <span className="small" style={{ paddingLeft: 12 }}>
      <button type="button" className="link" aria-haspopup="dialog" onClick={(e) => setAnchor(e.currentTarget)}>
        Selections{own.length > 0 ? ` (${own.length})` : ''}
      </button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{ paper: { 'aria-label': 'Selections', role: 'dialog', sx: { p: 1.5, minWidth: 300 } } }}
      >
        {own.map((s) => (
          <p key={s.id} className="apart size-13" style={{ alignItems: 'center' }}>
            <button
              type="button"
              className="link"
              onClick={() => {
                setAnchor(null)
                void go(`/study/${studyId}/${s.view}?${s.query}`)
              }}
            >
              {s.name}
            </button>
            <span className="soft">{whole(s.records)} records then</span>
            <button type="button" className="link" aria-label={`Remove the name ${s.name}`} onClick={() => remove.mutate(s.id)}>
              remove
            </button>
          </p>
        ))}
        {narrowed && (
          <form
            className="above-4"
            onSubmit={(e) => {
              e.preventDefault()
              if (name.trim() === '' || records === undefined) return
              keep.mutate({ name, view, query, records }, { onSuccess: () => setAnchor(null) })
            }}
          >
            <label className="size-13">
              Name these {whole(records)} records{' '}
              <input className="bound" style={{ width: 150 }} value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
            </label>{' '}
            <button type="submit" className="link size-13" disabled={name.trim() === '' || keep.isPending}>
              Keep
            </button>
          </form>
        )}
        <Trouble error={keep.error ?? remove.error} />
      </Popover>
    </span>
  )
}
