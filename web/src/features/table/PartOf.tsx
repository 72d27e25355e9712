import { count, whole } from '../../ui/format'
import { Slot } from '../../ui/Slot'
import type { Reading } from '../../data/table'
import { Property, Word } from './Property'
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
    </>
  )
}
