import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { type Scoring, useKeepScored } from '../../data/decision'
import { isOver, useJob } from '../../data/job'
import { share } from '../../ui/format'
import { Trouble } from '../../ui/Trouble'

/** Makes the scored records a table of the study: with a Register, rows by condition, pictures and exports. */
export function KeepAsTable({ scoring, onClose }: { scoring: Scoring; onClose: () => void }) {
  const go = useNavigate()
  const [name, setName] = useState(`${scoring.tableName} scored`.slice(0, 120))
  const [as, setAs] = useState(scoring.target)
  const [carry, setCarry] = useState(new Set(scoring.columns))
  const keep = useKeepScored(scoring.id)
  const [jobId, setJobId] = useState<number | null>(null)
  const job = useJob(jobId)
  const failed = job.data && isOver(job.data) && job.data.state !== 'done'
  useEffect(() => {
    if (job.data?.state === 'done') void go(`/study/${scoring.studyId}/table/${job.data.subject}`)
  }, [job.data, go, scoring.studyId])
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>A table of the scored records</DialogTitle>
      <DialogContent>
        <p className="soft size-13 below-8">
          The answer, how sure it is, confidence, reasons and why a record has none, beside the columns carried along. Under the name of an
          earlier such table it becomes its next edition.
        </p>
        <label className="term">
          <span>Name of the table</span>
          <input className="bound" style={{ width: 260 }} value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
        </label>
        <label className="term">
          <span>Name of the answer</span>
          <input className="bound" style={{ width: 260 }} value={as} maxLength={60} onChange={(e) => setAs(e.target.value)} />
        </label>
        <fieldset className="plain above-8">
          <legend className="size-13">Carry along</legend>
          <div style={{ display: 'grid', gridTemplateColumns: '1fr 1fr', fontSize: 13 }}>
            {scoring.columns.map((c) => (
              <label key={c} style={{ display: 'flex', gap: 6, minHeight: 26, alignItems: 'center' }}>
                <input
                  type="checkbox"
                  className="accented"
                  checked={carry.has(c)}
                  onChange={() => {
                    const next = new Set(carry)
                    if (!next.delete(c)) next.add(c)
                    setCarry(next)
                  }}
                />
                {c}
              </label>
            ))}
          </div>
        </fieldset>
        <Trouble error={keep.error ?? (failed ? new Error(job.data?.message ?? 'The table was not made. Nothing was changed.') : null)} />
        {jobId !== null && !failed && <p role="status">Making the table: {share(job.data?.share ?? 0, 0)}. You can leave this page.</p>}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          color="primary"
          disabled={keep.isPending || (jobId !== null && !failed) || name.trim() === ''}
          onClick={() =>
            keep.mutate(
              { name, as: as === scoring.target ? '' : as, carry: carry.size === scoring.columns.length ? null : [...carry] },
              { onSuccess: (j) => setJobId(j.id) },
            )
          }
        >
          Make the table
        </Button>
      </DialogActions>
    </Dialog>
  )
}
