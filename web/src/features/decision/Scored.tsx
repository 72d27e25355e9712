import { Button, Checkbox, Dialog, DialogActions, DialogContent, DialogTitle, FormControlLabel, Tab, Tabs } from '@mui/material'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { useAddress } from '../../ui/address'
import { date, fixed, share, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { IntervalMark } from '../../ui/IntervalMark'
import { Ledger } from '../../ui/Ledger'
import { Loading, Trouble } from '../../ui/Trouble'
import { useStudyId } from '../study/api'
import { fileUrl, type Scoring, useScoredRows, useScoring, type Which } from './api'

/** The scored records as a ledger: narrowed, sorted, searched, downloaded. */
export function Scored() {
  const studyId = useStudyId()
  const go = useNavigate()
  const id = Number(useParams().scoringId)
  const scoring = useScoring(id)
  const [params, set] = useAddress()
  const [taking, setTaking] = useState(false)
  const data = scoring.data
  const which = (params.get('which') ?? 'all') as Which
  const sort = params.get('sort') ?? 'chance'
  const descending = params.get('up') !== '1'
  const search = params.get('search') ?? ''
  const carry = params.has('columns') ? params.get('columns')!.split(',') : (data?.columns.slice(0, 5) ?? [])
  const rows = useScoredRows(id, { which, sort, descending, search, carry }, data?.state === 'done')
  const left = data ? data.scored - data.called : 0
  return (
    <>
      <Head
        title={data ? `${data.tableName}, scored` : 'Scored records'}
        small={data && `by trial ${data.trialNumber}, ${data.trialTitle.toLowerCase()}, ${date(data.createdAt)}; a draft`}
        say={
          data?.state === 'done' && (
            <>
              <b>
                {whole(data.called)} of {whole(data.rows)} reach {share(data.cutoff, 0)}.
              </b>{' '}
              About {whole(data.expectedEvents)} “{data.event}” are expected in all ({fixed(data.expectedEvents, 1)} by the sum of chances).
              {data.scored < data.rows && ` ${whole(data.rows - data.scored)} could not be scored and are listed.`}
            </>
          )
        }
      >
        <Button component={Link} to={`/study/${studyId}/decisions`}>
          Score another table…
        </Button>
        <Button variant="contained" color="primary" disabled={data?.state !== 'done'} onClick={() => setTaking(true)}>
          Download list…
        </Button>
      </Head>
      <div className="sheet fit split">
        <section className="col" style={{ flex: 1 }}>
          <div style={{ display: 'flex', alignItems: 'center', borderBottom: '1px solid var(--rule)', padding: '0 12px' }}>
            <Tabs value={which} onChange={(_, v: Which) => set({ which: v === 'all' ? null : v })} aria-label="Narrow the list">
              <Tab value="all" label={`All ${whole(data?.rows)}`} />
              <Tab value="called" label={`To call ${whole(data?.called)}`} />
              <Tab value="left" label={`Left alone ${whole(left)}`} />
              <Tab value="unscored" label={`Not scored ${whole(data ? data.rows - data.scored : 0)}`} />
            </Tabs>
            <input
              value={search}
              onChange={(e) => set({ search: e.target.value || null })}
              placeholder="Search in all columns"
              aria-label="Search in all columns"
              style={{
                marginLeft: 'auto',
                width: 180,
                border: 0,
                borderBottom: '1px solid var(--rule-firm)',
                background: 'none',
                fontSize: 13,
              }}
            />
          </div>
          {(scoring.isPending || data?.state === 'waiting' || rows.isLoading) && <Loading what="the scored records" />}
          {(data?.state === 'failed' || data?.state === 'cancelled') && (
            <Trouble
              error={
                new Error(
                  `The scoring ${data.state === 'failed' ? 'did not finish' : 'was cancelled'}. The table and the model are as they were; score again.`,
                )
              }
            />
          )}
          <Trouble error={scoring.error ?? rows.error} />
          {rows.data && rows.data.total === 0 && <p className="soft pad">No record here{search !== '' && ` holds “${search}”`}.</p>}
          {rows.data && rows.data.total > 0 && (
            <>
              <Ledger
                label="Scored records"
                rows={rows.data.rows}
                rowKey={(r) => r.number}
                selected={null}
                onSelect={(r) => void go(`/study/${studyId}/reasons?batch=${id}&record=${r.number}`)}
                sort={{ key: sort, descending }}
                onSort={(key) => set({ sort: key === 'chance' ? null : key, up: sort === key && descending ? '1' : null })}
                lineNumber={(r) => r.number}
                columns={[
                  ...rows.data.names.map((name, i) => ({
                    key: name,
                    title: name,
                    width: 96,
                    sortable: true,
                    cell: (r: { cells: (string | null)[] }) => <span title={r.cells[i] ?? ''}>{r.cells[i] ?? '–'}</span>,
                  })),
                  { key: 'chance', title: 'Chance', number: true, width: 72, sortable: true, cell: (r) => <b>{share(r.chance)}</b> },
                  {
                    key: 'mark',
                    title: '',
                    width: 76,
                    className: 'mark',
                    cell: (r) => (
                      <IntervalMark
                        value={r.chance}
                        scale={[0, 1]}
                        width={72}
                        tone={r.called ? 'verdigris' : 'soft'}
                        reference={data?.cutoff}
                      />
                    ),
                  },
                  {
                    key: 'called',
                    title: 'Call',
                    width: 46,
                    cell: (r) => (r.called == null ? '–' : r.called ? <b className="verd">yes</b> : <span className="soft">no</span>),
                  },
                  {
                    key: 'because',
                    title: 'Because',
                    cell: (r) => (
                      <span title={r.why ?? r.reasons} className={r.why ? 'brass' : ''}>
                        {r.why ?? r.reasons}
                      </span>
                    ),
                  },
                ]}
              />
              <p className="soft small" style={{ padding: '6px 14px', borderTop: '1px solid var(--ink)' }}>
                {whole(rows.data.rows.length)} of {whole(rows.data.total)} shown; the download holds all. Enter opens a record’s reasons.
              </p>
            </>
          )}
        </section>
      </div>
      {taking && data && (
        <Download scoring={data} carry={carry} onClose={() => setTaking(false)} onCarry={(c) => set({ columns: c.join(',') })} />
      )}
    </>
  )
}

function Download({
  scoring,
  carry,
  onClose,
  onCarry,
}: {
  scoring: Scoring
  carry: string[]
  onClose: () => void
  onCarry: (columns: string[]) => void
}) {
  const [chosen, setChosen] = useState(new Set(carry))
  const list = scoring.columns.filter((c) => chosen.has(c))
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Download the scored list</DialogTitle>
      <DialogContent>
        <p style={{ marginBottom: 8 }}>
          {whole(scoring.rows)} records with chance, call and reasons, as CSV. Text that a spreadsheet would run as a formula is guarded by
          an apostrophe. Carry along:
        </p>
        <div style={{ columns: 2, fontSize: 13 }}>
          {scoring.columns.map((c) => (
            <FormControlLabel
              key={c}
              sx={{ display: 'flex', mr: 0 }}
              slotProps={{ typography: { sx: { fontSize: 13 } } }}
              control={
                <Checkbox
                  size="small"
                  sx={{ p: 0.4 }}
                  checked={chosen.has(c)}
                  onChange={(e) => {
                    const next = new Set(chosen)
                    if (e.target.checked) next.add(c)
                    else next.delete(c)
                    setChosen(next)
                  }}
                />
              }
              label={c}
            />
          ))}
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={() => setChosen(new Set(chosen.size === scoring.columns.length ? [] : scoring.columns))}>
          {chosen.size === scoring.columns.length ? 'None' : 'All columns'}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          color="primary"
          component="a"
          href={fileUrl(scoring.id, list)}
          download
          onClick={() => {
            onCarry(list)
            onClose()
          }}
        >
          Download
        </Button>
      </DialogActions>
    </Dialog>
  )
}
