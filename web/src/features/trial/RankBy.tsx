import { useState } from 'react'
import { type Standings, useRankBy } from '../../data/trial'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'

const MONEY = 'return:'

/** The figure that trials are ranked by, changed in place, with what it says to somebody who decides. */
export function RankBy({ studyId, standings }: { studyId: number; standings: Standings | undefined }) {
  const rank = useRankBy(studyId)
  const [asking, setAsking] = useState(false)
  if (!standings) return null
  const { measure } = standings
  const byMoney = measure.key.startsWith(MONEY)
  return (
    <>
      <p className="sentence">
        Rank by{' '}
        <Slot
          label="Figure that ranks"
          value={measure.key}
          choices={[
            ...standings.rankings.map((r) => ({ value: r.key, label: r.title, effect: r.name })),
            ...(byMoney ? [{ value: measure.key, label: 'expected return', effect: measure.name }] : []),
            ...(standings.task === 'two classes'
              ? [{ value: MONEY, label: byMoney ? 'other amounts…' : 'expected return…', effect: 'in money, at the best cut-off' }]
              : []),
          ]}
          onChange={(key) => (key === MONEY ? setAsking(true) : rank.mutate(key))}
        />
        , {measure.name}.
      </p>
      {asking && (
        <Amounts
          from={byMoney ? measure.key : `${MONEY}5:30:0`}
          busy={rank.isPending}
          onDone={(key) => rank.mutate(key, { onSuccess: () => setAsking(false) })}
          onCancel={() => setAsking(false)}
        />
      )}
      <p className="soft" style={{ fontSize: 13, marginTop: 4, maxWidth: 440 }}>
        {standings.measureSays}
      </p>
      <Trouble error={rank.error} />
    </>
  )
}

/** What an action costs and brings, so that trials can be ranked by money. */
function Amounts({ from, busy, onDone, onCancel }: { from: string; busy: boolean; onDone: (key: string) => void; onCancel: () => void }) {
  const [amounts, setAmounts] = useState(from.slice(MONEY.length).split(':'))
  const labels = ['An action costs', 'where the event would come it brings, on average', 'elsewhere it costs more']
  const fine = amounts.every((a) => a.trim() !== '' && Number(a) >= 0) && Number(amounts[1]) > 0
  return (
    <form
      className="note"
      style={{ maxWidth: 440, margin: '6px 0' }}
      onSubmit={(e) => {
        e.preventDefault()
        if (fine) onDone(MONEY + amounts.map((a) => String(Number(a))).join(':'))
      }}
    >
      {labels.map((label, k) => (
        <label key={label} className="term">
          <span>{label}</span>
          <input
            className="bound n"
            inputMode="decimal"
            autoFocus={k === 0}
            value={amounts[k] ?? ''}
            onChange={(e) => setAmounts(amounts.map((a, i) => (i === k ? e.target.value : a)))}
          />
        </label>
      ))}
      <p className="above-4">
        <button type="submit" className="link" disabled={!fine || busy}>
          Rank by these
        </button>{' '}
        <button type="button" className="link" onClick={onCancel}>
          Cancel
        </button>
      </p>
    </form>
  )
}
