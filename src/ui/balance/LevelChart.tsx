'use client'

import type { EChartsType } from 'echarts/core'
import { useCallback, useEffect, useMemo, useRef } from 'react'
import type { Timeline } from '@/core/lesson/timeline'
import type { BalancePicture } from '@/core/mix/balancePicture'
import { CORRIDOR, targetAt } from '@/core/mix/balanceSheet'
import type { MixPicture } from '@/workers/protocol'
import { say } from '@/messages/say'
import { clock, decimal, signed } from '../format'
import { useDesk, useTimeline } from '../lesson/context'
import { useFrames } from '../player/useFrames'
import { useChart, useChartInk, type ChartInk } from './chart'
import styles from './balance.module.css'

/** Room for the scale left of the chart, and right of it; the strip below stands under the same seconds. */
export const CHART_SIDES = { left: 52, right: 18 }
/** Softest level drawn. */
const LOWEST = -60
const HIGHEST = -10

/** A stretch of the lesson that is shown. */
export interface Shown {
  from: number
  to: number
}

interface LevelChartProps {
  mix: MixPicture
  balance: BalancePicture
  onShown: (shown: Shown) => void
}

/** The whole lesson's loudness: the voice, the bed in the mix, and the corridor the bed must keep. */
export function LevelChart({ mix, balance, onShown }: LevelChartProps) {
  const { player } = useDesk()
  const timeline = useTimeline()
  const ink = useChartInk()
  const option = useMemo(() => optionOf(mix, balance, timeline, ink), [mix, balance, timeline, ink])
  const shared = useRef<EChartsType | null>(null)
  const onReady = useCallback(
    (chart: EChartsType) => {
      shared.current = chart
      chart.on('datazoom', () => {
        const [zoom] = chart.getOption().dataZoom as { startValue: number; endValue: number }[]
        if (zoom) onShown({ from: zoom.startValue, to: zoom.endValue })
      })
      chart.getZr().on('click', ({ offsetX, offsetY }) => {
        if (!chart.containPixel({ gridIndex: 0 }, [offsetX, offsetY])) return
        player.seek(Math.max(0, chart.convertFromPixel({ xAxisIndex: 0 }, offsetX)))
      })
    },
    [player, onShown],
  )
  const element = useChart(option, onReady)
  const playhead = useRef<HTMLSpanElement>(null)
  const move = useCallback(() => {
    const chart = shared.current
    if (!chart || !playhead.current) return
    const x = chart.convertToPixel({ xAxisIndex: 0 }, player.position())
    const within = x >= CHART_SIDES.left - 1 && x <= chart.getWidth() - CHART_SIDES.right + 1
    playhead.current.style.display = within ? 'block' : 'none'
    playhead.current.style.transform = `translateX(${x}px)`
  }, [player])
  useFrames(move)
  useEffect(() => {
    const chart = shared.current
    // Drawn to another scale, the same second lies elsewhere.
    chart?.on('rendered', move)
    return () => void chart?.off('rendered', move)
  }, [move])
  return (
    <div className={styles.levels}>
      <div ref={element} className={styles.chart} role="img" aria-label={say('balance.loudnessOfVoiceAnd')} />
      <span ref={playhead} className={styles.playhead} />
    </div>
  )
}

function optionOf(mix: MixPicture, balance: BalancePicture, timeline: Timeline, ink: ChartInk) {
  const points = (track: Float32Array): [number, number | null][] =>
    Array.from(track, (level, i) => [i / 10, level > LOWEST - 10 ? Number(level.toFixed(2)) : null])
  // The voice is drawn as the clearance is measured, over 3 s inside a sentence: where the corridor hangs from it.
  const voice = corridorLine(balance, mix.voice.length, ({ low: edge, at }) => edge + CORRIDOR + targetOf(mix, at))
  const low = corridorLine(balance, mix.voice.length, ({ low: edge }) => edge)
  const band = corridorLine(balance, mix.voice.length, () => 2 * CORRIDOR)
  return {
    animation: false,
    textStyle: ink.font,
    grid: { left: CHART_SIDES.left, right: CHART_SIDES.right, top: 14, bottom: 48 },
    tooltip: {
      trigger: 'axis' as const,
      formatter: (hits: unknown) => sayMoment(hits as { value: [number, number] }[], mix, timeline),
    },
    xAxis: {
      type: 'value' as const,
      min: 0,
      max: Math.max(1, timeline.length),
      axisLabel: { ...ink.font, formatter: (seconds: number) => clock(seconds, false) },
      splitLine: { show: false },
    },
    yAxis: {
      type: 'value' as const,
      min: LOWEST,
      max: HIGHEST,
      interval: 10,
      name: 'LUFS',
      nameLocation: 'middle' as const,
      nameGap: 36,
      axisLabel: { ...ink.font, formatter: (level: number) => signed(level, 0) },
      splitLine: { lineStyle: { color: ink.graph } },
    },
    dataZoom: [
      { type: 'inside' as const, filterMode: 'none' as const, minValueSpan: 4 },
      {
        type: 'slider' as const,
        filterMode: 'none' as const,
        height: 14,
        bottom: 6,
        showDataShadow: false,
        borderColor: ink.line,
        fillerColor: `${ink.bed}24`,
        moveHandleSize: 0,
        handleStyle: { borderColor: ink.bed },
        labelFormatter: (seconds: number) => clock(Number(seconds), false),
        textStyle: ink.font,
      },
    ],
    series: [
      {
        name: 'edge',
        type: 'line' as const,
        stack: 'corridor',
        stackStrategy: 'all' as const,
        data: low,
        symbol: 'none',
        silent: true,
        lineStyle: { opacity: 0 },
      },
      {
        name: 'corridor',
        type: 'line' as const,
        stack: 'corridor',
        stackStrategy: 'all' as const,
        data: band,
        symbol: 'none',
        silent: true,
        lineStyle: { opacity: 0 },
        areaStyle: { color: ink.bed, opacity: 0.16 },
        markLine: {
          silent: true,
          symbol: 'none',
          animation: false,
          lineStyle: { color: ink.line, type: 'solid' as const, width: 1 },
          label: { position: 'start' as const, distance: -14, color: ink.soft, formatter: '{b}' },
          data: timeline.steps.map(({ start, index }) => ({ name: String(index + 1), xAxis: start })),
        },
        markArea: {
          silent: true,
          itemStyle: {
            color: {
              type: 'pattern' as const,
              image: hatch(ink.fault),
              repeat: 'repeat' as const,
            },
          },
          data: faults(balance),
        },
      },
      {
        name: 'voice',
        type: 'line' as const,
        data: voice,
        symbol: 'none',
        sampling: 'lttb' as const,
        lineStyle: { color: ink.voice, width: 1.5 },
      },
      {
        name: 'bed',
        type: 'line' as const,
        data: points(mix.bed),
        symbol: 'none',
        sampling: 'lttb' as const,
        lineStyle: { color: ink.bed, width: 1.8 },
      },
    ],
  }
}

function corridorLine(
  { corridor }: BalancePicture,
  count: number,
  value: (edge: BalancePicture['corridor'][number]) => number,
): [number, number | null][] {
  const line = Array.from({ length: count }, (_, i): [number, number | null] => [i / 10, null])
  for (const edge of corridor) {
    const place = line[Math.round(edge.at * 10)]
    if (place) place[1] = Number(value(edge).toFixed(2))
  }
  return line
}

const faults = ({ worst }: BalancePicture) =>
  worst
    .filter(({ clearance, target }) => Math.abs(clearance - target) > CORRIDOR)
    .map(({ from, to }) => [{ xAxis: from - 0.2 }, { xAxis: to + 0.2 }] as [{ xAxis: number }, { xAxis: number }])

/** A hatch says 'fault' without colour, too. */
function hatch(colour: string): HTMLCanvasElement {
  const canvas = document.createElement('canvas')
  canvas.width = canvas.height = 8
  const pen = canvas.getContext('2d')!
  pen.strokeStyle = `${colour}80`
  pen.lineWidth = 2
  for (const offset of [-8, 0, 8]) {
    pen.beginPath()
    pen.moveTo(offset, 8)
    pen.lineTo(offset + 8, 0)
    pen.stroke()
  }
  return canvas
}

function sayMoment(hits: { value: [number, number] }[], mix: MixPicture, timeline: Timeline): string {
  const time = hits[0]?.value[0] ?? 0
  const hop = Math.round(time * 10)
  const step = timeline.steps.findLast(({ start }) => start <= time)
  const level = (track: Float32Array) =>
    (track[hop] ?? -Infinity) > -70 ? `${signed(track[hop]!)} LUFS` : say('balance.silent')
  const clearance = mix.clearance[hop]
  const under =
    clearance === undefined || Number.isNaN(clearance)
      ? say('balance.nobodySpeaks')
      : say('balance.luUnderTheVoice', { clearance: decimal(clearance, 1), asked: targetOf(mix, time) })
  const title = step ? say('balance.step', { number: step.index + 1, title: escaped(step.step.title) }) : ''
  const levels = [
    say('balance.voiceAt', { level: level(mix.voice) }),
    say('balance.musicAt', { level: level(mix.bed) }),
  ]
  return [`<b>${clock(time)}</b> · ${title}`, ...levels, under].join('<br>')
}

/** The clearance asked for at a moment. */
const targetOf = ({ targets }: MixPicture, time: number) => targetAt(targets, time)

const escaped = (text: string) => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`)
