import { BarChart, BoxplotChart, CustomChart, GraphChart, LineChart, ScatterChart } from 'echarts/charts'
import { GridComponent, MarkLineComponent, TooltipComponent } from 'echarts/components'
import { type EChartsType, init, registerTheme, use as include } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { tick } from './format'
import { tokens } from './theme'

include([
  BarChart,
  LineChart,
  ScatterChart,
  CustomChart,
  BoxplotChart,
  GraphChart,
  GridComponent,
  TooltipComponent,
  MarkLineComponent,
  SVGRenderer,
])

const axis = {
  axisLine: { lineStyle: { color: tokens.ink } },
  axisTick: { lineStyle: { color: tokens.ink } },
  axisLabel: { color: tokens.inkSoft, fontSize: 11 },
  splitLine: { lineStyle: { color: tokens.rule, opacity: 0.6 } },
  nameTextStyle: { color: tokens.inkSoft, fontSize: 11 },
}

registerTheme('ledger', {
  color: tokens.series,
  textStyle: { fontFamily: '"Public Sans Variable", sans-serif', color: tokens.ink },
  animation: false,
  valueAxis: { ...axis, axisLabel: { ...axis.axisLabel, formatter: tick } },
  categoryAxis: axis,
  tooltip: { backgroundColor: tokens.ink, borderWidth: 0, textStyle: { color: tokens.paper, fontSize: 12 }, padding: [4, 8] },
})

export function start(element: HTMLElement): EChartsType {
  return init(element, 'ledger', { renderer: 'svg' })
}
