import { Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material'
import { useState } from 'react'
import { useFindings } from '../../data/finding'
import { type ColumnChoice, useChoices, useKeepChoice, useOffered } from '../../data/trial'
import { count, fixed } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'

/** How a choice of columns is said in a sentence: whichever list is shorter. */
export function choiceSaid(choice: ColumnChoice | null | undefined): string {
  if (!choice) return 'all columns'
  const [first, second, ...more] = choice.names
  const few = more.length > 0 ? `${first}, ${second} and ${more.length} more` : choice.names.join(' and ')
  return choice.without ? `all but ${few}` : `only ${few}`
}

type Props = {
  studyId: number
  tableId: number | null | undefined
  variantId: number
  choice: ColumnChoice | null
  onChoose: (choice: ColumnChoice | null) => void
  onClose: () => void
}

/** Which columns of the preparation a trial may use, with what each says alone and what was found about it. */
export function ColumnsDialog({ studyId, tableId, variantId, choice, onChoose, onClose }: Props) {
  const offered = useOffered(variantId)
  const findings = useFindings(tableId)
  const choices = useChoices(studyId)
  const keep = useKeepChoice(studyId)
  const [ticked, setTicked] = useState<string[] | null>(null)
  const [name, setName] = useState('')
  const [search, setSearch] = useState('')
  const columns = offered.data ?? []
  const names = columns.map((c) => c.name)
  const admits = (c: ColumnChoice | null, n: string) => !c || c.names.includes(n) !== c.without
  const chosen = ticked ?? names.filter((n) => admits(choice, n))
  const left = names.filter((n) => !chosen.includes(n))
  // The shorter list is kept, so that columns to come are treated as they are meant.
  const made: ColumnChoice | null =
    left.length === 0 ? null : left.length <= chosen.length ? { names: left, without: true } : { names: chosen, without: false }
  const alone = new Map((findings.data?.relations ?? []).map((r) => [r.column, r.alone]))
  const found = (n: string) => (findings.data?.findings ?? []).filter((f) => f.columns.includes(n) && !f.dismissed).map((f) => f.short)
  const shown = columns
    .filter((c) => c.name.toLowerCase().includes(search.toLowerCase()))
    .sort((a, b) => (alone.get(b.name) ?? -1) - (alone.get(a.name) ?? -1))
  const toggle = (n: string) => setTicked(chosen.includes(n) ? chosen.filter((o) => o !== n) : [...chosen, n])
  const saved = choices.data ?? []
  // What says nothing alone, beyond the noise of having looked at all columns; together with others it may still say something.
  const silent = (findings.data?.relations ?? [])
    .filter((r) => r.adjusted != null && r.adjusted > 0.05 && chosen.includes(r.column))
    .map((r) => r.column)
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="columns-of-trial">
      <DialogTitle id="columns-of-trial">Columns of the trial</DialogTitle>
      <DialogContent>
        {offered.isPending && <Loading what="the columns" />}
        <Trouble error={offered.error ?? keep.error} />
        <p className="sentence size-15">
          It may use <b>{count(chosen.length, 'column')}</b> of {names.length}
          {made && `: ${choiceSaid(made)}`}.{' '}
          {saved.length > 0 && (
            <>
              Or as in{' '}
              <Slot
                label="Named choice"
                value=""
                choices={[
                  { value: '', label: 'a named choice' },
                  ...saved.map((c) => ({ value: String(c.id), label: c.name, effect: choiceSaid(c) })),
                ]}
                onChange={(id) => {
                  const c = saved.find((o) => String(o.id) === id)
                  if (c) setTicked(names.filter((n) => admits(c, n)))
                }}
              />
            </>
          )}
        </p>
        <input
          aria-label="Column name contains"
          placeholder="Name contains"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
          className="underlined"
        />
        <div style={{ maxHeight: 380, overflow: 'auto' }}>
          <table className="ledger" aria-label="Columns that may serve">
            <thead>
              <tr>
                <th style={{ width: 36 }}>
                  <span className="sr">Used</span>
                </th>
                <th>Column</th>
                <th style={{ width: 84 }}>Kind</th>
                <th className="n" style={{ width: 74 }}>
                  Alone
                </th>
                <th>Findings</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((c) => (
                <tr key={c.name}>
                  <td>
                    <input
                      id={`use-${c.name}`}
                      type="checkbox"
                      className="accented"
                      checked={chosen.includes(c.name)}
                      onChange={() => toggle(c.name)}
                    />
                  </td>
                  <td className="nm clipped">
                    <label htmlFor={`use-${c.name}`} title={c.name}>
                      {c.name}
                    </label>
                    {c.made != null && <span className="soft small"> made of {c.made}</span>}
                  </td>
                  <td className="soft">{c.kind}</td>
                  <td className="n">{alone.get(c.name) == null ? '–' : fixed(alone.get(c.name))}</td>
                  <td className="soft small">{found(c.name).join(', ')}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <div className="above-8" style={{ display: 'flex', gap: 8, alignItems: 'center' }}>
          <TextField size="small" label="Name of this choice" value={name} onChange={(e) => setName(e.target.value)} />
          <Button
            disabled={name.trim() === '' || made === null || keep.isPending}
            onClick={() => made && keep.mutate({ ...made, name: name.trim() }, { onSuccess: () => setName('') })}
          >
            Keep it under this name
          </Button>
        </div>
      </DialogContent>
      <DialogActions>
        {silent.length > 0 && silent.length < chosen.length && (
          <Button
            title="Alone they cannot be told from noise; together with others they may still say something"
            onClick={() => setTicked(chosen.filter((n) => !silent.includes(n)))}
          >
            Leave out {count(silent.length, 'column')} that say nothing alone
          </Button>
        )}
        <Button onClick={() => setTicked(names)}>All columns</Button>
        <Button onClick={onClose}>Leave them</Button>
        <Button
          variant="contained"
          color="primary"
          disabled={chosen.length === 0}
          onClick={() => {
            onChoose(made)
            onClose()
          }}
        >
          Use {count(chosen.length, 'column')}
        </Button>
      </DialogActions>
    </Dialog>
  )
}
