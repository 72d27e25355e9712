import { Button } from '@mui/material'
import { count, whole } from '../../ui/format'
import { AdviceNotes } from './AdviceNotes'
import type { Step, Variant } from '../../data/preparation'

type Props = { variant: Variant; busy: boolean; onTake: (steps: Step[]) => void; onDraft: (step: Step) => void }

/** What a variant leaves missing, the way to mend it, and what another order would spare. */
export function StillMissing({ variant, busy, onTake, onDraft }: Props) {
  return (
    <section className="col pad" style={{ width: 320, overflow: 'auto' }} aria-label="Still missing">
      <AdviceNotes advice={variant.advice} busy={busy} onTake={onTake} />
      <h2 className="fig-title">
        {variant.left.length === 0
          ? 'Nothing is missing any more'
          : `${count(variant.left.length, 'column still has', 'columns still have')} missing cells`}
      </h2>
      <p className="fig-sub">A regression cannot answer for a row with a missing value in a column it uses.</p>
      <table className="ledger above-8" aria-label="Columns with missing cells">
        <thead>
          <tr>
            <th>Column</th>
            <th style={{ width: 80 }}>Kind</th>
            <th className="n" style={{ width: 76 }}>
              Missing
            </th>
          </tr>
        </thead>
        <tbody>
          {variant.left.map((c) => (
            <tr key={c.name}>
              <td className="nm" title={c.name}>
                {c.name}
              </td>
              <td>{c.kind}</td>
              <td className="n">{whole(c.missing)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {variant.left.some((c) => c.kind !== 'text' && c.kind !== 'identifier') && (
        <p style={{ marginTop: 10 }}>
          <Button
            size="small"
            onClick={() =>
              onDraft({
                step: 'fill_missing',
                columns: variant.left.filter((c) => c.kind !== 'text' && c.kind !== 'identifier').map((c) => c.name),
                method: 'median',
                mark: false,
              })
            }
          >
            Fill these…
          </Button>
        </p>
      )}
      {variant.left.some((c) => c.kind === 'text' || c.kind === 'identifier') && (
        <p className="above-8">
          <Button
            size="small"
            onClick={() =>
              onDraft({
                step: 'set_aside',
                columns: variant.left.filter((c) => c.kind === 'text' || c.kind === 'identifier').map((c) => c.name),
              })
            }
          >
            Set the texts aside…
          </Button>
        </p>
      )}
    </section>
  )
}
