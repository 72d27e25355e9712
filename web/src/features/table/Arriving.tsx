import { whole } from '../../ui/format'
import { Ledger } from '../../ui/Ledger'
import { registerColumns } from './registerColumns'
import { type Column, useRegister } from '../../data/table'

const columns = [
  ...registerColumns(new Map(), [0, 1], [], false, true).filter((c) => ['name', 'kind', 'missing', 'distinct', 'shape'].includes(c.key)),
  {
    key: 'first',
    title: 'Found in',
    cell: (c: Column) =>
      c.first === null ? <b>every record</b> : <span className="brass">the first {whole(c.first)} records so far</span>,
  },
]

/** The columns of a table that is being read: at once from its beginning, then each from all of it. */
export function Arriving({ tableId }: { tableId: number }) {
  const table = useRegister(tableId)
  const rows = [...(table.data?.columns ?? [])].sort((a, b) => a.position - b.position)
  if (rows.length === 0)
    return (
      <p className="soft" style={{ padding: 14 }}>
        The first columns show in a moment.
      </p>
    )
  return <Ledger label="Columns so far" columns={columns} rows={rows} rowKey={(c) => c.id} lineNumber={(c) => c.position + 1} />
}
