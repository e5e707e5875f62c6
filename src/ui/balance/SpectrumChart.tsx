'use client'

import { Button } from 'antd'
import { useMemo } from 'react'
import { depthAt } from '@/core/bed/pocket'
import { nominalBand } from '@/core/measure/bandNames'
import { DRAWN_BANDS, type BalancePicture } from '@/core/mix/balancePicture'
import { WCAG_CLEARANCE } from '@/core/mix/nearer'
import type { Hertz, LoudnessUnits } from '@/core/units'
import { useDesk, useLesson } from '../lesson/context'
import { useChart, useChartInk, type ChartInk } from './chart'
import styles from './balance.module.css'

/** Less than this nobody notices. */
const LEAST_WORTH: LoudnessUnits = 0.5

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
      {balance.dips.length > 0 && <Spend balance={balance} />}
    </section>
  )
}

/** What the pocket gives can be spent: the music comes nearer, and the words are as easy to follow as before. */
function Spend({ balance: { index } }: { balance: BalancePicture }) {
  const { store } = useDesk()
  const { pocket, targets } = useLesson()
  const worth = Math.round((index?.worth ?? 0) * 10) / 10
  const bring = (nearer: LoudnessUnits) => store.getState().edit({ name: 'setPocket', pocket: { ...pocket, nearer } })
  if (targets.clearance >= WCAG_CLEARANCE)
    return (
      <p className={styles.note}>
        From {WCAG_CLEARANCE} LU on the music stays where it is: WCAG asks for the level itself.
      </p>
    )
  if (pocket.nearer > 0)
    return (
      <p className={styles.note}>
        For that the music is {pocket.nearer.toFixed(1)} LU nearer: {(targets.clearance - pocket.nearer).toFixed(1)} LU
        under the voice instead of {targets.clearance}.{' '}
        <Button size="small" onClick={() => bring(0)}>
          Take that back
        </Button>
      </p>
    )
  if (worth < LEAST_WORTH) return null
  return (
    <Button size="small" onClick={() => bring(worth)}>
      Music {worth.toFixed(1)} LU nearer, as easy to follow
    </Button>
  )
}

function sayPocket({ dips, index }: BalancePicture, on: boolean): string {
  if (!on) return 'The pocket is off: the music keeps all of its sound.'
  if (dips.length === 0 || !index) return 'No dip is needed: this music leaves the voice clear as it is.'
  const where = dips
    .map(({ frequency }) => `${depthAt(dips, frequency).toFixed(0)} dB at ${sayBand(frequency)}`)
    .join(', ')
  if (index.worth < LEAST_WORTH)
    return `${where}. It gives the words next to nothing here: the music can keep its sound.`
  return `${where}. Worth about ${index.worth.toFixed(1)} LU (speech index ${index.plain.toFixed(2)} without it, ${index.dipped.toFixed(2)} with it).`
}

function sayBand(frequency: Hertz): string {
  const name = nominalBand(frequency)
  return name >= 1000 ? `${name / 1000} kHz` : `${name} Hz`
}

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
      data: part(spectrum.bands).map(sayBand),
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
      ...(dipped ? [line('without', spectrum.plain, ink.soft, true)] : []),
      line('music', spectrum.bed, ink.bed),
    ],
  }
}
