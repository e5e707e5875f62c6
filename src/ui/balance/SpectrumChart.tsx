'use client'

import { Button } from 'antd'
import { useMemo } from 'react'
import { depthAt } from '@/core/bed/pocket'
import { nominalBand } from '@/core/measure/bandNames'
import { DRAWN_BANDS, type BalancePicture } from '@/core/mix/balancePicture'
import { WCAG_CLEARANCE } from '@/core/mix/nearer'
import type { Hertz, LoudnessUnits } from '@/core/units'
import { say } from '@/messages/say'
import { decimal, listed } from '../format'
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
    <section className={styles.card} aria-label={say('balance.voicePocket')}>
      <h2>{say('balance.whatTheMusicGives')}</h2>
      {/* One element for good: the chart lives in it. */}
      <div
        ref={element}
        hidden={!balance.spectrum}
        className={styles.spectrum}
        role="img"
        aria-label={say('balance.spectrumOfVoiceAnd')}
      />
      {!balance.spectrum && <p className={styles.note}>{say('balance.thereIsNoMusic')}</p>}
      <p className={styles.note} data-testid="pocket-worth">
        {balance.dips.length > 0 && say('balance.dashedTheMusicWithout')} {sayPocket(balance, pocket.on)}
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
    return <p className={styles.note}>{say('balance.fromLuOnThe', { clearance: WCAG_CLEARANCE })}</p>
  if (pocket.nearer > 0)
    return (
      <p className={styles.note}>
        {say('balance.spent', {
          nearer: decimal(pocket.nearer),
          clearance: decimal(targets.clearance - pocket.nearer),
          asked: targets.clearance,
        })}{' '}
        <Button size="small" onClick={() => bring(0)}>
          {say('balance.takeThatBack')}
        </Button>
      </p>
    )
  if (worth < LEAST_WORTH) return null
  return (
    <Button size="small" onClick={() => bring(worth)}>
      {say('balance.musicLuNearerAs', { worth: decimal(worth, 1) })}
    </Button>
  )
}

function sayPocket({ dips, index }: BalancePicture, on: boolean): string {
  if (!on) return say('balance.thePocketIsOff')
  if (dips.length === 0 || !index) return say('balance.noDipIsNeeded')
  const where = listed(
    dips.map(({ frequency }) =>
      say('balance.dipAt', { depth: decimal(depthAt(dips, frequency), 0), band: sayBand(frequency) }),
    ),
  )
  if (index.worth < LEAST_WORTH) return say('balance.itGivesTheWords', { where })
  return say('balance.worthAboutLuSpeech', {
    where,
    worth: decimal(index.worth, 1),
    plain: decimal(index.plain, 2),
    dipped: decimal(index.dipped, 2),
  })
}

function sayBand(frequency: Hertz): string {
  const name = nominalBand(frequency)
  return name >= 1000 ? `${decimal(name / 1000, Number.isInteger(name / 1000) ? 0 : undefined)} kHz` : `${name} Hz`
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
    // Where two lines end near each other, their names still stand one under the other.
    labelLayout: { moveOverlap: 'shiftY' as const },
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
      line(say('balance.voiceLine'), spectrum.voice, ink.voice),
      ...(dipped ? [line(say('balance.plainLine'), spectrum.plain, ink.soft, true)] : []),
      line(say('balance.musicLine'), spectrum.bed, ink.bed),
    ],
  }
}
