import { Slider, Switch } from '@mui/material'
import { Link } from 'react-router'
import { date, fixed, number, pValue, share, whole } from '../../ui/format'
import { IntervalMark } from '../../ui/IntervalMark'
import { Loading, Trouble } from '../../ui/Trouble'
import { type ColumnDetail, useColumnMore } from '../../data/table'
import { recordsPath, rowsPath } from '../../data/conditions'

type Props = { detail: ColumnDetail; rows: number; studyId: number; tableId: number }

/** How many bins, and on which scale. */
export function Scale({
  bins,
  log,
  skewed,
  onChange,
}: {
  bins: number | null
  log: boolean
  skewed: boolean
  onChange: (bins: number | null, log: boolean) => void
}) {
  return (
    <div style={{ display: 'flex', gap: 22, alignItems: 'center', fontSize: 13 }}>
      <label style={{ display: 'flex', gap: 12, alignItems: 'center', width: 240 }}>
        <span className="one-line">{bins ?? 24} bins</span>
        <Slider
          size="small"
          aria-label="Number of bins"
          min={4}
          max={60}
          value={bins ?? 24}
          onChange={(_, v) => onChange(v as number, log)}
        />
      </label>
      <label>
        <Switch size="small" checked={log} onChange={(_, on) => onChange(bins, on)} /> logarithmic scale
        {skewed && !log && <span className="brass"> – it is lopsided</span>}
      </label>
    </div>
  )
}

/** Quartiles, fences and ends in one line. */
export function BoxLine({ detail }: { detail: ColumnDetail }) {
  const s = detail.summary as Record<string, number | null | undefined>
  if (detail.column.kind !== 'number' || s.min == null || s.max == null || s.q1 == null || s.q3 == null || s.median == null) return null
  const [low, high] = [s.min, s.max]
  const x = (v: number) => 6 + ((v - low) / (high - low || 1)) * 548
  const from = Math.max(low, s.fence_low ?? low)
  const to = Math.min(high, s.fence_high ?? high)
  return (
    <svg
      width={560}
      height={34}
      role="img"
      aria-label={`Smallest ${number(low)}, quartiles ${number(s.q1)}, ${number(s.median)} and ${number(s.q3)}, largest ${number(high)}`}
    >
      <line x1={x(low)} x2={x(high)} y1={10} y2={10} stroke="var(--rule-firm)" strokeDasharray="2 2" />
      <line x1={x(from)} x2={x(to)} y1={10} y2={10} stroke="var(--ink)" />
      <rect x={x(s.q1)} y={4} width={Math.max(1, x(s.q3) - x(s.q1))} height={12} fill="#C3B69D" stroke="var(--ink)" strokeWidth={0.8} />
      <line x1={x(s.median)} x2={x(s.median)} y1={4} y2={16} stroke="var(--ink)" strokeWidth={1.8} />
      <text x={6} y={30} fontSize={11} fill="var(--ink-soft)">
        {number(low)}
      </text>
      <text x={554} y={30} fontSize={11} textAnchor="end" fill="var(--ink-soft)">
        {number(high)}; {whole((s.outliers_low ?? 0) + (s.outliers_high ?? 0))} beyond the fences
      </text>
    </svg>
  )
}

/** Frequent values with the event's share, the records at the ends, the words of a text. */
export function ColumnMore({ detail, rows, studyId, tableId }: Props) {
  const more = useColumnMore(detail.column.id)
  const { column, event, overall } = detail
  if (more.isPending) return <Loading what="its values" />
  if (!more.data) return <Trouble error={more.error} />
  const { values, lowest, highest, terms, fits, looked } = more.data
  const repeated = values.filter((v) => v.count > 1 || column.kind === 'category')
  const told = event != null
  const top = Math.max(0.05, ...[...values, ...terms].map((v) => (v.judged >= 15 ? (('shareHigh' in v ? v.shareHigh : v.high) ?? 0) : 0)))
  const mark = (judged: number, v: number | null | undefined, low: number | null | undefined, high: number | null | undefined) =>
    judged >= 15 && (
      <IntervalMark
        value={v}
        low={low ?? null}
        high={high ?? null}
        scale={[0, top]}
        width={110}
        tone="verdigris"
        {...(overall == null ? {} : { reference: overall })}
      />
    )
  const text = column.kind === 'text' || column.kind === 'identifier'
  return (
    <>
      <p className="small flush">
        {looked != null && `Told of ${whole(looked)} of the ${whole(rows)} records, evenly spread. `}
        Of {whole(fits.cells)} cells with a value, {share(fits.number / Math.max(1, fits.cells))} read as a number,{' '}
        {share(fits.date / Math.max(1, fits.cells))} as a date, {share(fits.yesNo / Math.max(1, fits.cells))} as yes or no.
      </p>
      {repeated.length > 0 && (
        <section aria-label="Most frequent values">
          <h3 className="fig-title">Most frequent values</h3>
          <div style={{ maxHeight: 300, overflow: 'auto' }} tabIndex={0} role="region" aria-label="Most frequent values, listed">
            <table className="ledger" aria-label="Most frequent values">
              <thead>
                <tr>
                  <th>{column.name}</th>
                  <th className="n" style={{ width: 76 }}>
                    Records
                  </th>
                  <th className="n" style={{ width: 66 }}>
                    Share
                  </th>
                  {told && (
                    <>
                      <th className="n" style={{ width: 76 }}>
                        “{event}”
                      </th>
                      <th style={{ width: 118 }}>
                        <span className="sr">Interval</span>
                      </th>
                    </>
                  )}
                </tr>
              </thead>
              <tbody>
                {repeated.map((v) => (
                  <tr key={v.label}>
                    <td className="nm" title={v.label}>
                      <Link to={rowsPath(studyId, tableId, [[column.name, 'is', v.label]])}>
                        {column.kind === 'date' ? date(v.label) : v.label}
                      </Link>
                    </td>
                    <td className="n">{whole(v.count)}</td>
                    <td className="n">{share(v.count / Math.max(1, looked ?? rows))}</td>
                    {told && (
                      <>
                        <td className="n">{v.judged >= 15 ? share(v.share) : <span className="soft">too few</span>}</td>
                        <td className="mark">{mark(v.judged, v.share, v.shareLow, v.shareHigh)}</td>
                      </>
                    )}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </section>
      )}
      {terms.length > 0 && (
        <section aria-label="Words">
          <h3 className="fig-title">{told ? `Words, the most telling about “${event}” first` : 'Most frequent words'}</h3>
          <div style={{ maxHeight: 260, overflow: 'auto' }} tabIndex={0} role="region" aria-label="Words, listed">
            <table className="ledger" aria-label="Words">
              <thead>
                <tr>
                  <th>Word</th>
                  <th className="n" style={{ width: 76 }}>
                    Texts
                  </th>
                  {told && (
                    <>
                      <th className="n" style={{ width: 76 }}>
                        “{event}”
                      </th>
                      <th style={{ width: 118 }}>
                        <span className="sr">Interval</span>
                      </th>
                      <th className="n" style={{ width: 76 }}>
                        p
                      </th>
                    </>
                  )}
                </tr>
              </thead>
              <tbody>
                {terms.map((t) => (
                  <tr key={t.term}>
                    <td className="nm">
                      <Link to={rowsPath(studyId, tableId, [[column.name, 'contains', t.term]])}>{t.term}</Link>
                    </td>
                    <td className="n">{whole(t.texts)}</td>
                    {told && (
                      <>
                        <td className="n">{share(t.share)}</td>
                        <td className="mark">{mark(t.judged, t.share, t.low, t.high)}</td>
                        <td className="n">{pValue(t.p)}</td>
                      </>
                    )}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </section>
      )}
      {highest.length > 0 && (
        <section aria-label="Extreme records" style={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 18 }}>
          {(
            [
              [text ? 'Shortest' : 'Lowest', lowest],
              [text ? 'Longest' : 'Highest', highest],
            ] as const
          ).map(([title, records]) => (
            <table key={title} className="ledger" aria-label={`${title} records`}>
              <thead>
                <tr>
                  <th>{title}</th>
                  {column.kind === 'number' && (
                    <th className="n" style={{ width: 62 }}>
                      Robust z
                    </th>
                  )}
                  <th className="n" style={{ width: 66 }}>
                    Record
                  </th>
                </tr>
              </thead>
              <tbody>
                {records.map((r) => (
                  <tr key={r.number}>
                    <td title={r.value}>{column.kind === 'date' ? date(r.value) : r.value}</td>
                    {column.kind === 'number' && <td className="n">{fixed(r.z, 1)}</td>}
                    <td className="n">
                      <Link to={recordsPath(studyId, tableId, [r.number])}>{whole(r.number)}</Link>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          ))}
        </section>
      )}
    </>
  )
}
