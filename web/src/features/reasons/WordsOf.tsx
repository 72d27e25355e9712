import { useWords } from '../../data/reasons'
import { number, share } from '../../ui/format'
import { IntervalMark } from '../../ui/IntervalMark'
import { Loading, Trouble } from '../../ui/Trouble'

/** A column of text through the words made of it: mean answers with each and without it. */
export function WordsOf({ trialId, column, name, isNumber }: { trialId: number; column: string; name: string | null; isNumber: boolean }) {
  const words = useWords(trialId, column, name)
  const lines = words.data?.words ?? []
  const first = lines[0]
  const said = (v: number) => (isNumber ? number(v, 3) : share(v))
  const moved = (v: number) => `${v > 0 ? '+' : ''}${isNumber ? number(v, 3) : `${number(100 * v, 2)}`}`
  const far = (v: number) => `${moved(Math.abs(v)).replace('+', '')}${isNumber ? '' : ' points'}`
  const reach = Math.max(1e-9, ...lines.flatMap((w) => [Math.abs(w.low ?? w.moves), Math.abs(w.high ?? w.moves)]))
  return (
    <>
      <h2 className="fig-title">
        {first
          ? `With ${first.word} the answer lies ${far(first.moves)} ${first.moves < 0 ? 'lower' : 'higher'}`
          : `What the words of ${column} do`}
      </h2>
      <p className="fig-sub">
        Mean answer over background records with the word in all of them, and in none; all else as it is. Moves: the difference,{' '}
        {isNumber ? 'in units' : 'in points'}, 95% of its mean.
      </p>
      {words.isPending && <Loading what="words" />}
      <Trouble known error={words.error} />
      {words.data && lines.length === 0 && (
        <p className="soft">This model reads no words made of {column} alone; the column is explained as a whole.</p>
      )}
      {lines.length > 0 && (
        <table className="ledger" aria-label={`Words of ${column}`}>
          <thead>
            <tr>
              <th>Made of the text</th>
              <th className="n" style={{ width: 62 }}>
                Stands in
              </th>
              <th className="n" style={{ width: 62 }}>
                With
              </th>
              <th className="n" style={{ width: 62 }}>
                Without
              </th>
              <th className="n" style={{ width: 62 }}>
                Moves
              </th>
              <th className="mark" style={{ width: 84 }}>
                <span className="sr">Interval, drawn</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {lines.map((w) => (
              <tr key={w.word}>
                <td className="nm clipped" title={w.word}>
                  {w.word}
                </td>
                <td className="n">{share(w.share, 0)}</td>
                <td className="n">{said(w.with)}</td>
                <td className="n">{said(w.without)}</td>
                <td className="n">
                  <b>{moved(w.moves)}</b>
                </td>
                <td className="mark">
                  <IntervalMark
                    value={w.moves}
                    low={w.low}
                    high={w.high}
                    scale={[-reach, reach]}
                    width={80}
                    reference={0}
                    tone={(w.low ?? -1) > 0 || (w.high ?? 1) < 0 ? 'verdigris' : 'soft'}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  )
}
