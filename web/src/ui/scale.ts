/** Round values within a scale, about as many as wanted. */
export function roundTicks([from, to]: [number, number], about = 5): number[] {
  if (!(to > from)) return [from]
  const raw = (to - from) / about
  const unit = 10 ** Math.floor(Math.log10(raw))
  const step = unit * ([1, 2, 5, 10].find((m) => m * unit >= raw * 0.999) ?? 10)
  const out = []
  for (let v = Math.ceil(from / step - 1e-9) * step; v <= to + 1e-9 * step; v += step) out.push(Number(v.toPrecision(6)))
  return out
}
