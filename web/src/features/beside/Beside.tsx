import { Button, Menu, MenuItem } from '@mui/material'
import { useState } from 'react'
import { Link } from 'react-router'
import { useBeside } from '../../data/beside'
import { useStudyId } from '../../data/study'
import { useChooseFinalists, useStandings } from '../../data/trial'
import { useAddress } from '../../ui/address'
import { whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { figured, ofTask } from '../../ui/measure'
import { Loading, Trouble } from '../../ui/Trouble'
import { LeansBeside, SettingsBeside } from './Built'
import { Figures } from './Figures'
import { Key, long, short } from './marks'
import { PartsBeside, RecordsBeside } from './Parted'
import { ReachCurves } from './ReachCurves'
import { TwoTests } from './TwoTests'

const MOST = 4
const WORDS = ['No', 'One', 'Two', 'Three', 'Four']

/** Two to four trials on the same rows: what differs, by how much, and on which records. */
export function BesidePage() {
  const studyId = useStudyId()
  const [params, set] = useAddress()
  const ids = (params.get('trials') ?? '')
    .split(',')
    .map(Number)
    .filter((id) => id > 0)
  const at = params.get('at') === null ? null : Number(params.get('at'))
  const beside = useBeside(studyId, ids, at)
  const standings = useStandings(studyId)
  const choose = useChooseFinalists(studyId)
  const data = ids.length > 1 ? beside.data : undefined
  const first = data?.trials[0]
  const finalists = standings.data?.finalists
  const to = (next: number[]) => set({ trials: next.join(','), part: null, at: null })
  return (
    <>
      <Head
        title={data ? `${WORDS[data.trials.length] ?? ''} trials` : 'Side by side'}
        small={data && `on the same ${whole(data.rows)} records`}
        say={
          first &&
          data && (
            <>
              <b>
                The others are held against {long(data.trials, 0).toLowerCase()}, trial {first.number}.
              </b>{' '}
              Press another’s name to hold them against that one.
            </>
          )
        }
      >
        <Add studyId={studyId} ids={ids} onAdd={(id) => to([...ids, id])} />
        {data && <Button onClick={() => set({ part: params.get('part') === 'all' ? null : 'all' })}>Records they part on</Button>}
        {first && finalists && finalists.strongest !== first.id && (
          <Button
            variant="contained"
            color="primary"
            disabled={choose.isPending}
            onClick={() =>
              choose.mutate({
                reading: finalists.reading,
                least: finalists.least ?? null,
                loss: finalists.loss ?? null,
                strongestId: first.id,
                clearestId: finalists.byHand ? (finalists.clearest ?? null) : null,
                reason: `Chosen side by side with ${ids.length - 1 === 1 ? 'another trial' : `${ids.length - 1} others`}`,
              })
            }
          >
            Keep {short(data!.trials, 0).toLowerCase()} as finalist
          </Button>
        )}
      </Head>
      <div className="sheet stack">
        {ids.length < 2 && (
          <div className="empty">
            <h2>Here two to four trials stand side by side</h2>
            <p>Add trials above, or tick them in the Standings. They are compared on the rows that all of them had not seen.</p>
            <Button component={Link} to={`/study/${studyId}/judgment`}>
              Standings
            </Button>
          </div>
        )}
        {ids.length > 1 && beside.isPending && <Loading what="the trials" />}
        <Trouble error={(ids.length > 1 ? beside.error : null) ?? choose.error} onRetry={() => void beside.refetch()} />
        {data && (
          <>
            <section className="parts-row" aria-label="Trials side by side">
              {data.trials.map((t, k) => (
                <div key={t.id} className="pad" style={{ flex: '1 1 240px', ...(k > 0 ? { borderLeft: '1px solid var(--rule)' } : {}) }}>
                  <h2 className="fig-title" style={{ display: 'flex', gap: 8, alignItems: 'center' }}>
                    <Key k={k} />
                    <button
                      type="button"
                      className="link"
                      title={k === 0 ? 'The others are held against this one' : 'Hold the others against this one'}
                      aria-pressed={k === 0}
                      onClick={() => to([t.id, ...ids.filter((id) => id !== t.id)])}
                    >
                      {long(data.trials, k)}
                    </button>
                    <b style={{ marginLeft: 'auto', whiteSpace: 'nowrap' }}>{figured(t.measure, t)}</b>
                  </h2>
                  <p className="soft small">
                    <Link to={`/study/${studyId}/judgment/${t.id}`}>trial {t.number}</Link>
                    {t.size && `; ${t.size}`}
                    {t.id === finalists?.strongest && '; the strongest finalist'}
                    {t.id === finalists?.clearest && t.id !== finalists.strongest && '; the clearest finalist'}
                    {t.stale.length > 0 && <span className="brass"> stale</span>}{' '}
                    {ids.length > 2 && (
                      <button
                        type="button"
                        className="link"
                        aria-label={`Take trial ${t.number} away`}
                        onClick={() => to(ids.filter((id) => id !== t.id))}
                      >
                        take away
                      </button>
                    )}
                  </p>
                </div>
              ))}
            </section>
            <div className="parts-row">
              <Figures data={data} />
              <ReachCurves data={data} />
            </div>
            <RecordsBeside data={data} studyId={studyId} trials={ids} />
            <div className="parts-row">
              <SettingsBeside data={data} />
              <LeansBeside data={data} />
              <PartsBeside data={data} />
            </div>
            {data.trials.length === 2 && <TwoTests one={ids[0]!} other={ids[1]!} cutoff={data.cutoff ?? 0.5} />}
          </>
        )}
      </div>
    </>
  )
}

/** One more trial of the same target. */
function Add({ studyId, ids, onAdd }: { studyId: number; ids: number[]; onAdd: (id: number) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const standings = useStandings(studyId)
  const others = ofTask(standings.data?.trials ?? [], standings.data?.task ?? '').filter((t) => t.state === 'done' && !ids.includes(t.id))
  if (ids.length >= MOST || others.length === 0) return null
  return (
    <>
      <Button aria-haspopup="menu" onClick={(e) => setAnchor(e.currentTarget)}>
        Add a trial…
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)} slotProps={{ paper: { sx: { maxHeight: 420 } } }}>
        {others.map((t) => (
          <MenuItem
            key={t.id}
            onClick={() => {
              setAnchor(null)
              onAdd(t.id)
            }}
          >
            {t.number}. {t.title}
            <span className="soft small" style={{ marginLeft: 14 }}>
              {t.measure.name} {figured(t.measure, t)}
            </span>
          </MenuItem>
        ))}
      </Menu>
    </>
  )
}
