/** Numbers as they are read: no bare NaN, a true minus, the digits that make sense. */
const missing = '–'
/** From here on all digits of a number are no help to anyone. */
const HUGE = 1e15

export function whole(value: number | null | undefined): string {
  if (value == null || !Number.isFinite(value)) return missing
  return minus(Math.abs(value) >= HUGE ? power(value) : value.toLocaleString('en-US', { maximumFractionDigits: 0 }))
}

export function share(value: number | null | undefined, digits = 1): string {
  return value == null || !Number.isFinite(value) ? missing : minus((100 * value).toFixed(digits)) + '%'
}

/** A cut-off: whole percents where it is one, else as many digits as it has. */
export function cutoffSaid(value: number): string {
  return minus(String(Number((100 * value).toPrecision(4)))) + '%'
}

/** At most four significant digits, or so many as asked for; thousands parted. */
export function number(value: number | null | undefined, digits = 4): string {
  if (value == null || !Number.isFinite(value)) return missing
  if (Math.abs(value) >= HUGE) return minus(power(value))
  if (Math.abs(value) >= 1000) return minus(value.toLocaleString('en-US', { maximumFractionDigits: 0 }))
  if (value !== 0 && Math.abs(value) < 0.0001) return minus(value.toExponential(1))
  return minus(String(Number(value.toPrecision(digits))))
}

/** A mark of an axis: all its digits, thousands parted; from a million on in millions, which have room beside a small picture. */
export function tick(value: number): string {
  if (Math.abs(value) >= HUGE || (value !== 0 && Math.abs(value) < 0.0001)) return number(value)
  if (Math.abs(value) >= 1e6) return `${minus((value / 1e6).toLocaleString('en-US', { maximumFractionDigits: 6 }))}M`
  return minus(value.toLocaleString('en-US', { maximumFractionDigits: 6 }))
}

export function fixed(value: number | null | undefined, digits = 3): string {
  if (value == null || !Number.isFinite(value)) return missing
  return minus(Math.abs(value) >= HUGE ? power(value) : value.toFixed(digits).replace(/^-(?=[0.]+$)/, ''))
}

/** With its sign: a plus, or a true minus. */
export function signed(value: number): string {
  const text = Math.abs(value) >= 100 ? whole(Math.round(Math.abs(value))) : fixed(Math.abs(value), 2)
  return Number(text.replaceAll(',', '')) === 0 ? '0' : `${value > 0 ? '+' : '−'}${text}`
}

/** "0.837 ± 0.016", with the larger half when the interval is lopsided. */
export function withInterval(
  value: number | null | undefined,
  low: number | null | undefined,
  high: number | null | undefined,
  digits = 3,
): string {
  if (value == null) return missing
  if (low == null || high == null) return fixed(value, digits)
  return `${fixed(value, digits)} ± ${Math.max(high - value, value - low).toFixed(digits)}`
}

export function pValue(p: number | null | undefined): string {
  if (p == null || !Number.isFinite(p)) return missing
  return p < 0.0001 ? '< 0.0001' : p.toFixed(4)
}

export function date(iso: string): string {
  return new Date(iso).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })
}

export function time(iso: string): string {
  return new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
}

export function duration(seconds: number): string {
  if (seconds < 1) return 'under a second'
  if (seconds < 90) return `${Math.round(seconds)} s`
  return seconds < 5400 ? `${Math.round(seconds / 60)} min` : `${(seconds / 3600).toFixed(1)} h`
}

/** What follows what would be done: about how long that takes, where it is known and worth saying. */
export const about = (seconds: number | null | undefined) => (seconds == null || seconds < 3 ? '' : `, about ${duration(seconds)}`)

/** "1 row", "2 rows". */
export function count(n: number, one: string, many = one + 's'): string {
  return `${whole(n)} ${n === 1 ? one : many}`
}

function power(value: number): string {
  return value.toExponential(1).replace('e+', 'e')
}

function minus(text: string): string {
  return text.replace(/^-/, '\u2212')
}
