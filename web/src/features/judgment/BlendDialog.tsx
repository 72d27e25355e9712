import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { useBlend } from '../../data/trial'
import { isOver, useJob } from '../../data/job'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'

const ways = [
  { value: 'weights', label: 'weights that lose least', effect: '0 and more, adding to 1' },
  { value: 'mean', label: 'their mean', effect: 'all alike' },
  { value: 'regression on log-odds', label: 'a regression on their log-odds', effect: 'of an event' },
]

/** Trials that answer together: asks how, weighs, and goes to the blend. */
export function BlendDialog({
  studyId,
  trials,
  isEvent,
  onClose,
}: {
  studyId: number
  trials: { id: number; number: number; title: string }[]
  isEvent: boolean
  onClose: () => void
}) {
  const go = useNavigate()
  const [how, setHow] = useState('weights')
  const [jobId, setJobId] = useState<number | null>(null)
  const blend = useBlend(studyId)
  const job = useJob(jobId)
  useEffect(() => {
    if (job.data?.state === 'done') void go(`/study/${studyId}/judgment/${job.data.subject}`)
  }, [job.data, go, studyId])
  const failed = job.data && isOver(job.data) && job.data.state !== 'done'
  return (
    <Dialog open onClose={onClose} aria-labelledby="blend-title" maxWidth="sm" fullWidth>
      <DialogTitle id="blend-title">Blend {trials.length} trials</DialogTitle>
      <DialogContent>
        <p className="sentence">
          Their answers become one by{' '}
          <Slot
            label="Blended by"
            value={how}
            choices={ways.filter((w) => isEvent || w.value !== 'regression on log-odds')}
            onChange={setHow}
          />
          .
        </p>
        <p className="small">
          {trials.map((t) => `trial ${t.number}, ${t.title.toLowerCase()}`).join('; ')}. They are weighed by what they answered for rows
          that their models had not seen; each fold is judged by the weights of the others. Each keeps its own preparation and columns.
        </p>
        <Trouble error={blend.error ?? (failed ? new Error(job.data?.message ?? 'The trials could not be blended.') : null)} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          color="primary"
          disabled={blend.isPending || (jobId !== null && !failed)}
          onClick={() => blend.mutate({ trials: trials.map((t) => t.id), how: how as 'weights' }, { onSuccess: (j) => setJobId(j.id) })}
        >
          {jobId !== null && !failed ? 'Weighing…' : 'Blend'}
        </Button>
      </DialogActions>
    </Dialog>
  )
}
