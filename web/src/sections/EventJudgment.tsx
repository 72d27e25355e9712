import { Slider } from '@mui/material'
import { useAddress } from '../ui/address'
import { cutoffSaid, whole } from '../ui/format'
import { useCutoff } from '../ui/useCutoff'
import { atCutoff, type Cell, type CutoffFigures, type Judgment, type SectionOf } from '../data/judgment'
import { Calibration } from './Calibration'
import { Curves } from './Curves'
import { Densities } from './Densities'
import { FigureLedger } from './FigureLedger'
import { FindCutOff } from './FindCutOff'
import { Groups } from './Groups'
import { Records } from './Records'
import { Tenths } from './Tenths'

/** An event: what a cut-off catches, how chances rank, and every figure. */
export function EventJudgment({ section, judgment: data, studyId }: { section: SectionOf<'event'>; judgment: Judgment; studyId: number }) {
  const [params, set] = useAddress()
  const at = atCutoff(section.cutoffs, useCutoff(data.cutoff))
  if (!at) return null
  const cutoff = at.cutoff
  const place = section.cutoffs.indexOf(at)
  const cell = params.get('cell') as Cell | null
  return (
    <>
      <div className="parts-row">
        <section className="pad" style={{ flex: '1 1 300px' }}>
          <h2 className="fig-title">
            At {cutoffSaid(cutoff)} it catches {whole(100 * (at.recall.value ?? 0))} of 100
          </h2>
          <p className="fig-sub">Validation rows by chance given: above with “{data.event}”, below without. Move the cut-off.</p>
          <Densities histogram={section.histogram} cutoff={cutoff} />
          <Slider
            aria-label="Cut-off"
            value={place}
            min={1}
            max={section.cutoffs.length - 2}
            step={1}
            valueLabelDisplay="auto"
            valueLabelFormat={(v) => cutoffSaid(section.cutoffs[v]?.cutoff ?? 0)}
            getAriaValueText={(v) => cutoffSaid(section.cutoffs[v]?.cutoff ?? 0)}
            onChange={(_, v) => set({ cutoff: String(section.cutoffs[Number(v)]?.cutoff) })}
            sx={{ color: 'var(--brass)', mt: -1 }}
          />
          <FindCutOff judgment={data} />
          <Matrix at={at} event={data.event ?? ''} onCell={(c) => set({ cell: c === cell ? null : c })} open={cell} />
        </section>
        <section className="pad half">
          <Curves section={section} judgment={data} at={at} />
        </section>
        <section className="pad" style={{ flex: '1.1 1 350px', borderLeft: '1px solid var(--rule)' }}>
          <FigureLedger section={section} judgment={data} at={at} />
        </section>
      </div>
      {cell && <Records trialId={data.trial.id} studyId={studyId} cell={cell} cutoff={cutoff} onClose={() => set({ cell: null })} />}
      <div style={{ display: 'flex', borderBottom: '1px solid var(--rule)', flexWrap: 'wrap' }}>
        <section className="pad" style={{ flex: '1 1 230px' }}>
          <Calibration section={section} judgment={data} />
        </section>
        <section className="pad" style={{ flex: '1.7 1 430px', borderLeft: '1px solid var(--rule)' }}>
          <Groups judgment={data} cutoff={cutoff} />
        </section>
        {section.tenths.length > 0 && (
          <section className="pad" style={{ flex: '1 1 280px', borderLeft: '1px solid var(--rule)' }}>
            <Tenths section={section} />
          </section>
        )}
      </div>
    </>
  )
}

function Matrix({ at, event, onCell, open }: { at: CutoffFigures; event: string; onCell: (cell: Cell) => void; open: Cell | null }) {
  const cells: [Cell, string, boolean][] = [
    ['tp', 'caught', true],
    ['fn', 'missed', false],
    ['fp', 'called in vain', false],
    ['tn', 'left alone', true],
  ]
  const button = ([cell, word, good]: (typeof cells)[number]) => (
    <button
      key={cell}
      type="button"
      className={`cell ${good ? 'good' : 'bad'}`}
      aria-pressed={open === cell}
      onClick={() => onCell(cell)}
      style={open === cell ? { boxShadow: 'inset 4px 0 var(--ink)' } : undefined}
    >
      <b>{whole(at[cell])}</b>
      {word}
    </button>
  )
  return (
    <div className="cells" role="group" aria-label="Confusion matrix; each cell opens its records">
      <span />
      <span className="soft small" style={{ padding: '0 10px' }}>
        called
      </span>
      <span className="soft small" style={{ padding: '0 10px' }}>
        not called
      </span>
      <span className="soft small sum" style={{ padding: 0 }}>
        in all
      </span>
      <span className="side">{event}</span>
      {cells.slice(0, 2).map(button)}
      <span className="sum">{whole(at.tp + at.fn)}</span>
      <span className="side">other</span>
      {cells.slice(2).map(button)}
      <span className="sum">{whole(at.fp + at.tn)}</span>
    </div>
  )
}
