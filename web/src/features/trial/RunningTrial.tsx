import { Button } from '@mui/material'
import { useNavigate } from 'react-router'
import { isOver, type Job, useCancel } from '../../data/job'

/** How far the trial that was begun here is. */
export function RunningTrial({ job, fits, studyId }: { job: Job; fits: number; studyId: number }) {
  const cancel = useCancel()
  const go = useNavigate()
  return (
    <div role="status" style={{ maxWidth: 520, margin: '8px 0' }}>
      <b>{job.title}</b>{' '}
      {!isOver(job) ? (
        <>
          is running: {Math.min(fits, Math.round(job.share * (fits + 1)))} of {fits} fits done. You can leave this page.{' '}
          <Button size="small" onClick={() => cancel.mutate(job.id)}>
            Cancel
          </Button>
          <div style={{ height: 4, background: 'var(--rule)', marginTop: 6 }}>
            <div style={{ height: 4, width: `${100 * job.share}%`, background: 'var(--verdigris)' }} />
          </div>
        </>
      ) : job.state === 'done' ? (
        <>
          is done.{' '}
          <Button size="small" variant="contained" color="primary" onClick={() => void go(`/study/${studyId}/judgment/${job.subject}`)}>
            Judge it
          </Button>
        </>
      ) : (
        <span className="cinn">{job.message ?? 'was cancelled. Nothing was changed.'}</span>
      )}
    </div>
  )
}
