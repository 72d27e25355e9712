import { Button } from '@mui/material'
import { useState } from 'react'
import { useDrawSample } from '../../data/connection'
import { count, whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import type { Reading } from '../../data/table'
import { Property, Word } from './Property'
import { Trouble } from '../../ui/Trouble'
import { Select } from './Sources'

const MOST = 5_000_000

/** Which sheet or table is read of a source that holds several, and how much of it. */
export function PartOf({ data, onPart, onMost }: { data: Reading; onPart: (part: string) => void; onMost: (most: number) => void }) {
  const workbook = data.container === 'workbook'
  const most = data.most ?? MOST
  const cut = data.held != null && data.held > most
  return (
    <>
      <Property
        note={
          workbook
            ? 'Stored values are read: formulas are not computed again.'
            : 'The database is only read; nothing in it can be changed from here.'
        }
      >
        From the {workbook ? 'sheet' : 'table'}{' '}
        <Slot
          label={workbook ? 'Sheet' : 'Table'}
          value={data.part ?? ''}
          choices={[
            ...data.parts.map((p) => ({ value: p, label: p })),
            ...(data.part != null && !data.parts.includes(data.part) ? [{ value: data.part, label: 'a SELECT' }] : []),
          ]}
          onChange={onPart}
        />
        {!workbook && <Select key={data.part} value={data.parts.includes(data.part ?? '') ? '' : (data.part ?? '')} onDone={onPart} />}
      </Property>
      <Property
        note={
          cut
            ? `It holds ${count(data.held!, 'record')}: the first ${whole(most)} are taken, in the order they come.`
            : data.held != null
              ? `It holds ${count(data.held, 'record')}.`
              : 'How many there are is known once they are read.'
        }
      >
        Take at most{' '}
        <Word
          label="Records at most"
          value={String(most)}
          width={70}
          digits={7}
          onDone={(v) => onMost(Math.min(MOST, Math.max(1, Number(v) || MOST)))}
        />{' '}
        records.
      </Property>
      {!workbook && data.held !== undefined && <Sample key={data.fileName} data={data} onPart={onPart} />}
    </>
  )
}

/** The sample is drawn where the data lie: the same records every time, or so many of each value with weights. */
function Sample({ data, onPart }: { data: Reading; onPart: (part: string) => void }) {
  const draw = useDrawSample()
  const [way, setWay] = useState('share')
  const [key, setKey] = useState(data.names[0] ?? '')
  const [share, setShare] = useState('10')
  const [by, setBy] = useState(data.names[1] ?? data.names[0] ?? '')
  const [each, setEach] = useState('1000')
  const names = data.names.map((n) => ({ value: n, label: n }))
  return (
    <Property
      note={
        way === 'share'
          ? 'Drawn in the database by a hash of the key: the same records every time.'
          : 'Drawn in the database; a column sample_weight says what each record stands for.'
      }
    >
      Or a sample:{' '}
      {way === 'share' ? (
        <>
          <Word label="Percent" value={share} width={34} digits={2} onDone={setShare} />% of the records
        </>
      ) : (
        <>
          <Word label="Records of each value" value={each} width={56} digits={6} onDone={setEach} /> of each{' '}
          <Slot label="Value of" value={by} choices={names} onChange={setBy} />
        </>
      )}
      , by <Slot label="Key" value={key} choices={names} onChange={setKey} />,{' '}
      <Slot
        label="Drawn"
        value={way}
        choices={[
          { value: 'share', label: 'from all alike' },
          { value: 'each', label: 'from each value alike' },
        ]}
        onChange={setWay}
      />{' '}
      <Button
        size="small"
        disabled={draw.isPending || data.part == null}
        onClick={() =>
          draw.mutate(
            { part: data.part ?? '', key, share: Number(share) / 100, by: way === 'share' ? null : by, each: Number(each) || 1 },
            { onSuccess: (d) => onPart(d.part) },
          )
        }
      >
        Draw it there
      </Button>
      <Trouble error={draw.error} />
    </Property>
  )
}
