import { Button } from '@mui/material'
import type { ReactNode } from 'react'
import { Link, useParams } from 'react-router'
import { useAddress } from '../../ui/address'
import { count, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'
import { useNotes } from '../../ui/notes'
import { useStudy, useStudyId } from '../../data/study'
import { useRegister } from '../../data/table'
import { Apart, ApartThumb } from './Apart'
import { useApart, useLopsided, useMissing, useRepeats, useTogether, useTwo } from '../../data/picture'
import { LopsidedPicture, LopsidedThumb } from './Lopsided'
import { MapThumb, TogetherMap } from './Together'
import { MissingPicture, MissingThumb } from './Missing'
import { Network, NetworkThumb } from './Network'
import { RepeatsPicture, RepeatsThumb } from './Repeats'
import { apartTitle, lopsidedTitle, missingTitle, networkTitle, repeatsTitle, togetherTitle, twoTitle } from './titles'
import { TwoPicture } from './Two'

/** The table in pictures, ordered by question; each says what it found, and leads to the records behind it. */
export function Pictures() {
  const studyId = useStudyId()
  const study = useStudy(studyId)
  const tableId = Number(useParams().tableId)
  const register = useRegister(tableId)
  const [params, set] = useAddress()
  useNotes(0, null, 'pictures')
  const target = study.data?.tableId === tableId ? study.data.target : null
  const missing = useMissing(tableId)
  const repeats = useRepeats(tableId, null)
  const apart = useApart(tableId)
  const lopsided = useLopsided(tableId)
  const together = useTogether(tableId)
  const columns = register.data?.columns ?? []
  const dated = columns.find((c) => c.kind === 'date')
  const x = params.get('x') ?? (target && dated && dated.name !== target ? dated.name : (columns[1]?.name ?? null))
  const y = params.get('y') ?? target ?? columns[2]?.name ?? null
  const two = useTwo(tableId, x, y)
  const show = params.get('show') ?? 'together'
  const threshold = Number(params.get('from') ?? 0.2)
  const where = { studyId, tableId }
  const lines: { key: string; title: string | null; form: string; thumb: ReactNode; failed: unknown }[] = [
    {
      key: 'missing',
      title: missing.data ? missingTitle(missing.data) : null,
      form: 'What is missing together',
      thumb: missing.data && <MissingThumb data={missing.data} />,
      failed: missing.error,
    },
    {
      key: 'repeats',
      title: repeats.data ? repeatsTitle(repeats.data, true) : null,
      form: 'What repeats',
      thumb: repeats.data && <RepeatsThumb data={repeats.data} />,
      failed: repeats.error,
    },
    {
      key: 'apart',
      title: apart.data ? apartTitle(apart.data.columns) : null,
      form: 'What stands apart',
      thumb: apart.data && <ApartThumb columns={apart.data.columns} />,
      failed: apart.error,
    },
    {
      key: 'lopsided',
      title: lopsided.data ? lopsidedTitle(lopsided.data) : null,
      form: 'What is lopsided',
      thumb: lopsided.data && <LopsidedThumb data={lopsided.data} />,
      failed: lopsided.error,
    },
    {
      key: 'together',
      title: together.data ? togetherTitle(together.data, target) : null,
      form: 'What goes together: every pair',
      thumb: together.data && <MapThumb data={together.data} />,
      failed: together.error,
    },
    {
      key: 'network',
      title: together.data ? networkTitle(together.data, threshold) : null,
      form: 'What goes together: linked',
      thumb: together.data && <NetworkThumb data={together.data} threshold={threshold} />,
      failed: together.error,
    },
    ...(x && y
      ? [{ key: 'two', title: two.data ? twoTitle(two.data) : null, form: `${x} against ${y}`, thumb: <TwoThumb />, failed: two.error }]
      : []),
  ]
  const chosen = lines.find((l) => l.key === show) ?? lines[0]!
  const ready = lines.filter((l) => l.title !== null).length
  const draw = (a: string, b: string) => set({ show: 'two', x: a, y: b })
  const names = columns.map((c) => ({ value: c.name, label: c.name, effect: c.kind }))

  return (
    <>
      <Head
        title="Pictures"
        small={register.data && `${register.data.name}, by question`}
        say={
          <>
            <b>
              {ready < lines.length
                ? `${ready} of ${count(lines.length, 'picture')} drawn.`
                : `${count(lines.length, 'picture')}, each says what it found.`}
            </b>{' '}
            {together.data && register.data && together.data.records < register.data.rows
              ? `Pairs are measured on ${whole(together.data.records)} of ${whole(register.data.rows)} records, taken evenly.`
              : register.data && `Made from all ${whole(register.data.rows)} records.`}{' '}
            {target && 'What is said about the target leaves sealed rows out.'}
          </>
        }
      >
        <Button component={Link} to={`/study/${studyId}/table/${tableId}`}>
          Register
        </Button>
        <Button component={Link} to={`/study/${studyId}/table/${tableId}/rows`}>
          Rows
        </Button>
      </Head>
      <div className="sheet fit split">
        <nav className="col" style={{ width: 252, overflow: 'auto' }} aria-label="Pictures by question">
          {lines.map((l) => (
            <button
              key={l.key}
              type="button"
              className={`picture-line ${l.key === chosen.key ? 'on' : ''}`}
              aria-current={l.key === chosen.key ? 'true' : undefined}
              onClick={() => set({ show: l.key, pair: null })}
            >
              <span className="thumb">{l.thumb}</span>
              <span>
                <b>{l.title ?? (l.failed ? 'Could not be drawn' : 'Drawing …')}</b>
                <small>{l.form}</small>
              </span>
            </button>
          ))}
          {names.length > 1 && (
            <p className="sentence" style={{ padding: '12px 14px', fontSize: 15, marginTop: 'auto' }}>
              Draw <Slot label="Across" value={x ?? ''} choices={names.filter((n) => n.value !== y)} onChange={(v) => draw(v, y ?? '')} />{' '}
              against <Slot label="Up" value={y ?? ''} choices={names.filter((n) => n.value !== x)} onChange={(v) => draw(x ?? '', v)} />
            </p>
          )}
        </nav>
        <section className="col pad" style={{ flex: 1, minWidth: 0, overflow: 'auto' }} aria-label={chosen.form}>
          <Trouble error={chosen.failed} />
          {chosen.title === null && !chosen.failed && <Loading what="the picture" />}
          {show === 'missing' && missing.data && <MissingPicture {...where} data={missing.data} />}
          {show === 'repeats' && <RepeatsPicture {...where} columns={columns} />}
          {show === 'apart' && apart.data && <Apart {...where} columns={apart.data.columns} />}
          {show === 'lopsided' && lopsided.data && <LopsidedPicture {...where} data={lopsided.data} />}
          {show === 'together' && together.data && (
            <TogetherMap {...where} data={together.data} target={target ?? null} columns={columns} draw={draw} />
          )}
          {show === 'network' && together.data && (
            <Network data={together.data} threshold={threshold} target={target ?? null} draw={draw} />
          )}
          {show === 'two' && two.data && (
            <TwoPicture {...where} key={two.data.form} data={two.data} event={study.data?.event ?? null} target={target ?? null} />
          )}
        </section>
      </div>
    </>
  )
}

function TwoThumb() {
  return (
    <svg width={70} height={54} aria-hidden="true">
      <path d="M6 4V48H66" fill="none" stroke="currentColor" />
      <path d="M12 40l12-9 12 4 12-14 12-6" fill="none" stroke="#1B6E62" strokeWidth="1.4" />
    </svg>
  )
}
