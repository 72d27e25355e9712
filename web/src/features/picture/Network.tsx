import { Slider } from '@mui/material'
import { useMemo } from 'react'
import { useAddress } from '../../ui/address'
import { Chart } from '../../ui/Chart'
import { fixed } from '../../ui/format'
import { tokens } from '../../ui/theme'
import type { Pair, Together } from '../../data/picture'
import { clear, networkTitle } from './titles'

function links(data: Together, threshold: number): Pair[] {
  return data.pairs.filter((p) => clear(p) && Math.abs(p.strength) >= threshold)
}

/** Columns on a ring in the order of the map, so that like is near like; lines where they go together strongly enough. */
export function Network({
  data,
  threshold,
  target,
  draw,
}: {
  data: Together
  threshold: number
  target: string | null
  draw: (x: string, y: string) => void
}) {
  const [, set] = useAddress()
  const drawn = useMemo(() => links(data, threshold), [data, threshold])
  const linked = useMemo(() => new Set(drawn.flatMap((p) => [p.first, p.second])), [drawn])
  const option = useMemo(() => {
    return {
      tooltip: {
        formatter: (item: { dataType?: string; dataIndex: number; name: string }) => {
          const p = drawn[item.dataIndex]
          return item.dataType === 'edge' && p ? `${p.first} with ${p.second}: ${p.measure} ${fixed(p.strength, 2)}` : item.name
        },
      },
      series: [
        {
          type: 'graph',
          layout: 'circular',
          circular: { rotateLabel: true },
          left: 150,
          right: 150,
          top: 110,
          bottom: 110,
          data: data.order.map((name) => ({
            id: name,
            name,
            symbolSize: linked.has(name) ? 9 : 5,
            itemStyle: { color: name === target ? tokens.verdigris : linked.has(name) ? tokens.ink : tokens.ruleFirm },
            label: {
              show: true,
              color: linked.has(name) ? tokens.ink : tokens.inkSoft,
              fontWeight: name === target ? 'bold' : 'normal',
              fontSize: 12,
            },
          })),
          links: drawn.map((p) => ({
            source: p.first,
            target: p.second,
            lineStyle: {
              width: 0.8 + 5 * Math.abs(p.strength),
              opacity: 0.75,
              curveness: 0.25,
              color: p.measure !== 'rank correlation' ? tokens.verdigris : p.strength < 0 ? '#46648F' : '#B9771F',
              type: p.measure === 'rank correlation' && p.strength < 0 ? 'dashed' : 'solid',
            },
          })),
        },
      ],
    }
  }, [data, drawn, linked, target])
  return (
    <>
      <Chart
        title={networkTitle(data, threshold)}
        sub="Columns on a ring, like by like; a line where two go together at least so strongly, the thicker the stronger."
        option={option}
        height={490}
        name="network-of-columns"
        onPick={(index) => {
          const p = drawn[index]
          if (p) draw(p.first, p.second)
        }}
        onPickRow={(i) => draw(drawn[i]!.first, drawn[i]!.second)}
        pickLabel="Draw them"
        data={{
          heads: ['one', 'other', 'measure', 'strength'],
          rows: drawn.map((p) => [p.first, p.second, p.measure, fixed(p.strength)]),
        }}
        how={
          <p>
            A line joins two columns that go together at least as strongly as the threshold says and more than chance gives. Ochre: both
            rise together; blue, dashed: one falls; green: with a category. Columns without a line say something of their own, or nothing.
          </p>
        }
      />
      <label style={{ display: 'flex', gap: 16, alignItems: 'center', maxWidth: 420 }}>
        <span className="small one-line">Linked from {fixed(threshold, 2)}</span>
        <Slider
          size="small"
          aria-label="Linked from a strength of"
          value={threshold}
          min={0.05}
          max={0.95}
          step={0.05}
          onChange={(_, v) => set({ from: String(v) })}
        />
      </label>
    </>
  )
}

export function NetworkThumb({ data, threshold }: { data: Together; threshold: number }) {
  const k = data.order.length
  const at = (name: string) => {
    const a = (2 * Math.PI * data.order.indexOf(name)) / Math.max(1, k)
    return [35 + 26 * Math.cos(a), 27 + 22 * Math.sin(a)] as const
  }
  return (
    <svg width={70} height={54} aria-hidden="true">
      {links(data, threshold)
        .slice(0, 60)
        .map((p) => {
          const [x1, y1] = at(p.first)
          const [x2, y2] = at(p.second)
          return (
            <line
              key={`${p.first}|${p.second}`}
              x1={x1}
              y1={y1}
              x2={x2}
              y2={y2}
              stroke={tokens.ink}
              strokeWidth={0.4 + 1.6 * Math.abs(p.strength)}
            />
          )
        })}
      {data.order.map((name) => (
        <circle key={name} cx={at(name)[0]} cy={at(name)[1]} r={1.6} fill={tokens.ink} />
      ))}
    </svg>
  )
}
