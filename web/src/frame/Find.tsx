import { Dialog, InputBase } from '@mui/material'
import { useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import type { Study } from '../data/study'
import { useStudies } from '../data/study'
import { useRegister } from '../data/table'
import { stationPaths } from './stations'

type Hit = { key: string; label: string; what: string; to: string }

/** Finds columns, trials, studies and screens by their names. */
export function Find({ study, onClose }: { study: Study | undefined; onClose: () => void }) {
  const go = useNavigate()
  const [text, setText] = useState('')
  const [at, setAt] = useState(0)
  const register = useRegister(study?.tableId)
  const studies = useStudies()
  const all = useMemo<Hit[]>(() => {
    const hits: Hit[] = []
    if (study) {
      const base = `/study/${study.id}`
      stationPaths.forEach((p, i) =>
        hits.push({ key: p, label: p[0]!.toUpperCase() + p.slice(1), what: `station ${i + 1}`, to: `${base}/${p}` }),
      )
      hits.push(
        { key: 'logbook', label: 'Logbook', what: 'what was done', to: `${base}/logbook` },
        { key: 'import', label: 'Import a table', what: 'action', to: `${base}/import` },
      )
      for (const c of register.data?.columns ?? [])
        hits.push({ key: `c${c.id}`, label: c.name, what: `column, ${c.kind}`, to: `${base}/table/${study.tableId}?column=${c.id}` })
      for (const t of study.trials)
        hits.push({ key: `t${t.id}`, label: `Trial ${t.number}, ${t.title.toLowerCase()}`, what: 'trial', to: `${base}/judgment/${t.id}` })
      for (const s of study.scorings)
        hits.push({ key: `s${s.id}`, label: `${s.tableName}, scored`, what: 'batch', to: `${base}/decisions/${s.id}` })
    }
    for (const s of studies.data ?? []) hits.push({ key: `study${s.id}`, label: s.name, what: 'study', to: `/study/${s.id}` })
    return hits
  }, [study, studies.data, register.data])
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  const hits = all.filter((h) => words.every((w) => `${h.label} ${h.what}`.toLowerCase().includes(w))).slice(0, 12)
  const open = (hit: Hit | undefined) => {
    if (!hit) return
    onClose()
    void go(hit.to)
  }
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" slotProps={{ paper: { 'aria-label': 'Find' } }}>
      <InputBase
        autoFocus
        fullWidth
        placeholder="Find a column, a trial, a screen"
        value={text}
        inputProps={{
          'aria-label': 'Find',
          role: 'combobox',
          'aria-expanded': true,
          'aria-controls': 'found',
          'aria-activedescendant': hits[at] ? `found-${hits[at].key}` : undefined,
        }}
        onChange={(e) => {
          setText(e.target.value)
          setAt(0)
        }}
        onKeyDown={(e) => {
          if (e.key === 'ArrowDown') setAt(Math.min(hits.length - 1, at + 1))
          else if (e.key === 'ArrowUp') setAt(Math.max(0, at - 1))
          else if (e.key === 'Enter') open(hits[at])
          else return
          e.preventDefault()
        }}
        sx={{ px: 2, py: 1, borderBottom: '1px solid var(--ink)', fontSize: 16 }}
      />
      <ul id="found" role="listbox" aria-label="Found">
        {hits.map((h, i) => (
          <li
            key={h.key}
            id={`found-${h.key}`}
            role="option"
            aria-selected={i === at}
            onClick={() => open(h)}
            style={{
              display: 'flex',
              justifyContent: 'space-between',
              padding: '6px 16px',
              cursor: 'pointer',
              background: i === at ? 'var(--ink-wash)' : undefined,
              boxShadow: i === at ? 'inset 4px 0 var(--ink)' : undefined,
            }}
          >
            <b>{h.label}</b>
            <span className="soft small">{h.what}</span>
          </li>
        ))}
        {hits.length === 0 && (
          <li className="soft" style={{ padding: 16 }}>
            Nothing has a name like that here.
          </li>
        )}
      </ul>
    </Dialog>
  )
}
