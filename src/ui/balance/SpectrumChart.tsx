'use client'

import { useMemo } from 'react'
import { depthAt } from '@/core/bed/pocket'
import { DRAWN_BANDS, type BalancePicture } from '@/core/mix/balancePicture'
import { useLesson } from '../lesson/context'
import { useChart, useChartInk, type ChartInk } from './chart'
import styles from './balance.module.css'

/** Voice and bed band by band, and what the pocket takes out of the bed while this voice speaks. */
export function SpectrumChart({ balance }: { balance: BalancePicture }) {
  const { pocket } = useLesson()
  const ink = useChartInk()
  const option = useMemo(() => optionOf(balance, ink), [balance, ink])
  const element = useChart(option)
  return (
    <section className={styles.card} aria-label="Voice pocket">
      <h2>What the music gives up while this voice speaks</h2>
      {/* One element for good: the chart lives in it. */}
      <div
        ref={element}
        hidden={!balance.spectrum}
        className={styles.spectrum}
        role="img"
        aria-label="Spectrum of voice and music"
      />
      {!balance.spectrum && <p className={styles.note}>There is no music under a voice yet.</p>}
      <p className={styles.note} data-testid="pocket-worth">
        {balance.dips.length > 0 && 'Dashed: the music without its pocket. '}
        {sayPocket(balance, pocket.on)}
      </p>
    </section>
  )
}

function sayPocket({ dips, index }: BalancePicture, on: boolean): string {
  if (!on) return 'The pocket is off: the music keeps all of its sound.'
  if (dips.length === 0 || !index) return 'No dip is needed: this music leaves the voice clear as it is.'
  const where = dips
    .map(({ frequency }) => `${depthAt(dips, frequency).toFixed(0)} dB at ${hertz(frequency)}`)
    .join(', ')
  return `${where}. As easy to understand as music ${index.worth.toFixed(1)} LU softer without the pocket (speech index ${index.plain.toFixed(2)} without, ${index.dipped.toFixed(2)} with).`
}

const hertz = (frequency: number) =>
  frequency >= 1000 ? `${(frequency / 1000).toFixed(1)} kHz` : `${Math.round(frequency)} Hz`

function optionOf({ spectrum, dips }: BalancePicture, ink: ChartInk) {
  const { first, last } = DRAWN_BANDS
  const part = <T,>(values: readonly T[]) => values.slice(first, last)
  const line = (name: string, values: number[], color: string, dashed = false) => ({
    name,
    type: 'line' as const,
    data: part(values).map((level) => Number(level.toFixed(1))),
    symbol: 'none',
    smooth: 0.3,
    lineStyle: { color, width: 2, type: dashed ? ('dashed' as const) : ('solid' as const) },
    itemStyle: { color },
    endLabel: { show: !dashed, formatter: name, color, fontSize: 12 },
  })
  if (!spectrum) return { series: [] }
  const dipped = dips.length > 0
  return {
    animation: false,
    textStyle: ink.font,
    grid: { left: 40, right: 84, top: 10, bottom: 28 },
    tooltip: { trigger: 'axis' as const, valueFormatter: (value: unknown) => `${String(value)} dB` },
    xAxis: {
      type: 'category' as const,
      data: part(spectrum.bands).map((frequency) => hertz(Math.round(frequency))),
      axisLabel: { ...ink.font, interval: 3 },
    },
    yAxis: {
      type: 'value' as const,
      scale: true,
      axisLabel: ink.font,
      splitLine: { lineStyle: { color: ink.graph } },
    },
    series: [
      line('voice', spectrum.voice, ink.voice),
      ...(dipped ? [line('without', spectrum.bed, ink.soft, true)] : []),
      line('music', dipped ? spectrum.dipped : spectrum.bed, ink.bed),
    ],
  }
}
