import type { Column } from '../../data/table'
import { open, useFindings } from '../../data/finding'
import { FindingNote } from '../../sections/FindingNote'

/** Before anything is fitted: inputs that know the outcome too well, each with what can be done about it at one press. */
export function TellsTooMuch({ studyId, tableId, columns }: { studyId: number; tableId: number; columns: Column[] }) {
  const suspect = open(useFindings(tableId).data?.findings ?? []).filter((f) => f.sort === 'leak suspicion')
  if (suspect.length === 0) return null
  return (
    <>
      <h2 className="fig-title">
        {suspect.length === 1 ? 'One input may know the outcome' : `${suspect.length} inputs may know the outcome`}
      </h2>
      <p className="small soft">Trials that learn from what is written down afterwards look very good, and cannot score a new record.</p>
      {suspect.map((f) => (
        <FindingNote key={f.key} finding={f} columns={columns} studyId={studyId} tableId={tableId} />
      ))}
    </>
  )
}
