import { Button } from '@mui/material'
import { useNotes } from '../../ui/notes'
import { useFindings } from '../../data/finding'
import type { Step } from '../../data/preparation'

/** What findings say of a column that should rather not be learned from. */
const reasons: Record<string, string> = {
  empty: 'empty',
  constant: 'the same everywhere',
  'near constant': 'nearly the same everywhere',
  copy: 'a copy',
  'near copy': 'nearly a copy',
  'all distinct': 'different in every record',
  'mostly missing': 'mostly missing',
  'repeated keys': 'a key',
}

/** In the margin: columns that the findings would set aside, drafted as one step with its toll at one press. */
export function Proposed({ tableId, there, onDraft }: { tableId: number; there: string[]; onDraft: (step: Step) => void }) {
  const findings = useFindings(tableId).data?.findings ?? []
  const why = new Map<string, string>()
  for (const f of findings) {
    const reason = reasons[f.sort]
    if (reason === undefined || f.dismissed != null) continue
    // Of a pair the second one goes.
    const name = f.columns.at(-1)
    if (name !== undefined && there.includes(name)) why.set(name, reason)
  }
  const key = [...why].map(([name, reason]) => `${name} (${reason})`).join(', ')
  useNotes(
    why.size > 0 ? 1 : 0,
    why.size > 0 ? (
      <div className="note">
        <h3>{why.size === 1 ? 'One column might be set aside' : `${why.size} columns might be set aside`}</h3>
        <p>{key}.</p>
        <p className="do">
          <Button size="small" onClick={() => onDraft({ step: 'set_aside', columns: [...why.keys()] } as Step)}>
            See what that costs
          </Button>
        </p>
      </div>
    ) : null,
    key,
  )
  return null
}
