import { LineChart } from 'echarts/charts'
import {
  DataZoomComponent,
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from 'echarts/components'
import { init, use as register, type EChartsType } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { useEffect, useRef, type RefObject } from 'react'
import type { EChartsOption } from 'echarts'

register([
  LineChart,
  GridComponent,
  TooltipComponent,
  DataZoomComponent,
  MarkAreaComponent,
  MarkLineComponent,
  CanvasRenderer,
])

export const INK = {
  voice: '#b0204f',
  bed: '#12647a',
  soft: '#46535f',
  line: '#c6d2d7',
  graph: '#e1e9ec',
  fault: '#b83a12',
}
export const CHART_FONT = { fontFamily: "'Atkinson Hyperlegible Next', sans-serif", fontSize: 12, color: INK.soft }

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
