import { LineChart } from 'echarts/charts'
import {
  DataZoomComponent,
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from 'echarts/components'
import { init, use as register, type EChartsType } from 'echarts/core'
import { LabelLayout } from 'echarts/features'
import { CanvasRenderer } from 'echarts/renderers'
import { useEffect, useMemo, useRef, type RefObject } from 'react'
import type { EChartsOption } from 'echarts'
import type { Palette } from '../ground/palette'
import { useColours } from '../ground/useGround'

register([
  LineChart,
  GridComponent,
  TooltipComponent,
  DataZoomComponent,
  MarkAreaComponent,
  MarkLineComponent,
  LabelLayout,
  CanvasRenderer,
])

/** How charts are written and drawn on this ground. */
export function chartInk(colours: Palette) {
  const { voice, bed, softInk: soft, line, graph, fault } = colours
  const font = { fontFamily: "'Atkinson Hyperlegible Next', sans-serif", fontSize: 12, color: soft }
  return { voice, bed, soft, line, graph, fault, font }
}
export type ChartInk = ReturnType<typeof chartInk>

export function useChartInk(): ChartInk {
  const colours = useColours()
  return useMemo(() => chartInk(colours), [colours])
}

/** A chart in an element, as large as it, drawn anew when its option changes. */
export function useChart(
  option: EChartsOption,
  onReady?: (chart: EChartsType) => void,
): RefObject<HTMLDivElement | null> {
  const element = useRef<HTMLDivElement>(null)
  const chart = useRef<EChartsType | null>(null)
  const ready = useRef(onReady)
  useEffect(() => {
    chart.current = init(element.current!)
    ready.current?.(chart.current)
    const observer = new ResizeObserver(() => chart.current?.resize())
    observer.observe(element.current!)
    return () => {
      observer.disconnect()
      chart.current?.dispose()
    }
  }, [])
  useEffect(() => {
    chart.current?.setOption(option, { replaceMerge: ['series'] })
  }, [option])
  return element
}
