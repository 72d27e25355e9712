import { Button } from '@mui/material'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { Note } from '../ui/Note'
import { Slot } from '../ui/Slot'
import { Trouble } from '../ui/Trouble'
import { titled, useTables } from '../data/table'
import { type MadeBy, useFollow } from '../data/combine'

/** How a table was made, and the way to follow its combination with newer records. */
export function MadeNote({ made, studyId, name }: { made: MadeBy; studyId: number; name: string }) {
  const tables = useTables(studyId)
  const follow = useFollow()
  const go = useNavigate()
  const others = (tables.data ?? []).filter((t) => t.state === 'ready' && t.id !== made.tableId && t.id !== made.sourceId)
  const [chosen, setChosen] = useState<string | null>(null)
  const from = others.find((t) => String(t.id) === chosen)
  return (
    <Note
      title={`Made from ${made.sourceName}${made.otherName ? ` and ${made.otherName}` : ''}`}
      remedies={
        from && (
          <Button
            size="small"
            disabled={follow.isPending}
            onClick={() =>
              follow.mutate(
                { made: made.tableId, tableId: from.id, name: `${name}, from ${from.name}`.slice(0, 120) },
                { onSuccess: (job) => void go(`/study/${studyId}/table/${job.subject}`) },
              )
            }
          >
            Follow it
          </Button>
        )
      }
    >
      The combination {made.sentence}.{' '}
      {others.length > 0 && (
        <>
          Follow it again with{' '}
          <Slot
            label="Follow with"
            value={chosen ?? 'other records…'}
            choices={others.map((t) => ({ value: String(t.id), label: titled(t) }))}
            onChange={setChosen}
          />
        </>
      )}
      <Trouble error={follow.error} />
    </Note>
  )
}
