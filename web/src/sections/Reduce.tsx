import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useState } from 'react'
import { Link } from 'react-router'
import { isOver, useJob } from '../data/job'
import type { Judgment } from '../data/judgment'
import { useReduce } from '../data/trial'
import { count } from '../ui/format'
import { figure } from '../ui/measure'
import { Trouble } from '../ui/Trouble'
import type { Weak } from './weak'

/** Leaves out what carries nothing and trains again; both results stand side by side then. */
export function Reduce({
  judgment,
  studyId,
  weak,
  says,
  head,
}: {
  judgment: Judgment
  studyId: number
  weak: Weak[]
  /** Why these are weak, in a sentence. */
  says: string
  /** What stands beside each. */
  head: string
}) {
  const { id, measure } = judgment.trial
  const [open, setOpen] = useState(false)
  const [kept, setKept] = useState<string[]>([])
  const [jobId, setJobId] = useState<number | null>(null)
  const reduce = useReduce(id)
  const job = useJob(jobId).data
  const gone = weak.filter((l) => !kept.includes(l.column))
  const known = gone.filter((l) => l.lost !== null)
  const expected = known.reduce((sum, l) => sum + Math.max(0, l.lost ?? 0), 0)
  if (weak.length === 0) return null
  return (
    <div className="above-6">
      {job ? (
        <p className="size-13" role="status">
          {!isOver(job) ? (
            `${job.title} is being fitted without ${count(gone.length, 'column')}.`
          ) : job.state === 'done' ? (
            <>
              {job.title} is done. <Link to={`/study/${studyId}/judgment/beside?trials=${id},${job.subject}`}>See both side by side</Link>
            </>
          ) : (
            <span className="cinn">{job.message ?? 'It was cancelled.'}</span>
          )}
        </p>
      ) : (
        <Button size="small" onClick={() => setOpen(true)}>
          Leave out {count(weak.length, 'column')} and train again…
        </Button>
      )}
      <Dialog open={open} onClose={() => setOpen(false)} maxWidth="sm" fullWidth aria-labelledby="reduce">
        <DialogTitle id="reduce">Leave out what carries nothing</DialogTitle>
        <DialogContent>
          <p>
            {says}{' '}
            {known.length > 0 ? (
              <>
                Without them the figure is expected to lose about <b>{figure(measure, expected)}</b> of {measure.name} at most, as far as
                shuffling tells; columns that say the same may cost more together than each alone.
              </>
            ) : (
              `What ${measure.name} loses without them cannot be told before it is tried.`
            )}
          </p>
          <table className="ledger" aria-label="Columns that go">
            <thead>
              <tr>
                <th style={{ width: 36 }}>
                  <span className="sr">Goes</span>
                </th>
                <th>Column</th>
                <th className="n">{head}</th>
              </tr>
            </thead>
            <tbody>
              {weak.map((l) => (
                <tr key={l.column}>
                  <td>
                    <input
                      id={`goes-${l.column}`}
                      type="checkbox"
                      className="accented"
                      checked={!kept.includes(l.column)}
                      onChange={() => setKept(kept.includes(l.column) ? kept.filter((k) => k !== l.column) : [...kept, l.column])}
                    />
                  </td>
                  <td className="nm">
                    <label htmlFor={`goes-${l.column}`}>{l.column}</label>
                  </td>
                  <td className="n">{l.why}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <Trouble error={reduce.error} />
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Leave all in</Button>
          <Button
            variant="contained"
            color="primary"
            disabled={gone.length === 0 || reduce.isPending}
            onClick={() =>
              reduce.mutate(
                gone.map((l) => l.column),
                {
                  onSuccess: (j) => {
                    setJobId(j.id)
                    setOpen(false)
                  },
                },
              )
            }
          >
            Train without {count(gone.length, 'column')}
          </Button>
        </DialogActions>
      </Dialog>
    </div>
  )
}
