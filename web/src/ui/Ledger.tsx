import { Table, TableBody, TableCell, TableFooter, TableHead, TableRow } from '@mui/material'
import { useVirtualizer } from '@tanstack/react-virtual'
import { isValidElement, type KeyboardEvent, memo, type ReactNode, useRef } from 'react'
import { useWidth } from './useWidth'

export type LedgerColumn<T> = {
  key: string
  title: ReactNode
  cell: (row: T, index: number) => ReactNode
  number?: boolean
  width?: number | string
  sortable?: boolean
  className?: string
  /** Room that a column without a width of its own needs to be read. */
  least?: number
  /** The order in which columns give way where room is short, 1 first; what gave way is said on a second line of the column without a width. */
  gives?: number
  /** What is said there; what stands in the cell, after its title, where it is not given. Nothing for false or empty. */
  said?: (row: T) => ReactNode
}

type Props<T> = {
  label: string
  columns: LedgerColumn<T>[]
  rows: T[]
  rowKey: (row: T) => string | number
  selected?: string | number | null
  onSelect?: (row: T) => void
  onOpen?: (row: T) => void
  sort?: { key: string; descending: boolean }
  onSort?: (key: string) => void
  rowClass?: (row: T) => string
  /** Told which columns are in sight, so that its cells stand under them. */
  footer?: (isShown: (key: string) => boolean) => ReactNode
  lineNumber?: (row: T, index: number) => ReactNode
  rowHeight?: number
}

/** Room for the line numbers, and for what stands beside them. */
function lineWidth<T>(rows: T[], lineNumber: (row: T, index: number) => ReactNode): number {
  const ends = rows.length === 0 ? [] : [lineNumber(rows[0]!, 0), lineNumber(rows[rows.length - 1]!, rows.length - 1)]
  if (ends.some((e) => typeof e === 'object')) return rows.length >= 1000 ? 58 : 46
  return Math.max(34, ...ends.map((e) => 10 + 8 * String(e).length))
}

/** What a cell says, as far as it is plain text. */
function textOf(node: ReactNode): string {
  if (typeof node === 'string' || typeof node === 'number') return String(node)
  if (Array.isArray(node)) return node.map(textOf).join('')
  return isValidElement<{ children?: ReactNode }>(node) ? textOf(node.props.children) : ''
}

/** A column of figures is as wide as its widest one: a number is never cut. */
function widthOf<T>(column: LedgerColumn<T>, rows: T[]): number | string | undefined {
  if (!column.number || typeof column.width !== 'number') return column.width
  const step = Math.max(1, Math.floor(rows.length / 200))
  let most = 0
  for (let i = 0; i < rows.length; i += step) most = Math.max(most, textOf(column.cell(rows[i]!, i)).length)
  return Math.max(column.width, 14 + 7.6 * most)
}

/** The columns that fit, and those that gave way. Where nothing can be measured all of them stand. */
function fitting<T>(columns: LedgerColumn<T>[], rows: T[], lines: number, room: number | null): [LedgerColumn<T>[], LedgerColumn<T>[]] {
  if (room === null || !columns.some((c) => c.gives !== undefined)) return [columns, []]
  const needs = (c: LedgerColumn<T>) => {
    const width = widthOf(c, rows)
    return typeof width === 'number' ? width : (c.least ?? 0)
  }
  const out = columns.filter((c) => c.gives !== undefined).sort((a, b) => a.gives! - b.gives!)
  let total = lines + columns.reduce((sum, c) => sum + needs(c), 0)
  const gone = new Set<LedgerColumn<T>>()
  for (const c of out) {
    if (total <= room) break
    total -= needs(c)
    gone.add(c)
  }
  return [columns.filter((c) => !gone.has(c)), columns.filter((c) => gone.has(c))]
}

type LineProps<T> = {
  row: T
  index: number
  columns: LedgerColumn<T>[]
  under: LedgerColumn<T>[]
  chosen: boolean
  reachable: boolean
  rowHeight: number
  rowClass: ((row: T) => string) | undefined
  onSelect: ((row: T) => void) | undefined
  onOpen: ((row: T) => void) | undefined
  lineNumber: ((row: T, index: number) => ReactNode) | undefined
}

function OneLine<T>({ row, index, columns, under, chosen, reachable, rowHeight, rowClass, onSelect, onOpen, lineNumber }: LineProps<T>) {
  const main = Math.max(
    0,
    columns.findIndex((c) => c.width === undefined),
  )
  return (
    <TableRow
      data-row={index}
      className={`${chosen ? 'sel' : ''} ${onSelect ? 'pick' : ''} ${rowClass?.(row) ?? ''}`}
      aria-selected={onSelect ? chosen : undefined}
      tabIndex={onSelect ? (reachable ? 0 : -1) : undefined}
      onClick={onSelect ? () => onSelect(row) : undefined}
      onDoubleClick={onOpen ? () => onOpen(row) : undefined}
      style={{ height: rowHeight }}
    >
      {lineNumber && <TableCell className="ln">{lineNumber(row, index)}</TableCell>}
      {columns.map((c, i) => (
        <TableCell key={c.key} className={`${c.number ? 'n' : ''} ${c.className ?? ''}`}>
          {c.cell(row, index)}
          {i === main && under.length > 0 && (
            <div className="under">
              {under
                .filter((u) => !u.said || u.said(row))
                .map((u) => (
                  <span key={u.key}>
                    {u.said ? (
                      u.said(row)
                    ) : (
                      <>
                        {typeof u.title === 'string' && `${u.title} `}
                        {u.cell(row, index)}
                      </>
                    )}
                  </span>
                ))}
            </div>
          )}
        </TableCell>
      ))}
    </TableRow>
  )
}

/** Scrolling draws the lines that come into sight, and no other again. */
const Line = memo(OneLine) as typeof OneLine

/**
 * A ledger: hairlines, tabular figures, the selected line marked by an ink bar. J and K or the arrows move, Enter opens. Long lists
 * are drawn only where they are seen.
 */
export function Ledger<T>({
  label,
  columns: all,
  rows,
  rowKey,
  selected,
  onSelect,
  onOpen,
  sort,
  onSort,
  rowClass,
  footer,
  lineNumber,
  rowHeight: lineHeight = 24,
}: Props<T>) {
  const scroller = useRef<HTMLDivElement>(null)
  const room = useWidth(scroller)
  const [columns, under] = fitting(all, rows, lineNumber ? lineWidth(rows, lineNumber) : 0, room)
  const rowHeight = under.length > 0 ? lineHeight + 17 : lineHeight
  const long = rows.length > 120
  const virtual = useVirtualizer({
    count: long ? rows.length : 0,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  })
  const items = long ? virtual.getVirtualItems().map((v) => v.index) : rows.map((_, i) => i)
  const first = items[0] ?? 0
  const last = items[items.length - 1] ?? -1
  const place = rows.findIndex((r) => rowKey(r) === selected)

  function move(step: number) {
    const next = rows[Math.min(rows.length - 1, Math.max(0, place + step))]
    if (next === undefined || !onSelect) return
    onSelect(next)
    const index = rows.indexOf(next)
    if (long) virtual.scrollToIndex(index)
    requestAnimationFrame(() => scroller.current?.querySelector<HTMLElement>(`[data-row="${index}"]`)?.focus())
  }

  function onKey(event: KeyboardEvent) {
    if ((event.target as HTMLElement).closest('input, select, textarea, [role=menu]')) return
    if (event.key === 'j' || event.key === 'J' || event.key === 'ArrowDown') move(1)
    else if (event.key === 'k' || event.key === 'K' || event.key === 'ArrowUp') move(-1)
    else if (event.key === 'Enter' && (event.target as HTMLElement).tagName === 'TR' && rows[place] !== undefined)
      (onOpen ?? onSelect)?.(rows[place])
    else return
    event.preventDefault()
  }

  return (
    <div
      className="scroll"
      ref={scroller}
      onKeyDown={onKey}
      data-ledger
      tabIndex={onSelect && rows.length > 0 ? undefined : 0}
      role={onSelect ? undefined : 'region'}
      aria-label={onSelect ? undefined : label}
    >
      <Table className="ledger" size="small" aria-label={label}>
        <TableHead>
          <TableRow>
            {lineNumber && (
              <TableCell className="ln" style={{ width: lineWidth(rows, lineNumber) }}>
                <span className="sr">Line</span>
              </TableCell>
            )}
            {columns.map((c) => (
              <TableCell
                key={c.key}
                className={`${c.number ? 'n' : ''} ${sort?.key === c.key ? 'sorted' : ''} ${c.className ?? ''}`}
                style={{ width: widthOf(c, rows) }}
                aria-sort={sort?.key === c.key ? (sort.descending ? 'descending' : 'ascending') : undefined}
              >
                {c.sortable && onSort ? (
                  <button type="button" onClick={() => onSort(c.key)}>
                    {sort?.key === c.key && (sort.descending ? '▾ ' : '▴ ')}
                    {c.title}
                  </button>
                ) : (
                  c.title
                )}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {long && first > 0 && (
            <TableRow aria-hidden="true">
              <td style={{ height: first * rowHeight, padding: 0 }} />
            </TableRow>
          )}
          {items.map((index) => {
            const row = rows[index] as T
            const chosen = selected != null && rowKey(row) === selected
            return (
              <Line
                key={rowKey(row)}
                row={row}
                index={index}
                columns={columns}
                under={under}
                chosen={chosen}
                reachable={chosen || (place < 0 && index === 0)}
                rowHeight={rowHeight}
                rowClass={rowClass}
                onSelect={onSelect}
                onOpen={onOpen}
                lineNumber={lineNumber}
              />
            )
          })}
          {long && last < rows.length - 1 && (
            <TableRow aria-hidden="true">
              <td style={{ height: (rows.length - 1 - last) * rowHeight, padding: 0 }} />
            </TableRow>
          )}
        </TableBody>
        {footer && <TableFooter>{footer((key) => columns.some((c) => c.key === key))}</TableFooter>}
      </Table>
    </div>
  )
}
