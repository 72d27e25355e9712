import { type Standings, useRankBy } from '../../data/trial'
import { Slot } from '../../ui/Slot'
import { Trouble } from '../../ui/Trouble'

/** The figure that trials are ranked by, changed in place, with what it says to somebody who decides. */
export function RankBy({ studyId, standings }: { studyId: number; standings: Standings | undefined }) {
  const rank = useRankBy(studyId)
  if (!standings) return null
  return (
    <>
      <p className="sentence">
        Rank by{' '}
        <Slot
          label="Figure that ranks"
          value={standings.measure.key}
          choices={standings.rankings.map((r) => ({ value: r.key, label: r.title, effect: r.name }))}
          onChange={(key) => rank.mutate(key)}
        />
        , {standings.measure.name}.
      </p>
      <p className="soft" style={{ fontSize: 13, marginTop: 4, maxWidth: 440 }}>
        {standings.measureSays}
      </p>
      <Trouble error={rank.error} />
    </>
  )
}
