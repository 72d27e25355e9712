import { useState } from 'react'
import { useClearPairs, useEffectMap, useFindClear, usePairs } from '../../data/reasons'
import { about, number, share } from '../../ui/format'
import { Loading, Trouble } from '../../ui/Trouble'

const FEW = 6

/** Which pairs act together, and the chosen one as a map. */
export function PairsOf({ trialId, name, isNumber }: { trialId: number | null; name: string | null; isNumber: boolean }) {
  const pairs = usePairs(trialId, name)
  const [open, setOpen] = useState<number>(0)
  const lines = (pairs.data ?? []).slice(0, FEW)
  const top = lines[open]
  const map = useEffectMap(trialId, top?.one ?? null, top?.other ?? null, name)
  const chance = useClearPairs(trialId, name)
  const find = useFindClear(trialId, name)
  const most = chance.data?.most ?? null
  const clear = most === null ? null : (chance.data?.pairs ?? [])
  const isClear = (p: { one: string; other: string }) => clear?.some((c) => c.one === p.one && c.other === p.other) !== false
  const said = (v: number) => (isNumber ? number(v, 3) : (100 * v).toFixed(1))
  return (
    <>
      <h2 className="fig-title">{lines[0] ? `${lines[0].one} and ${lines[0].other} do most together` : 'What acts together'}</h2>
      <p className="fig-sub">
        Beyond: what the two do together that neither does alone, {isNumber ? 'in units' : 'in points'}. H is its share of their joint
        effect; above nothing even where nothing is. Press a pair for its map.
      </p>
      {clear !== null && (
        <p className="size-13 above-4">
          <b>
            {clear.length === 0
              ? 'No pair is clear of chance'
              : `${clear.map((p) => `${p.one} with ${p.other}`).join('; ')} ${clear.length === 1 ? 'is' : 'are'} clear of chance`}
          </b>
          : fitted {chance.data?.draws} times to outcomes in which nothing acts together, no pair came beyond {said(most!)}.
        </p>
      )}
      {lines.length > 0 && clear === null && chance.data && (
        <p className="size-13 above-4">
          {chance.data.jobId != null || find.isPending ? (
            <span role="status">Finding out what chance does; the learner is fitted {chance.data.draws} times…</span>
          ) : (
            <button type="button" className="link" onClick={() => find.mutate()}>
              Tell them from chance{about(chance.data.seconds)}
            </button>
          )}
        </p>
      )}
      <Trouble known error={find.error} />
      {pairs.isPending && <Loading what="pairs of columns" />}
      <Trouble known error={pairs.error} />
      {lines.length > 0 && (
        <table className="ledger" aria-label="Pairs that act together">
          <thead>
            <tr>
              <th>Pair</th>
              <th className="n" style={{ width: 66 }}>
                Beyond
              </th>
              <th className="n" style={{ width: 52 }}>
                H
              </th>
            </tr>
          </thead>
          <tbody>
            {lines.map((p, i) => (
              <tr key={`${p.one} ${p.other}`} className={i === open ? 'sel' : isClear(p) ? '' : 'aside'}>
                <td className="nm clipped">
                  <button type="button" className="link" aria-pressed={i === open} onClick={() => setOpen(i)}>
                    {p.one} with {p.other}
                  </button>
                </td>
                <td className="n">{said(p.beyond)}</td>
                <td className="n">{p.h.toFixed(2)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Trouble known error={map.error} />
      {map.data && <Grid map={map.data} said={(v) => (isNumber ? number(v, 3) : share(v, 0))} />}
    </>
  )
}

type Map = NonNullable<ReturnType<typeof useEffectMap>['data']>

/** Mean answers of both columns' values, as numbers on a ground that darkens with them. */
function Grid({ map, said }: { map: Map; said: (v: number) => string }) {
  const all = map.mean.flat().filter((v): v is number => v != null)
  const [low, high] = [Math.min(...all), Math.max(...all)]
  return (
    <div className="above-8 scrolls-x">
      <table className="ledger" aria-label={`Mean answers by ${map.one} and ${map.other}`} style={{ fontSize: 11.5 }}>
        <thead>
          <tr>
            <th style={{ width: 78 }} title={`${map.other} downward, ${map.one} across`}>
              {map.one} →
            </th>
            {map.across.map((a) => (
              <th key={a} className="n" title={a}>
                {a.slice(0, 7)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {map.up.map((u, j) => (
            <tr key={u}>
              <td className="clipped" title={`${map.other} ${u}`}>
                {u}
              </td>
              {map.across.map((a, i) => {
                const v = map.mean[i]?.[j]
                const t = v == null || high === low ? 0 : (v - low) / (high - low)
                return (
                  <td key={a} className="n" style={{ background: `rgb(27 110 98 / ${(0.05 + 0.3 * t).toFixed(3)})` }}>
                    {v == null ? '–' : said(v)}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
