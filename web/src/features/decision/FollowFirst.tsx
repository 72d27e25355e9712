import { Button } from '@mui/material'
import { useEffect, useState } from 'react'
import { count } from '../../ui/format'
import { Trouble } from '../../ui/Trouble'
import { useFollow } from '../../data/combine'
import { isOver, useJob } from '../../data/job'
import type { Match } from '../../data/decision'

type Props = {
  combination: NonNullable<Match['combination']>
  records: { id: number; name: string } | undefined
  onMade: (tableId: number) => void
}

/** New records lack columns that a combination gave the model's own: it is followed for them too, before they are scored. */
export function FollowFirst({ combination, records, onMade }: Props) {
  const follow = useFollow()
  const [jobId, setJobId] = useState<number | null>(null)
  const job = useJob(jobId)
  const made = job.data?.state === 'done' ? job.data.subject : null
  useEffect(() => {
    if (made !== null) onMade(made)
  }, [made, onMade])
  if (!records) return null
  const { unmatched, keyless, rowsAfter } = combination.toll
  const lost = [
    unmatched > 0 && count(unmatched, 'record finds no match', 'records find no match'),
    keyless > 0 && count(keyless, 'record has no key', 'records have no key'),
  ].filter((t) => t !== false)
  const failed = job.data && isOver(job.data) && job.data.state !== 'done'
  return (
    <div className="note" style={{ margin: '8px 0' }}>
      <p>
        The model&rsquo;s own records were made by a combination, as <b>{combination.name}</b>: it {combination.sentence}. Followed with{' '}
        {records.name} it gives {count(rowsAfter, 'record')}
        {lost.length > 0 ? `; ${lost.join(', ')}` : ''}.
      </p>
      {combination.ready !== null ? (
        <Button size="small" onClick={() => onMade(combination.ready!)}>
          Take what was made before
        </Button>
      ) : (
        <Button
          size="small"
          disabled={follow.isPending || (jobId !== null && !failed)}
          onClick={() =>
            follow.mutate(
              { made: combination.made, tableId: records.id, name: `${combination.name}, from ${records.name}`.slice(0, 120) },
              { onSuccess: (j) => setJobId(j.id) },
            )
          }
        >
          {jobId !== null && !failed ? 'Following it…' : 'Follow it first'}
        </Button>
      )}
      <Trouble error={follow.error ?? (failed ? new Error(job.data?.message ?? 'It was cancelled. Nothing was made.') : null)} />
    </div>
  )
}
