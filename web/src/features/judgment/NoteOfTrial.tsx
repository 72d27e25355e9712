import { Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material'
import { useState } from 'react'
import { type Trial, useRemark } from '../../data/trial'
import { Trouble } from '../../ui/Trouble'

/** What somebody has to say of a trial. */
export function NoteOfTrial({ trial, studyId, onClose }: { trial: Trial; studyId: number; onClose: () => void }) {
  const [note, setNote] = useState(trial.note)
  const remark = useRemark(studyId)
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="note-of-trial">
      <DialogTitle id="note-of-trial">
        Note of trial {trial.number}, {trial.title.toLowerCase()}
      </DialogTitle>
      <DialogContent>
        <TextField
          autoFocus
          fullWidth
          multiline
          minRows={2}
          label="Note"
          value={note}
          onChange={(e) => setNote(e.target.value.slice(0, 400))}
          helperText={`${note.length} of 400 letters`}
          sx={{ mt: 1 }}
        />
        <Trouble error={remark.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button
          variant="contained"
          color="primary"
          disabled={remark.isPending}
          onClick={() => remark.mutate({ id: trial.id, note, hidden: trial.hidden }, { onSuccess: onClose })}
        >
          Keep the note
        </Button>
      </DialogActions>
    </Dialog>
  )
}
