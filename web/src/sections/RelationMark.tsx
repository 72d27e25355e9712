import { fixed, pValue } from '../ui/format'
import { IntervalMark } from '../ui/IntervalMark'
import type { Relation } from '../data/finding'

/** How well a column alone ranks records by the target, with its interval; green where that is more than chance. */
export function RelationMark({ relation, scale, width }: { relation: Relation; scale: [number, number]; width: number }) {
  const { alone, low, high, adjusted } = relation
  return (
    <span title={`Alone ${fixed(alone)}, ${fixed(low)} to ${fixed(high)}; p ${pValue(adjusted)} for all columns together`}>
      <IntervalMark
        value={alone}
        low={low}
        high={high}
        scale={scale}
        width={width}
        reference={0.5}
        tone={(adjusted ?? 1) < 0.05 ? 'verdigris' : 'soft'}
      />
    </span>
  )
}
