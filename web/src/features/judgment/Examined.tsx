import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import { useState } from 'react'
import { isOver, useJob } from '../../data/job'
import { type Judgment, sectionOf, useHandOn } from '../../data/judgment'
import { count, whole } from '../../ui/format'
import { figure, figured } from '../../ui/measure'
import { Trouble } from '../../ui/Trouble'

/** What the sealed rows said, beside what was expected, and the model that is handed on. */
export function Examined({ judgment }: { judgment: Judgment }) {
  const { trial, sealed } = judgment
  if (!sealed) return null
  const lines = (sectionOf(judgment, 'event') ?? sectionOf(judgment, 'number') ?? sectionOf(judgment, 'classes'))?.figures ?? []
  const seen = lines.filter((l) => l.sealed?.value != null)
  const main = seen.find((l) => l.figure.key === trial.measure.key) ?? seen[0]
  const off = seen.filter((l) => l.agrees === false)
  return (
    <section className="parts-row" aria-label="The examination">
      <div className="pad" style={{ flex: '1 1 270px' }}>
        <h2 className="fig-title">
          {off.length === 0
            ? 'The sealed rows say what was expected'
            : `${off.every(better) ? 'Better' : off.some(better) ? 'Other' : 'Worse'} than expected in ${off.length} of ${count(seen.length, 'figure')}`}
        </h2>
        {main && (
          <p className="size-13">
            {main.figure.name} <b>{figured(main.figure, main.sealed!)}</b> on {whole(sealed.rows)} sealed rows, where{' '}
            {figured(main.figure, main.interval)} was expected.{' '}
            {main.agrees == null
              ? 'Whether they agree cannot be told without an interval.'
              : main.agrees
                ? 'They agree, within the error of both.'
                : 'They do not agree, beyond the error of both.'}
          </p>
        )}
        <p className="soft small">
          Opening {sealed.opening} of this study.
          {sealed.opening > 1 &&
            ' Earlier openings have told of these rows already: what is chosen after them is no longer examined by them.'}
          {sealed.unanswered > 0 && ` ${count(sealed.unanswered, 'row')} could not be answered.`}
        </p>
      </div>
      <div className="pad" style={{ flex: '1 1 380px', borderLeft: '1px solid var(--rule)' }}>
        <table className="ledger" aria-label="Expected and sealed">
          <thead>
            <tr>
              <th>Figure</th>
              <th className="n" style={{ width: 118 }}>
                Expected
              </th>
              <th className="n" style={{ width: 118 }}>
                Sealed
              </th>
              <th style={{ width: 64 }}>Agrees</th>
            </tr>
          </thead>
          <tbody>
            {seen.map((l) => (
              <tr key={l.figure.key}>
                <td title={l.says}>{l.figure.name}</td>
                <td className="n">{figured(l.figure, l.interval)}</td>
                <td className="n">
                  <b>{figured(l.figure, l.sealed!)}</b>
                </td>
                <td>{l.agrees == null ? '–' : l.agrees ? 'yes' : <span className="cinn">{better(l) ? 'better' : 'worse'}</span>}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <HandOn judgment={judgment} />
    </section>
  )
}

function better(l: { figure: { more: boolean }; sealed?: { value?: number | null } | null; interval: { value?: number | null } }): boolean {
  return (l.sealed?.value ?? 0) > (l.interval.value ?? 0) === l.figure.more
}

/** After the examination: the model learns from the sealed rows too, and that one scores. */
function HandOn({ judgment }: { judgment: Judgment }) {
  const { trial } = judgment
  const [asking, setAsking] = useState(false)
  const [jobId, setJobId] = useState<number | null>(null)
  const hand = useHandOn(trial.id)
  const job = useJob(jobId).data
  const busy = job != null && !isOver(job)
  return (
    <div className="pad" style={{ flex: '1 1 200px', borderLeft: '1px solid var(--rule)' }}>
      <h2 className="fig-title">{trial.handedRows == null ? 'For use' : `In use: fitted on all ${whole(trial.handedRows)} records`}</h2>
      <p className="soft small">
        {trial.handedRows == null
          ? 'Once examined, it may learn from the sealed rows too. The figures here stay those of the examined model.'
          : `New records are scored by it. It was not examined itself: ${trial.measure.name} ${figure(trial.measure, trial.value)} is that of the model fitted without the sealed rows.`}
      </p>
      {busy && (
        <p className="size-13" role="status">
          {job.title}: being fitted.
        </p>
      )}
      {job?.state === 'failed' && <p className="size-13 cinn">{job.message}</p>}
      {!busy && trial.handedRows == null && (
        <p className="above-6">
          <Button size="small" onClick={() => setAsking(true)} disabled={trial.stale.length > 0}>
            Fit once more on all records…
          </Button>
        </p>
      )}
      <Trouble error={hand.error} />
      <Dialog open={asking} onClose={() => setAsking(false)} aria-labelledby="hand-on">
        <DialogTitle id="hand-on">Fit trial {trial.number} once more on all records?</DialogTitle>
        <DialogContent>
          <p>
            The sealed rows teach from now on, so nothing is left to examine this model by. It is set up as before and learns from more
            rows; new records are scored by it. Its expected figures are those of the examined model, which stay on this page.
          </p>
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setAsking(false)}>Not now</Button>
          <Button
            variant="contained"
            color="primary"
            disabled={hand.isPending}
            onClick={() =>
              hand.mutate(undefined, {
                onSuccess: (j) => {
                  setJobId(j.id)
                  setAsking(false)
                },
              })
            }
          >
            Fit it for use
          </Button>
        </DialogActions>
      </Dialog>
    </div>
  )
}
