import { useMemo } from 'react'
import { useNavigate } from 'react-router'
import { Chart } from '../../ui/Chart'
import { date, fixed, number, share, whole, withInterval } from '../../ui/format'
import { tokens } from '../../ui/theme'
import { type Condition, recordsPath, rowsPath } from '../../data/conditions'
import type { Two } from '../../data/picture'
import { MosaicDrawing } from './Mosaic'
import { twoTitle } from './titles'

type Props = { data: Two; event: string | null; target: string | null; studyId: number; tableId: number }
type Api = { value: (i: number) => number; coord: (p: number[]) => number[]; size?: (p: number[]) => number[] }

const forms = {
  points: 'Each point a record',
  density: 'The fuller the more records',
  boxes: 'A box per value',
  mosaic: 'Width and height are shares of the records',
  line: 'Over time',
}

/** Any two columns in the form that their kinds want, colored by the event's share where there is a target. */
export function TwoPicture({ data, event, target, studyId, tableId }: Props) {
  const go = useNavigate()
  const told = event !== null && target !== data.x && target !== data.y
  const top = useMemo(() => Math.max(0.01, ...data.parts.map((p) => ('share' in p && p.judged >= 15 ? (p.share ?? 0) : 0))), [data])
  const behind = (i: number) => {
    const p = data.parts[i]
    if (p) void go(pathOf(data, p, studyId, tableId))
  }
  const option = useMemo(() => (data.form === 'mosaic' ? undefined : optionOf(data, told, top)), [data, told, top])
  const p = data.pair
  const sub = [
    `${forms[data.form]}; ${whole(data.records)} records where both are present.`,
    p
      ? `${p.measure[0]!.toUpperCase()}${p.measure.slice(1)} ${withInterval(p.strength, p.low, p.high, 2)}${p.pearson != null ? `, Pearson ${fixed(p.pearson, 2)}` : ''}.`
      : '',
    told ? `Green: the share of “${event}”, on rows that are not sealed.` : '',
  ].join(' ')
  return (
    <Chart
      key={`${data.x} ${data.y}`}
      title={twoTitle(data)}
      sub={sub}
      {...(option ? { option } : {})}
      {...(data.form === 'mosaic'
        ? { drawn: <MosaicDrawing parts={data.parts} x={data.x} y={data.y} told={told} top={top} onPick={behind} /> }
        : {})}
      height={460}
      name={`${data.x}-and-${data.y}`}
      onPick={(index, series) => {
        // The values beyond the fences of a box are a series of their own.
        if (data.form === 'boxes' && series === 1) {
          const all = data.parts.flatMap((b) => b.apart)
          if (all[index]) void go(recordsPath(studyId, tableId, [all[index].row + 1]))
        } else behind(index)
      }}
      onPickRow={behind}
      data={tableOf(data, event)}
      how={
        <>
          <p>{explain[data.form]}</p>
          {told && (
            <p>
              The greener a part, the larger the share of “{event}” among its records whose outcome is known and not sealed. A part with
              fewer than 15 of them is left gray: its share would be chance.
            </p>
          )}
        </>
      }
    />
  )
}

const explain = {
  points: 'Each point is a record. A click opens it.',
  density:
    'So many records would cover each other: the picture counts them in small parts. The parts at the edges hold everything beyond them.',
  boxes:
    'The box holds the middle half of the records with that value, its line is the median; the whiskers reach to the last values inside Tukey’s fences, and dots lie beyond them.',
  mosaic:
    'The width of a column is the share of records with that value, the height of a tile the share within it. Where all columns are cut at the same heights, the two have nothing to do with each other.',
  line: 'The mean of a number, or the share of a value, in each period, with its 95% interval. A step is more than noise where intervals part.',
}

function color(judged: number, value: number | null, top: number, told: boolean): string {
  if (!told || judged < 15 || value === null) return '#B9AF9B'
  const t = Math.min(1, value / top)
  const mix = (a: number, b: number) => Math.round(a + (b - a) * t)
  return `rgb(${mix(226, 27)},${mix(232, 110)},${mix(222, 98)})`
}

function optionOf(data: Two, told: boolean, top: number): Record<string, unknown> {
  const grid = { left: 64, right: 24, top: 16, bottom: 54 }
  const axes = (xType: string, more: object = {}) => ({
    grid,
    xAxis: {
      type: xType,
      name: data.x,
      nameLocation: 'middle',
      nameGap: 34,
      scale: true,
      ...(xType === 'value' ? { axisLabel: { alignMaxLabel: 'right', hideOverlap: true } } : {}),
      ...more,
    },
    yAxis: { type: 'value', name: data.y, nameLocation: 'middle', nameGap: 48, scale: true },
  })
  if (data.form === 'points')
    return {
      ...axes('value'),
      tooltip: {
        formatter: (i: { dataIndex: number }) => {
          const p = data.parts[i.dataIndex]!
          return `Record ${p.row + 1}: ${number(p.x)}, ${number(p.y)}`
        },
      },
      series: [
        {
          type: 'scatter',
          symbolSize: 6,
          data: data.parts.map((p) => ({
            value: [p.x, p.y],
            symbol: told && p.event ? 'diamond' : 'circle',
            itemStyle: { color: told && p.event ? tokens.verdigris : '#B9AF9B', opacity: 0.7 },
          })),
        },
      ],
    }
  if (data.form === 'density') {
    const most = Math.max(1, ...data.parts.map((p) => p.records))
    return {
      ...axes('value'),
      tooltip: {
        formatter: (i: { dataIndex: number }) => {
          const p = data.parts[i.dataIndex]!
          return `${data.x} ${number(p.fromX)} to ${number(p.toX)}, ${data.y} ${number(p.fromY)} to ${number(p.toY)}: ${whole(p.records)} records${told && p.judged >= 15 ? `, ${share(p.share)} (${share(p.low)} to ${share(p.high)})` : ''}`
        },
      },
      series: [
        {
          type: 'custom',
          encode: { x: [0, 1], y: [2, 3] },
          data: data.parts.map((p) => [p.x, p.x2, p.y, p.y2]),
          renderItem: (q: { dataIndex: number }, api: Api) => {
            const p = data.parts[q.dataIndex]!
            const a = api.coord([p.x, p.y2])
            const b = api.coord([p.x2, p.y])
            return {
              type: 'rect',
              shape: { x: a[0], y: a[1], width: Math.max(2, b[0]! - a[0]! - 0.5), height: Math.max(2, b[1]! - a[1]! - 0.5) },
              style: { fill: color(p.judged, p.share, top, told), opacity: 0.25 + 0.75 * Math.sqrt(p.records / most) },
            }
          },
        },
      ],
    }
  }
  if (data.form === 'boxes') {
    const parts = data.parts
    return {
      ...axes('category', {
        data: parts.map((b) => b.value),
        axisLabel: { rotate: parts.some((b) => b.value.length > 7) ? 30 : 0, width: 90, overflow: 'truncate', interval: 0 },
      }),
      tooltip: {
        formatter: (i: { dataIndex: number; seriesIndex: number }) => {
          if (i.seriesIndex === 1) {
            const a = parts.flatMap((b) => b.apart)[i.dataIndex]
            return a ? `Record ${a.row + 1}: ${number(a.value)}` : ''
          }
          const b = parts[i.dataIndex]!
          return `${b.value}: ${whole(b.records)} records, median ${number(b.median)}, middle half ${number(b.q1)} to ${number(b.q3)}${told && b.judged >= 15 ? `, ${share(b.share)}` : ''}`
        },
      },
      series: [
        {
          type: 'boxplot',
          boxWidth: [8, 34],
          data: parts.map((b) => ({
            value: [b.low, b.q1, b.median, b.q3, b.high],
            itemStyle: { color: color(b.judged, b.share, top, told), borderColor: tokens.ink },
          })),
        },
        {
          type: 'scatter',
          symbolSize: 4,
          itemStyle: { color: tokens.brass, opacity: 0.7 },
          data: parts.flatMap((b, i) => b.apart.map((a) => [i, a.value])),
        },
      ],
    }
  }
  if (data.form !== 'line') return {}
  const periods = [...new Map(data.parts.map((p) => [p.from, p])).values()]
  const names = [...new Set(data.parts.map((p) => p.of))]
  const isShare = names[0] !== null
  return {
    grid: { ...grid, right: names.length > 1 ? 110 : 24 },
    tooltip: {
      formatter: (i: { dataIndex: number; seriesIndex: number }) => {
        const p = data.parts.filter((o) => o.of === names[Math.floor(i.seriesIndex / 2)])[i.dataIndex]
        return p
          ? `${date(p.from)} to ${date(p.to)}: ${isShare ? `${p.of} ${share(p.value)} (${share(p.valueLow)} to ${share(p.valueHigh)})` : `${number(p.value)} (${number(p.valueLow)} to ${number(p.valueHigh)})`}, ${whole(p.records)} records`
          : ''
      },
    },
    xAxis: {
      type: 'category',
      data: periods.map((p) => date(p.from).replace(/^1 /, '')),
      name: data.x,
      nameLocation: 'middle',
      nameGap: 38,
      axisLabel: { rotate: 30 },
    },
    yAxis: {
      type: 'value',
      scale: true,
      name: isShare ? `share of ${data.y}` : data.y,
      nameLocation: 'middle',
      nameGap: 48,
      ...(isShare ? { axisLabel: { formatter: (v: number) => `${Math.round(100 * v)}%` } } : {}),
    },
    series: names.flatMap((name, n) => {
      const own = data.parts.filter((p) => p.of === name)
      const paint = tokens.series[n % tokens.series.length]
      return [
        {
          type: 'line',
          data: own.map((p) => p.value),
          color: paint,
          symbol: ['circle', 'rect', 'triangle', 'diamond', 'roundRect', 'pin'][n % 6],
          symbolSize: 6,
          lineStyle: { width: 1.25, type: n % 2 === 1 ? 'dashed' : 'solid' },
          endLabel: names.length > 1 ? { show: true, formatter: name ?? '', color: paint } : undefined,
        },
        {
          type: 'custom',
          silent: true,
          encode: { x: 0, y: [1, 2] },
          data: own.map((p, i) => [i, p.valueLow, p.valueHigh]),
          renderItem: (_: unknown, api: Api) => {
            const a = api.coord([api.value(0), api.value(1)])
            const b = api.coord([api.value(0), api.value(2)])
            return { type: 'line', shape: { x1: a[0], y1: a[1], x2: b[0], y2: b[1] }, style: { stroke: paint, lineWidth: 1, opacity: 0.6 } }
          },
        },
      ]
    }),
  }
}

/** The conditions that describe a part of a picture, or its record. */
function pathOf(data: Two, part: Two['parts'][number], studyId: number, tableId: number): string {
  const c: Condition[] = []
  if ('row' in part) return recordsPath(studyId, tableId, [part.row + 1])
  if ('x2' in part)
    c.push([data.x, 'is between', String(part.fromX), String(part.toX)], [data.y, 'is between', String(part.fromY), String(part.toY)])
  else if ('median' in part) c.push([data.x, 'is', part.value])
  else if ('expected' in part) c.push([data.x, 'is', part.x], [data.y, 'is', part.y])
  else {
    c.push([data.x, 'is between', part.from, part.to])
    if (part.of !== null) c.push([data.y, 'is', part.of])
  }
  return rowsPath(studyId, tableId, c)
}

function tableOf(data: Two, event: string | null) {
  const told = event === null ? [] : [`“${event}”`, 'low', 'high']
  const shares = (p: { share: number | null; low: number | null; high: number | null }) =>
    event === null ? [] : [share(p.share), share(p.low), share(p.high)]
  switch (data.form) {
    case 'points':
      return { heads: ['record', data.x, data.y], rows: data.parts.map((p) => [p.row + 1, number(p.x), number(p.y)]) }
    case 'density':
      return {
        heads: [`${data.x} from`, 'to', `${data.y} from`, 'to ', 'records', ...told],
        rows: data.parts.map((p) => [number(p.x), number(p.toX), number(p.y), number(p.toY), p.records, ...shares(p)]),
      }
    case 'boxes':
      return {
        heads: [
          data.x,
          'records',
          'lower quartile',
          'median',
          'upper quartile',
          'beyond fences',
          ...(event === null ? [] : [`“${event}”`]),
        ],
        rows: data.parts.map((p) => [
          p.value,
          p.records,
          number(p.q1),
          number(p.median),
          number(p.q3),
          p.beyond,
          ...(event === null ? [] : [share(p.share)]),
        ]),
      }
    case 'mosaic':
      return {
        heads: [data.x, data.y, 'records', 'expected', ...told],
        rows: data.parts.map((p) => [p.x, p.y, p.records, number(p.expected), ...shares(p)]),
      }
    case 'line':
      return {
        heads: ['from', 'to', data.y, 'value', 'low', 'high', 'records'],
        rows: data.parts.map((p) => [
          p.from,
          p.to,
          p.of ?? 'mean',
          p.of === null ? number(p.value) : share(p.value),
          p.of === null ? number(p.valueLow) : share(p.valueLow),
          p.of === null ? number(p.valueHigh) : share(p.valueHigh),
          p.records,
        ]),
      }
  }
}
