import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { type Scoring, useBeside } from '../../data/decision'
import { fixed, number, share, whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'

/** Two trials' answers for the same records: how far they agree, and where they differ most. */
export function BatchesBeside({ scoring, others, onClose }: { scoring: Scoring; others: Scoring[]; onClose: () => void }) {
  const go = useNavigate()
  const [other, setOther] = useState(others[0]!.id)
  const beside = useBeside(scoring.id, other)
  const data = beside.data
  const apart = data?.apart == null ? null : scoring.task === 'number' ? number(data.apart, 3) : `${(100 * data.apart).toFixed(1)} points`
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Two answers for the same records</DialogTitle>
      <DialogContent>
        <p className="sentence below-8">
          Trial {scoring.trialNumber} beside{' '}
          <Slot
            label="The other batch"
            value={String(other)}
            choices={others.map((o) => ({ value: String(o.id), label: `trial ${o.trialNumber}, ${o.trialTitle.toLowerCase()}` }))}
            onChange={(v) => setOther(Number(v))}
          />
          .
        </p>
        {beside.isPending && <Loading what="both batches" />}
        <Trouble error={beside.error} />
        {data && (
          <>
            <p role="status" className="below-8">
              {data.agree != null && (
                <>
                  <b>
                    They {scoring.task === 'several classes' ? 'name the same class' : 'call alike'} for {share(data.agree, 0)}
                  </b>{' '}
                  of {whole(data.both)} records
                  {scoring.task === 'two classes' &&
                    `; ${whole(data.onlyFirst)} are called by the first alone, ${whole(data.onlyOther)} by the other alone`}
                  .{' '}
                </>
              )}
              {data.ranks != null && `They order records alike to ${fixed(data.ranks, 2)} (1 = the same order).`}
              {apart != null && ` Answers lie ${apart} apart on average.`}
            </p>
            {data.most.length > 0 && (
              <table className="ledger" aria-label="Records on which they differ most">
                <thead>
                  <tr>
                    <th>They differ most on</th>
                    <th className="n">Trial {data.firstTrial}</th>
                    <th className="n">Trial {data.otherTrial}</th>
                  </tr>
                </thead>
                <tbody>
                  {data.most.map((r) => (
                    <tr key={r.number}>
                      <td>
                        <button
                          type="button"
                          className="link"
                          onClick={() => void go(`/study/${scoring.studyId}/reasons?batch=${scoring.id}&record=${r.number}`)}
                        >
                          {r.key ?? `record ${r.number}`}
                        </button>
                      </td>
                      <td className="n">{r.first}</td>
                      <td className="n">{r.other}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  )
}
