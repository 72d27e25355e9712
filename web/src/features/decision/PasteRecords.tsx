import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useMutation } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { isOver, useJob } from '../../data/job'
import { upload, useImport } from '../../data/table'
import { Trouble } from '../../ui/Trouble'

/** Records copied from a sheet, with their heads: they become a table and are matched at once. */
export function PasteRecords({ studyId, onMade, onClose }: { studyId: number; onMade: (tableId: number) => void; onClose: () => void }) {
  const [text, setText] = useState('')
  const [name, setName] = useState('pasted records')
  const make = useImport(studyId)
  const [jobId, setJobId] = useState<number | null>(null)
  const job = useJob(jobId)
  const failed = job.data && isOver(job.data) && job.data.state !== 'done'
  const made = job.data?.state === 'done' ? job.data.subject : null
  const send = useMutation({
    mutationFn: async () => {
      const file = new File([text.trim() + '\n'], `${name}.txt`, { type: 'text/plain' })
      const uploadId = await upload(file, () => undefined)
      return make.mutateAsync({ uploadId, name })
    },
    onSuccess: (j) => setJobId(j.id),
  })
  useEffect(() => {
    if (made !== null) onMade(made)
  }, [made, onMade])
  const lines = text.trim() === '' ? 0 : text.trim().split('\n').length - 1
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md">
      <DialogTitle>Paste records</DialogTitle>
      <DialogContent>
        <p className="soft size-13 below-8">
          Copy them from a sheet with the names of the columns in the first line; tabs, commas and semicolons are told apart. They become a
          table of the study, matched by name.
        </p>
        <label className="term below-8">
          <span>Name of the table</span>
          <input className="bound" style={{ width: 220 }} value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
        </label>
        <textarea
          aria-label="Records, the names of the columns first"
          value={text}
          onChange={(e) => setText(e.target.value)}
          rows={12}
          style={{ width: '100%', font: '12px/1.4 ui-monospace, monospace', border: '1px solid var(--rule-firm)', background: 'none' }}
        />
        <Trouble
          error={send.error ?? (failed ? new Error(job.data?.message ?? 'The records were not read. Nothing was changed.') : null)}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          color="primary"
          disabled={lines < 1 || name.trim() === '' || send.isPending || (jobId !== null && !failed)}
          onClick={() => send.mutate()}
        >
          {lines < 1 ? 'Take the records' : `Take ${lines === 1 ? '1 record' : `${lines} records`}`}
        </Button>
      </DialogActions>
    </Dialog>
  )
}
