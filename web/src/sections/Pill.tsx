import { Button, Popover } from '@mui/material'
import { type CSSProperties, useState } from 'react'
import { duration, fixed, share } from '../ui/format'
import { type Job, isOver, useCancel, useJobs } from '../data/job'

/** One line of running work; opens the list with progress, time left, and cancel. */
export function Pill() {
  const jobs = useJobs()
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const [open, setOpen] = useState(false)
  const running = (jobs.data ?? []).filter((j) => !isOver(j))
  const ended = (jobs.data ?? []).filter(isOver).slice(0, 4)
  const first = running[0]
  const best = running.reduce<Job['soFar']>((b, j) => (j.soFar && (!b || j.soFar.value > b.value) ? j.soFar : b), null)
  return (
    <>
      <button
        ref={setAnchor}
        type="button"
        className={`pill ${running.length === 0 ? 'idle' : ''}`}
        aria-haspopup="dialog"
        aria-expanded={open}
        onClick={() => setOpen(true)}
        style={{ '--done': first ? 100 * first.share : 0 } as CSSProperties}
      >
        <span className="dot" />
        {first ? (
          <>
            {running.length} running <span className="soft">{share(first.share, 0)}</span>
            {first.secondsLeft != null && <span className="soft">{duration(first.secondsLeft)} left</span>}
            {best && (
              <span className="soft">
                best {best.name} {fixed(best.value)}
              </span>
            )}
            <i />
          </>
        ) : (
          'Nothing running'
        )}
      </button>
      <Popover
        open={open}
        anchorEl={anchor}
        onClose={() => setOpen(false)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        slotProps={{
          paper: { role: 'dialog', 'aria-label': 'Running work', sx: { border: '1px solid var(--ink)', width: 348, p: '16px' } },
        }}
      >
        <h2 className="fig-title">Running work</h2>
        {running.length === 0 && (
          <p className="soft small">Nothing is running. Long work appears here and goes on when you leave the page.</p>
        )}
        {[...running, ...ended].map((j) => (
          <Line key={j.id} job={j} />
        ))}
      </Popover>
    </>
  )
}

function Line({ job }: { job: Job }) {
  const cancel = useCancel()
  const over = isOver(job)
  const state =
    { waiting: 'waits for a worker', running: 'running', done: 'done', failed: 'could not be done', cancelled: 'cancelled' }[job.state] ??
    job.state
  return (
    <div style={{ borderTop: '1px solid var(--rule)', marginTop: 10, paddingTop: 8 }}>
      <b className="size-13">{job.title}</b>
      <p className="small soft">
        {job.studyName} · {state}
        {!over && job.secondsLeft != null && `, ${duration(job.secondsLeft)} left`}
        {over && job.state === 'done' && ` in ${duration(job.seconds)}`}
      </p>
      {!over && job.soFar && (
        <p className="small">
          {job.soFar.name} {fixed(job.soFar.value)} so far,{' '}
          {job.soFar.parts === 1 ? 'from one part' : `the mean of ${job.soFar.parts} parts`}
        </p>
      )}
      {job.message && <p className="small cinn">{job.message}</p>}
      {!over && (
        <>
          <div
            style={{ height: 4, background: 'var(--rule)', margin: '6px 0' }}
            role="progressbar"
            aria-label={job.title}
            aria-valuenow={Math.round(100 * job.share)}
            aria-valuemin={0}
            aria-valuemax={100}
          >
            <div style={{ height: 4, width: `${100 * job.share}%`, background: 'var(--verdigris)' }} />
          </div>
          <Button size="small" onClick={() => cancel.mutate(job.id)} disabled={cancel.isPending}>
            Cancel
          </Button>
        </>
      )}
    </div>
  )
}
