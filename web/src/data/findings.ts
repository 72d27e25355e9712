import { fixed, number, share, tick } from '../ui/format'

export interface Told {
  /** The figure that says how well a column alone ranks records. */
  alone: string
  reads: string
  teaches: (event: string | null | undefined) => string
  of: string
  write: (v: number | null | undefined) => string
  tick: (v: number) => string
  scale: (values: (number | null | undefined)[]) => [number, number]
  ticks: (scale: [number, number]) => number[]
}

/** Round values, three or four of them: a narrow head has no room for more. */
function fewTicks([low, high]: [number, number]): number[] {
  const rough = (high - low) / 3
  const power = 10 ** Math.floor(Math.log10(rough))
  const step = power * ([1, 2, 5, 10].find((f) => f * power >= rough) ?? 10)
  const first = Math.ceil(low / step)
  return Array.from({ length: Math.max(0, Math.floor(high / step) - first + 1) }, (_, i) => (first + i) * step)
}

/** Three digits, the last ones too when they are 0, so that figures stand under each other. */
function three(v: number | null | undefined): string {
  if (v == null || v === 0 || Math.abs(v) >= 1000 || Math.abs(v) < 0.001) return number(v, 3)
  return fixed(v, Math.max(0, 2 - Math.floor(Math.log10(Math.abs(v)))))
}

const shares = {
  write: share,
  tick: (v: number) => `${Math.round(100 * v)}%`,
  scale: (values: (number | null | undefined)[]): [number, number] => [0, Math.min(1, Math.max(0.1, ...values.map((v) => v ?? 0)) * 1.05)],
  ticks: fewTicks,
}

const ofEvent: Told = {
  ...shares,
  alone: 'Alone, AUC',
  reads: 'AUC is the chance that a record with the event is ranked above one without:',
  teaches: (event) => `the share of “${event ?? ''}”`,
  of: 'share',
}

const ofClasses: Told = {
  ...shares,
  alone: 'Mean AUC',
  reads: 'AUC is the chance that a record of a class is ranked above one of another; the mean counts each class by its size:',
  teaches: () => 'the share of each class',
  of: 'share of the class that differs most',
}

const ofNumber: Told = {
  alone: 'Concordance',
  reads: 'Concordance is the share of pairs of records of which the one ranked higher has the higher number:',
  teaches: () => 'the mean',
  of: 'mean',
  write: three,
  tick,
  scale: (values) => {
    const known = values.filter((v): v is number => v != null)
    const [low, high] = known.length === 0 ? [0, 1] : [Math.min(...known), Math.max(...known)]
    const margin = 0.05 * (high - low || 1)
    return [low - margin, high + margin]
  },
  ticks: fewTicks,
}

/** How the ledger of what goes with the target reads: by shares of an event or of classes, or by means of a number. */
export const toldOf = (task: string | undefined): Told => (task === 'number' ? ofNumber : task === 'several classes' ? ofClasses : ofEvent)
