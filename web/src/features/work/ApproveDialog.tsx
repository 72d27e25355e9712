import { Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material'
import { useState } from 'react'
import { useWork } from '../../data/work'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'
import type { View } from '../../api/client'

type Props = { studyId: number; trials: View<'StudyTrialView'>[]; isEvent: boolean; onClose: () => void }

/** A named person lets a trial be used: why, for what not, and until when. */
export function ApproveDialog({ studyId, trials, isEvent, onClose }: Props) {
  const { approve } = useWork(studyId)
  const [trialId, setTrialId] = useState(String(trials[0]?.id ?? ''))
  const [sentence, setSentence] = useState('')
  const [limits, setLimits] = useState('')
  const [again, setAgain] = useState(() => new Date(Date.now() + 90 * 86_400_000).toISOString().slice(0, 10))
  const [rule, setRule] = useState('refuse')
  const [cutoff, setCutoff] = useState('0.5')
  const trial = trials.find((t) => String(t.id) === trialId)
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="approve-title">
      <DialogTitle id="approve-title">Approve a model for use</DialogTitle>
      <DialogContent>
        <p className="sentence">
          <Slot
            label="Trial"
            value={trialId}
            choices={trials.map((t) => ({ value: String(t.id), label: `Trial ${t.number}, ${t.title}` }))}
            onChange={setTrialId}
          />{' '}
          may be used
          {isEvent && (
            <>
              {' '}
              and calls from a chance of{' '}
              <input
                aria-label="Called from this chance on"
                value={cutoff}
                inputMode="decimal"
                onChange={(e) => setCutoff(e.target.value)}
                className="underlined"
                style={{ width: 56 }}
              />{' '}
              on
            </>
          )}
          . Where a column is missing or not known,{' '}
          <Slot
            label="Missing and unknown columns"
            value={rule}
            choices={[
              { value: 'refuse', label: 'refuse the record' },
              { value: 'answer with low confidence', label: 'answer with low confidence' },
            ]}
            onChange={setRule}
          />
          .
        </p>
        <TextField
          label="Why it may be used"
          fullWidth
          multiline
          minRows={2}
          margin="dense"
          value={sentence}
          onChange={(e) => setSentence(e.target.value)}
        />
        <TextField
          label="What it is not to be used for"
          fullWidth
          multiline
          minRows={2}
          margin="dense"
          value={limits}
          onChange={(e) => setLimits(e.target.value)}
        />
        <TextField
          label="Look again on"
          type="date"
          margin="dense"
          value={again}
          onChange={(e) => setAgain(e.target.value)}
          slotProps={{ inputLabel: { shrink: true } }}
        />
        <p className="soft small">
          Kept with it and never changed: its figures, the openings of the seal, the split, the preparation, the other trials, and
          fingerprints of data, model and code.
        </p>
        <Trouble error={approve.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          color="primary"
          disabled={!trial || approve.isPending || sentence.trim() === '' || limits.trim() === ''}
          onClick={() =>
            trial &&
            approve.mutate(
              { trialId: trial.id, body: { sentence, limits, again, rule, cutoff: Number(cutoff.replace(',', '.')), groups: [] } as never },
              { onSuccess: onClose },
            )
          }
        >
          {approve.isPending ? 'Approving…' : 'Approve'}
        </Button>
      </DialogActions>
    </Dialog>
  )
}
