import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Link, Menu, MenuItem } from '@mui/material'
import type { EChartsCoreOption, EChartsType } from 'echarts/core'
import { type ReactNode, useEffect, useRef, useState } from 'react'
import { LARGER, useRoomy } from './useWidth'

type TableData = { heads: string[]; rows: (string | number | null)[][] }

/** A picture with what every picture has: a title that states the finding, a text alternative, saving, and how to read it. */
export function Chart({
  title,
  sub,
  option,
  drawn,
  data,
  how,
  height,
  onPick,
  onPickRow,
  pickLabel = 'Records behind it',
  name,
}: {
  title: ReactNode
  sub?: ReactNode
  option?: EChartsCoreOption
  /** An own drawing instead of an option: one svg with colors written out, so that it can be saved. */
  drawn?: ReactNode
  data: TableData
  how: ReactNode
  height: number
  onPick?: (index: number, series: number) => void
  /** What a click in the picture does, for a line of its table: the way by keyboard. */
  onPickRow?: (row: number) => void
  pickLabel?: string
  name: string
}) {
  const box = useRef<HTMLDivElement>(null)
  const chart = useRef<EChartsType | null>(null)
  const pick = useRef(onPick)
  useEffect(() => {
    pick.current = onPick
  }, [onPick])
  const scale = useRoomy() ? LARGER : 1
  const [reading, setReading] = useState(false)
  const [asTable, setAsTable] = useState(false)
  const [saveAt, setSaveAt] = useState<HTMLElement | null>(null)

  useEffect(() => {
    if (!option) return
    let gone = false
    let observer: ResizeObserver | null = null
    // The drawing library is large: it comes only when a picture is shown.
    void import('./echarts').then(({ start }) => {
      if (gone || !box.current) return
      chart.current = start(box.current)
      chart.current.setOption(option)
      chart.current.on('click', (event) => pick.current?.(event.dataIndex ?? -1, event.seriesIndex ?? 0))
      observer = new ResizeObserver(() => chart.current?.resize())
      observer.observe(box.current)
    })
    return () => {
      gone = true
      observer?.disconnect()
      chart.current?.dispose()
      chart.current = null
    }
    // The picture is made once; changed figures go through the effect below.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [asTable])
  useEffect(() => {
    if (option) chart.current?.setOption(option, { notMerge: true })
  }, [option])

  function save(kind: 'png' | 'svg' | 'csv') {
    setSaveAt(null)
    if (kind === 'csv') {
      const quote = (v: string | number | null) => `"${String(v ?? '').replace(/"/g, '""')}"`
      return download(
        new Blob([[data.heads, ...data.rows].map((r) => r.map(quote).join(',')).join('\r\n')], { type: 'text/csv' }),
        `${name}.csv`,
      )
    }
    const svg = box.current?.querySelector('svg')
    if (!svg) return
    const text = new XMLSerializer().serializeToString(svg)
    const blob = new Blob([text], { type: 'image/svg+xml' })
    if (kind === 'svg') return download(blob, `${name}.svg`)
    const image = new Image()
    image.onload = () => {
      const canvas = document.createElement('canvas')
      canvas.width = svg.clientWidth * 2
      canvas.height = svg.clientHeight * 2
      const pen = canvas.getContext('2d')
      if (!pen) return
      pen.fillStyle = '#FFFDF8'
      pen.fillRect(0, 0, canvas.width, canvas.height)
      pen.drawImage(image, 0, 0, canvas.width, canvas.height)
      canvas.toBlob((png) => png && download(png, `${name}.png`))
    }
    image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`
  }

  return (
    <figure>
      <h3 className="fig-title">{title}</h3>
      {sub && <p className="fig-sub">{sub}</p>}
      {asTable ? (
        <DataTable data={data} height={height} onPickRow={onPickRow} pickLabel={pickLabel} />
      ) : (
        <div
          ref={box}
          style={option ? { height: scale * height } : { minHeight: scale * height, overflow: 'auto' }}
          role={option ? 'img' : 'group'}
          aria-label={`${typeof title === 'string' ? title : name}. The figures are in the table behind "As a table".`}
        >
          {drawn && scale > 1 ? <div style={{ zoom: scale }}>{drawn}</div> : drawn}
        </div>
      )}
      <p className="fig-foot">
        <Link component="button" type="button" onClick={() => setReading(true)}>
          How to read this
        </Link>
        <Link component="button" type="button" onClick={() => setAsTable(!asTable)}>
          {asTable ? 'As a picture' : 'As a table'}
        </Link>
        <Link component="button" type="button" onClick={(e) => setSaveAt(e.currentTarget)}>
          Save
        </Link>
      </p>
      <Menu open={saveAt !== null} anchorEl={saveAt} onClose={() => setSaveAt(null)}>
        {!asTable && <MenuItem onClick={() => save('png')}>PNG picture</MenuItem>}
        {!asTable && <MenuItem onClick={() => save('svg')}>SVG drawing</MenuItem>}
        <MenuItem onClick={() => save('csv')}>CSV figures</MenuItem>
      </Menu>
      <Dialog open={reading} onClose={() => setReading(false)} maxWidth="sm">
        <DialogTitle>How to read this</DialogTitle>
        <DialogContent>{how}</DialogContent>
        <DialogActions>
          <Button onClick={() => setReading(false)}>Close</Button>
        </DialogActions>
      </Dialog>
    </figure>
  )
}

function DataTable({
  data,
  height,
  onPickRow,
  pickLabel,
}: {
  data: TableData
  height: number
  onPickRow: ((row: number) => void) | undefined
  pickLabel: string
}) {
  return (
    <div style={{ height, overflow: 'auto' }} tabIndex={0} role="region" aria-label="The figures as a table">
      <table className="ledger">
        <thead>
          <tr>
            {data.heads.map((h) => (
              <th key={h}>{h}</th>
            ))}
            {onPickRow && (
              <th>
                <span className="sr">Open</span>
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {data.rows.map((row, i) => (
            <tr key={i}>
              {row.map((cell, j) => (
                <td key={j}>{cell ?? '–'}</td>
              ))}
              {onPickRow && (
                <td>
                  <button type="button" className="link" onClick={() => onPickRow(i)}>
                    {pickLabel}
                  </button>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

function download(blob: Blob, name: string) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(blob)
  link.download = name
  link.click()
  URL.revokeObjectURL(link.href)
}
