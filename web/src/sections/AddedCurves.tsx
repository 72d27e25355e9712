import { useAddress } from '../ui/address'
import { fixed, number, share, signed, whole } from '../ui/format'
import { roundTicks } from '../ui/scale'
import { Slot } from '../ui/Slot'
import { Cells, LargePair } from './AddedPairs'
import type { SectionOf } from '../data/judgment'

type Section = SectionOf<'curves'>
type Curve = Section['curves'][number]

/** Every curve of an additive model as a small picture, the one that carries most first; one opens large. */
export function AddedCurves({ section }: { section: Section }) {
  const [params, set] = useAddress()
  const classes = [...new Set(section.curves.map((c) => c.class).filter((c): c is string => c != null))]
  const ofClass = classes.length > 0 ? (params.get('for') ?? classes[classes.length - 1]!) : null
  const curves = section.curves.filter((c) => ofClass === null || c.class === ofClass)
  const pairs = section.joint.filter((p) => ofClass === null || p.class === ofClass)
  const key = params.get('curve')
  const pair = pairs.find((p) => `${p.first} and ${p.second}` === key)
  const curve = curves.find((c) => c.column === key) ?? curves[0]!
  const carried = curves.reduce((s, c) => s + c.carries, 0) + pairs.reduce((s, p) => s + p.carries, 0)
  const half = 1 + curves.findIndex((_, i) => curves.slice(0, i + 1).reduce((s, c) => s + c.carries, 0) >= carried / 2)
  const reach = Math.max(1e-9, ...curves.flatMap((c) => c.points.filter((p) => p.rows > 0).map((p) => Math.abs(p.adds))))
  return (
    <div className="wraps" style={{ alignItems: 'stretch' }}>
      <section style={{ flex: '1 1 440px', minWidth: 0 }} aria-label="All curves">
        <div className="pad" style={{ paddingBottom: 6 }}>
          <h2 className="fig-title">
            {half <= 0
              ? 'Curves and pairs carry it together'
              : half === 1
                ? `${curves[0]!.column} carries half`
                : `${half} curves carry half`}
          </h2>
          <p className="fig-sub">
            {section.size}, on one scale, the largest first; the figure is what it adds on average, up or down.{' '}
            {ofClass !== null && (
              <>
                For{' '}
                <Slot
                  label="Curves for"
                  value={ofClass}
                  choices={classes.map((c) => ({ value: c, label: c }))}
                  onChange={(v) => set({ for: v })}
                />
                .
              </>
            )}
          </p>
        </div>
        <div style={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(140px, 1fr))', borderTop: '1px solid var(--rule)' }}>
          {curves.map((c) => (
            <Small
              key={c.column}
              title={c.column}
              says={c.says}
              carries={c.carries}
              open={!pair && c === curve}
              onOpen={() => set({ curve: c.column })}
            >
              <SmallCurve curve={c} reach={reach} />
            </Small>
          ))}
          {pairs.map((p) => (
            <Small
              key={`${p.first} and ${p.second}`}
              title={`${p.first}, ${p.second}`}
              says={p.says}
              carries={p.carries}
              open={p === pair}
              onOpen={() => set({ curve: `${p.first} and ${p.second}` })}
            >
              <Cells pair={p} reach={reach} width={124} height={52} />
            </Small>
          ))}
          <div style={{ padding: '14px 10px', background: 'var(--wash, #F3ECDE)' }}>
            <p className="small soft flush">Every answer starts from</p>
            <p style={{ font: '600 17px/24px var(--serif)' }}>
              {section.isOdds ? share(1 / (1 + Math.exp(-section.start))) : number(section.start)}
            </p>
          </div>
        </div>
      </section>
      <section className="pad" style={{ flex: '1 1 460px', borderLeft: '1px solid var(--rule)', minWidth: 0 }} aria-label="One curve">
        {pair ? <LargePair pair={pair} isOdds={section.isOdds} /> : <LargeCurve curve={curve} isOdds={section.isOdds} />}
        <details className="above-6">
          <summary>How to read this</summary>
          <p className="small">
            A record’s answer is the start plus what each curve adds at its values, and each pair; nothing is left over.
            {section.isOdds && ' What is added are log-odds: 0.7 doubles the odds, −0.7 halves them.'} The band is the spread over bags: how
            much the curve differed as rows were drawn anew, twice in each direction. It is no interval for the truth.
          </p>
        </details>
      </section>
    </div>
  )
}

function Small({
  title,
  says,
  carries,
  open,
  onOpen,
  children,
}: {
  title: string
  says: string
  carries: number
  open: boolean
  onOpen: () => void
  children: React.ReactNode
}) {
  return (
    <button
      type="button"
      aria-pressed={open}
      onClick={onOpen}
      title={`${title}: ${says}`}
      style={{
        textAlign: 'left',
        padding: '8px 10px',
        border: 0,
        borderRight: '1px solid var(--rule)',
        borderBottom: '1px solid var(--rule)',
        background: open ? 'var(--wash, #F3ECDE)' : 'none',
        boxShadow: open ? 'inset 3px 0 0 var(--ink)' : 'none',
        minWidth: 0,
        cursor: 'pointer',
        font: 'inherit',
      }}
    >
      <span className="apart size-13">
        <b className="nowrap" style={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
          {title}
        </b>
        <span className="soft">{carries < 10 ? fixed(carries, 2) : number(carries)}</span>
      </span>
      <span className="small soft nowrap" style={{ display: 'block', overflow: 'hidden', textOverflow: 'ellipsis' }}>
        {says || 'flat'}
      </span>
      {children}
    </button>
  )
}

/** Points of a number lie where their stretch is, those of a category side by side. */
function placesOf(curve: Curve): { at: number; low: number; high: number; p: Curve['points'][number] }[] {
  const points = curve.points.filter((p) => p.rows > 0)
  if (!curve.isOrder) return points.map((p, i) => ({ at: i + 0.5, low: i, high: i + 1, p }))
  return points.map((p) => ({ at: ((p.from ?? 0) + (p.to ?? 0)) / 2, low: p.from ?? 0, high: p.to ?? 0, p }))
}

/** Where most records lie: a few far ones would press the rest together. */
function scaleOf(curve: Curve): [number, number] {
  const places = placesOf(curve)
  if (!curve.isOrder) return [0, Math.max(1, places.length)]
  const all = places.reduce((s, q) => s + q.p.rows, 0)
  let seen = 0
  const from = places.find((q) => (seen += q.p.rows) >= 0.005 * all)?.low ?? 0
  seen = 0
  const to = [...places].reverse().find((q) => (seen += q.p.rows) >= 0.005 * all)?.high ?? 1
  return to > from ? [from, to] : [places[0]!.low, Math.max(places[0]!.low + 1e-9, places[places.length - 1]!.high)]
}

function paths(curve: Curve, x: (v: number) => number, y: (v: number) => number) {
  const scale = scaleOf(curve)
  const places = placesOf(curve).filter((q) => q.high >= scale[0] && q.low <= scale[1])
  const clamp = (v: number) => Math.min(scale[1], Math.max(scale[0], v))
  const line = places.map((q) => [`${x(clamp(q.low))} ${y(q.p.adds)}`, `${x(clamp(q.high))} ${y(q.p.adds)}`].join('L')).join('L')
  const top = places.map((q) => `${x(clamp(q.low))} ${y(q.p.high)}L${x(clamp(q.high))} ${y(q.p.high)}`).join('L')
  const bottom = [...places].reverse().map((q) => `${x(clamp(q.high))} ${y(q.p.low)}L${x(clamp(q.low))} ${y(q.p.low)}`)
  return { line: `M${line}`, band: `M${top}L${bottom.join('L')}Z`, places }
}

function SmallCurve({ curve, reach }: { curve: Curve; reach: number }) {
  const [w, h] = [124, 52]
  const scale = scaleOf(curve)
  const x = (v: number) => ((v - scale[0]) / (scale[1] - scale[0])) * w
  const y = (v: number) => h / 2 - (Math.max(-1.1, Math.min(1.1, v / reach)) * h) / 2.3
  const { line, band, places } = paths(curve, x, y)
  return (
    <svg viewBox={`0 0 ${w} ${h}`} width="100%" height={h} preserveAspectRatio="none" aria-hidden="true">
      <path d={`M0 ${h / 2}H${w}`} stroke="var(--rule-firm)" />
      {curve.isOrder ? (
        <>
          <path d={band} fill="#BBD4CC" opacity={0.8} />
          <path d={line} fill="none" stroke="var(--verdigris)" strokeWidth={1.6} />
        </>
      ) : (
        places
          .slice(0, 24)
          .map((q) => (
            <path
              key={q.p.label}
              d={`M${x(q.at)} ${y(0)}V${y(q.p.adds)}`}
              stroke="var(--verdigris)"
              strokeWidth={Math.min(9, (0.6 * w) / places.length)}
            />
          ))
      )}
    </svg>
  )
}

function LargeCurve({ curve, isOdds }: { curve: Curve; isOdds: boolean }) {
  const [w, h, left, bottom] = [520, 250, 52, 62]
  const scale = scaleOf(curve)
  const points = placesOf(curve)
  const ends = points.flatMap((q) => [q.p.low, q.p.high]).concat(curve.missing ? [curve.missing.low, curve.missing.high] : [])
  const marks = roundTicks([Math.min(0, ...ends), Math.max(0, ...ends)], 5)
  const [low, high] = [Math.min(...marks, ...ends), Math.max(...marks, ...ends)]
  const x = (v: number) => left + ((v - scale[0]) / (scale[1] - scale[0])) * (w - left - 44)
  const y = (v: number) => 10 + ((high - v) / Math.max(1e-12, high - low)) * (h - bottom - 16)
  const { line, band, places } = paths(curve, x, y)
  const most = Math.max(1, ...places.map((q) => q.p.rows / (curve.isOrder ? Math.max(1e-12, q.high - q.low) : 1)))
  const rows = points.reduce((s, q) => s + q.p.rows, 0)
  const write = (v: number) => (curve.isDate ? new Date(v * 86400000).toISOString().slice(0, 10) : number(v))
  return (
    <figure className="flush">
      <h2 className="fig-title">
        {curve.column} {curve.says || 'adds next to nothing'}
      </h2>
      <p className="fig-sub">
        What {curve.column} adds{isOdds ? ' to the log-odds' : ''}, with its spread over bags; beneath, the {whole(rows)} training records
        it rests on.
      </p>
      <svg
        viewBox={`0 0 ${w} ${h}`}
        width="100%"
        role="img"
        aria-label={`Curve of ${curve.column}; the table beneath tells the same`}
        style={{ maxWidth: 640 }}
      >
        {marks.map((v) => (
          <g key={v}>
            <path d={`M${left} ${y(v)}H${w - 44}`} stroke={v === 0 ? 'var(--ink-soft)' : 'var(--rule)'} />
            <text x={left - 6} y={y(v) + 4} textAnchor="end" className="ax">
              {signed(v)}
            </text>
            {isOdds && (
              <text x={w - 38} y={y(v) + 4} className="ax">
                × {Math.exp(v).toFixed(Math.exp(v) < 10 ? 1 : 0)}
              </text>
            )}
          </g>
        ))}
        {places.map((q) => {
          const tall = (q.p.rows / (curve.isOrder ? Math.max(1e-12, q.high - q.low) : 1) / most) * 34
          const from = x(Math.max(scale[0], q.low))
          return (
            <rect
              key={q.low}
              x={from + (curve.isOrder ? 0 : 4)}
              y={h - bottom + 34 - tall + 8}
              width={Math.max(0.6, x(Math.min(scale[1], q.high)) - from - (curve.isOrder ? 0 : 8))}
              height={tall}
              fill="#DCD2BF"
            />
          )
        })}
        {curve.isOrder ? (
          <>
            <path d={band} fill="#BBD4CC" opacity={0.75} />
            <path d={line} fill="none" stroke="var(--verdigris)" strokeWidth={2.2} />
            {roundTicks(scale, 6).map((t) => (
              <text key={t} x={x(t)} y={h - 4} textAnchor="middle" className="ax">
                {write(t)}
              </text>
            ))}
          </>
        ) : (
          places.map((q) => (
            <g key={q.p.label}>
              <path d={`M${x(q.at)} ${y(q.p.low)}V${y(q.p.high)}`} stroke="var(--verdigris)" strokeWidth={1.6} />
              <circle cx={x(q.at)} cy={y(q.p.adds)} r={4} fill="var(--verdigris)" />
              {places.length <= 9 && (
                <text x={x(q.at)} y={h - 4} textAnchor="middle" className="ax">
                  {q.p.label.length > 11 ? `${q.p.label.slice(0, 10)}…` : q.p.label}
                </text>
              )}
            </g>
          ))
        )}
      </svg>
      {curve.missing && (
        <p className="small flush">
          Missing in {whole(curve.missing.rows)} training records: {signed(curve.missing.adds)}
          {isOdds && ` (× ${Math.exp(curve.missing.adds).toFixed(2)})`}
        </p>
      )}
      <details className="above-6">
        <summary>As a table</summary>
        <table className="ledger" aria-label={`What ${curve.column} adds`}>
          <thead>
            <tr>
              <th>{curve.column}</th>
              <th className="n">Records</th>
              <th className="n">Adds</th>
              <th className="n">Spread over bags</th>
            </tr>
          </thead>
          <tbody>
            {[...points.map((q) => q.p), ...(curve.missing ? [curve.missing] : [])].map((p) => (
              <tr key={p.label}>
                <td className="nm">{p.label}</td>
                <td className="n">{whole(p.rows)}</td>
                <td className="n">{signed(p.adds)}</td>
                <td className="n">
                  {signed(p.low)} to {signed(p.high)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </figure>
  )
}
