import { useQueryClient } from '@tanstack/react-query'
import { Button, TextField } from '@mui/material'
import { useEffect, useRef, useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { count, share, whole } from '../../ui/format'
import { Head } from '../../ui/Head'
import { Slot } from '../../ui/Slot'
import { Loading, Trouble } from '../../ui/Trouble'
import { Connections } from '../../sections/Connections'
import { isOver, useJob } from '../../data/job'
import { useStudyId } from '../../data/study'
import { type Corrections, readable, type Reading, upload, useImport, useReading } from '../../data/table'
import { PartOf } from './PartOf'
import { Arriving } from './Arriving'
import { Property, Word } from './Property'
import { Shelf } from './Sources'

/** Bytes from which on reading takes long enough to watch. */
const LARGE = 8 << 20
const encodings = ['UTF-8', 'Windows-1252', 'ISO-8859-1', 'UTF-16LE', 'UTF-16BE']
const delimiters: Record<string, string> = { ',': 'commas', ';': 'semicolons', '\t': 'tabs', '|': 'bars' }

/** How a file would be read, shown before anything is kept; each property can be corrected and the sample follows. */
export function Import() {
  const studyId = useStudyId()
  const go = useNavigate()
  const [params, setParams] = useSearchParams()
  const queries = useQueryClient()
  const forDecisions = params.get('for') === 'decisions'
  const uploadId = params.has('upload') ? Number(params.get('upload')) : null
  const [corrections, setCorrections] = useState<Corrections>({})
  const reading = useReading(uploadId, corrections)
  const start = useImport(studyId)
  const [jobId, setJobId] = useState<number | null>(null)
  const job = useJob(jobId)
  const [sending, setSending] = useState<number | null>(null)
  const [error, setError] = useState<unknown>(null)
  const [name, setName] = useState<string | null>(null)
  const chooser = useRef<HTMLInputElement>(null)
  // A correction that cannot be followed leaves the last sample where it was.
  const [last, setLast] = useState<Reading | null>(null)
  useEffect(() => {
    if (reading.data) setLast(reading.data)
  }, [reading.data])
  const data = reading.data ?? (last?.id === uploadId ? last : null)
  const dialect = {
    encoding: 'UTF-8',
    delimiter: ',',
    quote: '"',
    decimal: '.',
    thousands: '',
    header: true,
    skip: 0,
    comment: '',
    missing: [] as string[],
    form: 'text',
    dates: 'day first',
    ...data?.dialect,
  }
  const correct = (change: Corrections) => setCorrections({ ...corrections, ...change })
  const part = data?.part != null && data.container === 'database' && data.parts.includes(data.part) ? data.part : null
  const tableName = name ?? part ?? data?.fileName.replace(/\.[^.]+$/, '') ?? ''

  useEffect(() => {
    if (job.data?.state !== 'done') return
    const made = job.data.subject
    // What others show of the study knows nothing of this table yet.
    void queries.invalidateQueries({ predicate: (q) => ['study', 'studies', 'register'].includes(String(q.queryKey[0])) }).then(() =>
      go(forDecisions ? `/study/${studyId}/decisions?table=${made}` : `/study/${studyId}/table/${made}`, {
        replace: true,
      }),
    )
  }, [job.data, go, studyId, forDecisions, queries])

  async function send(file: File) {
    setError(null)
    setSending(0)
    setJobId(null)
    setName(null)
    setCorrections({})
    try {
      const id = await upload(file, setSending)
      taken(id)
    } catch (e) {
      setError(e)
    }
    setSending(null)
  }

  const taken = (id: number) => setParams({ upload: String(id), ...(forDecisions ? { for: 'decisions' } : {}) }, { replace: true })
  const failed = job.data && isOver(job.data) && job.data.state !== 'done' ? job.data : null
  const busy = jobId !== null && !failed
  return (
    <>
      <Head
        title={data ? `Reading ${data.fileName}` : 'Import a table'}
        small={
          data &&
          data.size > 0 &&
          (data.size < 2048
            ? `${whole(data.size)} bytes`
            : data.size < 2e6
              ? `${whole(data.size / 1024)} kB`
              : `${whole(data.size / 1048576)} MB`)
        }
        say={
          data ? (
            <>
              <b>
                {count(data.names.length, 'column')}, about {count(data.aboutRecords, 'record')}.
              </b>{' '}
              Nothing is kept until you import; the file itself is never changed.
            </>
          ) : (
            'Choose a file with one record a line.'
          )
        }
      >
        <Button onClick={() => chooser.current?.click()}>{data ? 'Another file…' : 'Choose a file…'}</Button>
        {data && (
          <Button
            variant="contained"
            color="primary"
            disabled={busy || start.isPending || tableName.trim() === ''}
            onClick={() =>
              start.mutate(
                {
                  uploadId: data.id,
                  name: tableName.trim(),
                  dialect: data.dialect,
                  part: data.part ?? null,
                  ...(data.most == null ? {} : { most: data.most }),
                },
                { onSuccess: (j) => setJobId(j.id) },
              )
            }
          >
            Import
          </Button>
        )}
      </Head>
      <input
        ref={chooser}
        type="file"
        accept={readable}
        hidden
        data-testid="import-file"
        onChange={(e) => {
          const f = e.target.files?.[0]
          e.target.value = ''
          if (f) void send(f)
        }}
      />
      <div
        className="sheet fit split"
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          e.preventDefault()
          const f = e.dataTransfer.files[0]
          if (f) void send(f)
        }}
      >
        {!data && (
          <div className="empty">
            <h2>Drop a file on this sheet</h2>
            <p>
              CSV, TSV or JSON Lines up to 2 GB, a sheet of an XLSX or ODS workbook, or a table of an SQLite database. How it is written is
              recognized and shown first; you can correct each word of it.
            </p>
            {sending !== null ? (
              <p role="status">Sending: {share(sending, 0)}</p>
            ) : (
              <Button variant="contained" color="primary" onClick={() => chooser.current?.click()}>
                Choose a file…
              </Button>
            )}
            {sending === null && (
              <>
                <Shelf onTaken={taken} />
                <Connections onTaken={taken} />
              </>
            )}
            {reading.isLoading && <Loading what="the first records" />}
            <Trouble error={error ?? reading.error} />
          </div>
        )}
        {data && (
          <>
            <section className="col" style={{ width: 360, overflow: 'auto' }}>
              <h2 className="fig-title" style={{ padding: '10px 14px', borderBottom: '1px solid var(--ink)' }}>
                How the file is read{' '}
                <span className="soft small" style={{ fontFamily: 'var(--sans)' }}>
                  change any underlined word
                </span>
              </h2>
              {reading.error !== null && (
                <div style={{ padding: '0 14px' }}>
                  <Trouble error={reading.error} />
                </div>
              )}
              {data.remarks.map((r) => (
                <p key={r} className="small brass" role="note" style={{ padding: '8px 14px 0' }}>
                  {r}
                </p>
              ))}
              {data.container != null && (
                <PartOf
                  data={data}
                  onPart={(v) => setCorrections({ part: v, ...(corrections.most === undefined ? {} : { most: corrections.most }) })}
                  onMost={(most) => correct({ most })}
                />
              )}
              {dialect.form === 'JSON Lines' && (
                <Property note="Columns are all names that occur; an absent name is a missing cell.">
                  Each line is <b>one JSON object</b>.
                </Property>
              )}
              <div hidden={dialect.form === 'JSON Lines' || data.container === 'database'}>
                <Property note={`The text is shown as ${dialect.encoding}.`}>
                  Letters are written in{' '}
                  <Slot
                    label="Encoding"
                    value={dialect.encoding}
                    choices={encodings.map((e) => ({ value: e, label: e }))}
                    onChange={(v) => correct({ encoding: v })}
                  />
                  .
                </Property>
                <Property note={`${data.names.length} fields in the first line.`}>
                  Fields are parted by{' '}
                  <Slot
                    label="Delimiter"
                    value={dialect.delimiter}
                    choices={Object.entries(delimiters).map(([value, label]) => ({ value, label }))}
                    onChange={(v) => correct({ delimiter: v })}
                  />
                  , quoted with{' '}
                  <Slot
                    label="Quote mark"
                    value={dialect.quote}
                    choices={[
                      { value: '"', label: 'double quotes' },
                      { value: "'", label: 'apostrophes' },
                    ]}
                    onChange={(v) => correct({ quote: v })}
                  />
                  .
                </Property>
                <Property note="Numbers with the other mark stay text.">
                  Decimals are marked by a{' '}
                  <Slot
                    label="Decimal mark"
                    value={dialect.decimal}
                    choices={[
                      { value: '.', label: 'point' },
                      { value: ',', label: 'comma' },
                    ]}
                    onChange={(v) => correct({ decimal: v })}
                  />
                  , thousands by{' '}
                  <Slot
                    label="Thousands mark"
                    value={dialect.thousands}
                    choices={[
                      { value: '', label: dialect.decimal === ',' ? 'points or nothing' : 'commas or nothing' },
                      { value: ' ', label: 'blanks' },
                      { value: "'", label: 'apostrophes' },
                    ]}
                    onChange={(v) => correct({ thousands: v })}
                  />
                  , dates with the{' '}
                  <Slot
                    label="Order of dates"
                    value={dialect.dates}
                    choices={[
                      { value: 'day first', label: 'day first', effect: '03/04/2026 is 3 April' },
                      { value: 'month first', label: 'month first', effect: '03/04/2026 is March 4' },
                    ]}
                    onChange={(v) => correct({ dates: v })}
                  />
                  .
                </Property>
                <Property note="Lines above the header are left out, whatever they hold; so is every line that is a comment.">
                  Skip{' '}
                  <Word
                    label="Lines to skip"
                    value={String(dialect.skip)}
                    width={44}
                    digits={4}
                    onDone={(v) => correct({ skip: Number(v) || 0 })}
                  />{' '}
                  lines at the top, and lines that begin with{' '}
                  <Word label="Comment mark" value={dialect.comment} width={44} onDone={(v) => correct({ comment: v.trim() })} />.
                </Property>
                <Property note={dialect.header ? 'The names can be seen at the right.' : 'Columns are called column_1, column_2, …'}>
                  The first line{' '}
                  <Slot
                    label="Header"
                    value={dialect.header ? 'yes' : 'no'}
                    choices={[
                      { value: 'yes', label: 'names the columns' },
                      { value: 'no', label: 'is a record' },
                    ]}
                    onChange={(v) => correct({ header: v === 'yes' })}
                  />
                  .
                </Property>
              </div>
              <Property note="Separated by commas; an empty cell is always missing.">
                Missing is written{' '}
                <Word
                  label="Marks for missing"
                  value={dialect.missing.filter((m) => m !== '').join(', ')}
                  width={190}
                  onDone={(v) =>
                    correct({
                      missing: v
                        .split(',')
                        .map((m) => m.trim())
                        .join(','),
                    })
                  }
                />
                .
              </Property>
              <Property note="A table of the same name becomes its next edition.">
                The table is called
                <TextField
                  value={tableName}
                  onChange={(e) => setName(e.target.value)}
                  slotProps={{ htmlInput: { 'aria-label': 'Name of the table', maxLength: 120 } }}
                />
              </Property>
              <div style={{ padding: '8px 14px' }}>
                <Trouble
                  error={
                    error ??
                    reading.error ??
                    start.error ??
                    (failed ? new Error(failed.message ?? 'The import was cancelled. Nothing was kept.') : null)
                  }
                />
                {busy && <p role="status">Importing: {share(job.data?.share ?? 0, 0)}. You can leave this page; it goes on.</p>}
              </div>
            </section>
            <section className="col fills">
              {busy && data.size > LARGE && job.data ? (
                <Arriving tableId={job.data.subject} />
              ) : (
                <div className="scroll" tabIndex={0} role="region" aria-label="The first records">
                  <table
                    className="ledger"
                    style={{ minWidth: data.names.length * 112, opacity: reading.isPlaceholderData ? 0.5 : 1 }}
                    aria-label="The first records"
                  >
                    <thead>
                      <tr>
                        <th className="ln" style={{ width: 34 }}>
                          <span className="sr">Record</span>
                        </th>
                        {data.names.map((n) => (
                          <th key={n} title={n} className="clipped">
                            {n}
                          </th>
                        ))}
                      </tr>
                    </thead>
                    <tbody>
                      {data.records.map((r, i) => (
                        <tr key={i}>
                          <td className="ln">{i + 1}</td>
                          {r.map((c, j) => (
                            <td key={j} className={c === '' ? 'brass' : ''}>
                              {c === '' ? '–' : c}
                            </td>
                          ))}
                        </tr>
                      ))}
                    </tbody>
                  </table>
                </div>
              )}
            </section>
          </>
        )}
      </div>
    </>
  )
}
