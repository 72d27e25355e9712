import { Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material'
import { useState } from 'react'
import { Link } from 'react-router'
import { type Standings, type Trial, useChooseFinalists } from '../../data/trial'
import { numberOf } from '../../data/settings'
import { count } from '../../ui/format'
import { figure, figured } from '../../ui/measure'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'

/** The strongest trial, the clearest that is good enough, and what the clear one loses. */
export function FinalistsBand({ standings, studyId }: { standings: Standings; studyId: number }) {
  const [choosing, setChoosing] = useState(false)
  const f = standings.finalists
  const of = (id: number | null | undefined) => standings.trials.find((t) => t.id === id)
  const [strongest, clearest] = [of(f.strongest), of(f.clearest)]
  if (!strongest) return null
  const same = clearest?.id === strongest.id
  const fewer = f.reached != null && f.clearer != null ? Math.round(100 * (f.reached - f.clearer)) : null
  return (
    <>
      <section className="parts-row" aria-label="Finalists" style={{ borderBottom: '1px solid var(--rule)' }}>
        <One mark="full" title="Strongest" trial={strongest} reached={f.reached} studyId={studyId}>
          {f.byHand ? `Chosen by hand: ${f.reason}` : 'By the figure that ranks.'}
        </One>
        <div className="pad" style={{ flex: '1 1 260px', textAlign: 'center', borderLeft: '1px solid var(--rule)' }}>
          <p className="soft small">Price of clarity</p>
          <h2 className="fig-title">
            {same
              ? 'Nothing: the strongest can be read'
              : !clearest
                ? 'No trial is within the limits'
                : f.pending
                  ? 'Being worked out'
                  : f.price == null
                    ? 'Cannot be told'
                    : `${figure(standings.measure, Math.max(0, f.price))} of ${standings.measure.name}${fewer !== null && fewer > 0 ? `, ${fewer} events in 100` : ''}`}
          </h2>
          {!same && clearest && f.price != null && <Price standings={standings} />}
          {fewer !== null && !same && clearest && (
            <p className="soft small">Of 100 events, when the 30 of 100 records it puts first are called.</p>
          )}
        </div>
        {clearest ? (
          <One mark="ring" title="Clearest that is good enough" trial={clearest} reached={f.clearer} studyId={studyId}>
            {`${clearest.size} to read; the limit is ${f.reading}${f.least != null ? `, ${standings.measure.name} ${figure(standings.measure, f.least)}` : ''}${f.loss != null ? `, a loss of ${figure(standings.measure, f.loss)}` : ''}.`}{' '}
            <button type="button" className="link" onClick={() => setChoosing(true)}>
              Change
            </button>
          </One>
        ) : (
          <div className="pad" style={{ flex: '1 1 260px', borderLeft: '1px solid var(--rule)' }}>
            <p className="soft small">Clearest that is good enough</p>
            <p className="size-13">
              Nothing with at most {count(f.reading, 'leaf, rule or term', 'leaves, rules or terms')} to read is there. Try a decision tree
              or rules, or allow more.{' '}
              <button type="button" className="link" onClick={() => setChoosing(true)}>
                Change the limits
              </button>
            </p>
          </div>
        )}
      </section>
      {choosing && <FinalistsDialog standings={standings} studyId={studyId} onClose={() => setChoosing(false)} />}
    </>
  )
}

function One({
  mark,
  title,
  trial,
  reached,
  studyId,
  children,
}: {
  mark: 'full' | 'ring'
  title: string
  trial: Trial
  reached: number | null | undefined
  studyId: number
  children: React.ReactNode
}) {
  return (
    <div className="pad" style={{ flex: '1 1 280px', ...(mark === 'ring' ? { borderLeft: '1px solid var(--rule)' } : {}) }}>
      <p className="soft small">
        <Octagon mark={mark} /> {title}
      </p>
      <h2 className="fig-title">
        <Link to={`/study/${studyId}/judgment/${trial.id}`} className="plain">
          {trial.title}, {count(trial.columns, 'column')}
        </Link>
      </h2>
      <p className="size-13">
        <b>{figured(trial.measure, trial)}</b>
        {reached != null && `; reaches ${Math.round(100 * reached)} of 100 events`}.
      </p>
      <p className="soft small">{children}</p>
    </div>
  )
}

/** The mark of a finalist: full for the strongest, a ring for the clearest. */
export function Octagon({ mark }: { mark: 'full' | 'ring' }) {
  const points = '4,1 9,1 12,4 12,9 9,12 4,12 1,9 1,4'
  return (
    <svg width="13" height="13" role="img" aria-label={mark === 'full' ? 'strongest' : 'clearest'} style={{ verticalAlign: '-2px' }}>
      <polygon points={points} fill={mark === 'full' ? 'var(--verdigris)' : 'none'} stroke="var(--verdigris)" strokeWidth="1.8" />
    </svg>
  )
}

function Price({ standings: s }: { standings: Standings }) {
  const { price, low, high } = s.finalists
  const most = Math.max(1e-9, 1.15 * Math.max(Math.abs(high ?? price ?? 0), Math.abs(low ?? 0)))
  const least = Math.min(0, (low ?? 0) * 1.15)
  const x = (v: number) => 20 + ((v - least) / (most - least)) * 200
  return (
    <svg width="240" height="34" role="img" aria-label={`between ${figure(s.measure, low)} and ${figure(s.measure, high)}, 95%`}>
      <path d={`M20 14H220`} stroke="var(--rule-firm)" />
      <path d={`M${x(0)} 7V21`} stroke="var(--ink-soft)" />
      {low != null && high != null && <path d={`M${x(low)} 14H${x(high)}`} stroke="var(--verdigris)" strokeWidth="2" />}
      {price != null && <circle cx={x(price)} cy="14" r="3.6" fill="var(--verdigris)" />}
      <text x={x(0)} y="32" textAnchor="middle" className="ax">
        0
      </text>
      {high != null && (
        <text x={x(high)} y="32" textAnchor="middle" className="ax">
          {figure(s.measure, high)}
        </text>
      )}
    </svg>
  )
}

/** Limits of the clearest, and finalists chosen by hand. */
function FinalistsDialog({ standings, studyId, onClose }: { standings: Standings; studyId: number; onClose: () => void }) {
  const f = standings.finalists
  const choose = useChooseFinalists(studyId)
  const [reading, setReading] = useState(String(f.reading))
  const [least, setLeast] = useState(f.least == null ? '' : String(f.least))
  const [loss, setLoss] = useState(f.loss == null ? '' : String(f.loss))
  const [byHand, setByHand] = useState<[string, string]>(f.byHand ? [String(f.strongest ?? ''), String(f.clearest ?? '')] : ['', ''])
  const [reason, setReason] = useState(f.reason)
  const trials = standings.trials.filter((t) => t.value != null && t.task === standings.task && t.stale.length === 0)
  const choices = (usual: string) => [
    { value: '', label: usual },
    ...trials.map((t) => ({ value: String(t.id), label: `trial ${t.number}, ${t.title.toLowerCase()}`, effect: figured(t.measure, t) })),
  ]
  const number = (text: string) => {
    const value = numberOf(text)
    return typeof value === 'number' ? value : null
  }
  const named = byHand.some((id) => id !== '')
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="finalists">
      <DialogTitle id="finalists">Finalists</DialogTitle>
      <DialogContent>
        <p className="sentence size-15">
          The clearest may have at most{' '}
          <input aria-label="Longest reading" value={reading} onChange={(e) => setReading(e.target.value)} style={{ width: 54 }} /> leaves,
          rules or terms to read.
        </p>
        <p className="sentence size-15">
          It has to reach {standings.measure.name}{' '}
          <input
            aria-label="Least figure"
            value={least}
            placeholder="any"
            onChange={(e) => setLeast(e.target.value)}
            style={{ width: 64 }}
          />{' '}
          and may lose at most{' '}
          <input aria-label="Largest loss" value={loss} placeholder="any" onChange={(e) => setLoss(e.target.value)} style={{ width: 64 }} />{' '}
          against the strongest.
        </p>
        <p className="sentence size-15 above-8">
          Strongest:{' '}
          <Slot label="Strongest" value={byHand[0]} choices={choices('the best by figure')} onChange={(v) => setByHand([v, byHand[1]])} />;
          clearest:{' '}
          <Slot label="Clearest" value={byHand[1]} choices={choices('by the limits')} onChange={(v) => setByHand([byHand[0], v])} />.
        </p>
        {named && (
          <TextField
            label="Why these, for the logbook"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            fullWidth
            multiline
            size="small"
            sx={{ mt: 1 }}
          />
        )}
        <Trouble error={choose.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave them</Button>
        <Button
          variant="contained"
          color="primary"
          disabled={choose.isPending || (named && reason.trim() === '') || !Number.isInteger(number(reading))}
          onClick={() =>
            choose.mutate(
              {
                reading: number(reading) ?? 30,
                least: number(least),
                loss: number(loss),
                strongestId: byHand[0] === '' ? null : Number(byHand[0]),
                clearestId: byHand[1] === '' ? null : Number(byHand[1]),
                reason: named ? reason : '',
              },
              { onSuccess: onClose },
            )
          }
        >
          Set
        </Button>
      </DialogActions>
    </Dialog>
  )
}
