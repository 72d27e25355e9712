import { Where } from '../../sections/Where'
import { type Condition, parseConditions } from '../../data/conditions'
import type { Scoring } from '../../data/decision'
import { useRegister } from '../../data/table'
import { whole } from '../../ui/format'
import { AnswerBand, ColumnBand } from './AnswerBand'

type Props = {
  scoring: Scoring
  params: URLSearchParams
  set: (change: { [k: string]: string | null }) => void
  total: number | undefined
}

/** What scored records are narrowed by beside their class: a band of the answer or of a column, and conditions on what came with them. */
export function Narrowing({ scoring, params, set, total }: Props) {
  const register = useRegister(scoring.tableId)
  const by = params.get('by')
  const conditions = parseConditions(params.get('where'))
  const any = params.get('any') === '1'
  const put = (next: Condition[], or = any) =>
    set({ where: next.length === 0 ? null : JSON.stringify(next), any: or && next.length > 1 ? '1' : null })
  const band = bandOf(params, scoring)
  const of = conditions.find((c) => c[0] === by && c[1] === 'is between')
  const [least, greatest] = band ?? scaleOf(scoring)
  return (
    <>
      {by === null && band && (
        <AnswerBand
          scoring={scoring}
          band={band}
          total={total}
          onBand={(b) => set(b === null ? { from: null, to: null } : { from: String(b[0]), to: String(b[1]) })}
          onBy={(column) => set({ by: column })}
        />
      )}
      {by !== null && (
        <ColumnBand
          scoring={scoring}
          column={by}
          band={of ? [Number(of[2]), Number(of[3])] : null}
          total={total}
          onBand={(b) => {
            const others = conditions.filter((c) => c !== of)
            if (b === null) set({ by: null, where: others.length === 0 ? null : JSON.stringify(others) })
            else put([...others, [by, 'is between', String(b[0]), String(b[1])]], false)
          }}
          onBy={(column) => set({ by: column, from: String(least), to: String(greatest) })}
        />
      )}
      {params.has('where') && register.data && (
        <div className="zones" style={{ padding: '6px 14px', gap: 14, borderBottom: '1px solid var(--rule)', alignItems: 'baseline' }}>
          <Where table={register.data} conditions={conditions} any={any} onChange={put} />
          <b role="status" className="verd small">
            {whole(total)} of {whole(scoring.rows)}
          </b>
          <button type="button" className="link small" onClick={() => set({ where: null, any: null, by: null })}>
            No conditions
          </button>
        </div>
      )}
    </>
  )
}

export function scaleOf(scoring: Scoring | undefined): [number, number] {
  return scoring?.task === 'number' ? [scoring.lowest ?? 0, scoring.highest ?? 1] : [0, 1]
}

/** The band of answers that the address asks for; null = all answers. */
export function bandOf(params: URLSearchParams, scoring: Scoring | undefined): [number, number] | null {
  const scale = scaleOf(scoring)
  if (!params.has('from') && !params.has('to')) return null
  return [Number(params.get('from') ?? scale[0]), Number(params.get('to') ?? scale[1])]
}
