import { Button } from '@mui/material'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { useStartGuided } from '../../data/search'
import type { Learner } from '../../data/trial'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'

const MINUTES = ['2', '5', '10', '30', '60', '240']
const READINGS = ['10', '30', '60', 'any']

/** Three sentences and one button: what Dokimos may take, how long its answer may be, and what it may not use. */
export function GuidedPanel({ studyId, variantId, learners }: { studyId: number; variantId: number; learners: Learner[] }) {
  const go = useNavigate()
  const start = useStartGuided(studyId)
  const [minutes, setMinutes] = useState('10')
  const [reading, setReading] = useState('30')
  const [without, setWithout] = useState<string[]>([])
  const able = learners.filter((l) => l.needsColumns)
  const said = without.length === 0 ? 'all learners' : `all but ${without.length}`
  return (
    <section aria-label="Guided search">
      <h2 className="fig-title">Let Dokimos search</h2>
      <p className="sentence size-15">
        It may take{' '}
        <Slot
          label="Deadline"
          value={minutes}
          choices={MINUTES.map((m) => ({ value: m, label: Number(m) >= 60 ? `${Number(m) / 60} h` : `${m} minutes` }))}
          onChange={setMinutes}
        />
        .
      </p>
      <p className="sentence size-15">
        The clear finalist may be{' '}
        <Slot
          label="Longest reading"
          value={reading}
          choices={READINGS.map((r) => ({ value: r, label: r === 'any' ? 'of any length' : `${r} leaves, rules or terms` }))}
          onChange={setReading}
        />
        .
      </p>
      <details className="size-13">
        <summary>
          It may use <b>{said}</b>.
        </summary>
        {able.map((l) => (
          <label key={l.name} className="ticked">
            <input
              type="checkbox"
              className="accented"
              aria-label={`May use ${l.title}`}
              checked={!without.includes(l.name)}
              onChange={() => setWithout(without.includes(l.name) ? without.filter((n) => n !== l.name) : [...without, l.name])}
            />
            {l.title}
          </label>
        ))}
      </details>
      <p className="small soft above-4">
        Weighs what can be made of the columns, tries learners on more and more rows, and judges the best on rows that no choice has read.
      </p>
      <Trouble error={start.error} />
      <Button
        disabled={start.isPending || without.length === able.length}
        onClick={() =>
          start.mutate(
            { variantId, minutes: Number(minutes), tries: null, reading: reading === 'any' ? null : Number(reading), without, seed: 2026 },
            { onSuccess: (j) => void go(`/study/${studyId}/trials/guided/${j.subject}`) },
          )
        }
      >
        {start.isPending
          ? 'Starting…'
          : `Start the guided search, ${Number(minutes) >= 60 ? `${Number(minutes) / 60} h` : `${minutes} min`}`}
      </Button>
    </section>
  )
}
