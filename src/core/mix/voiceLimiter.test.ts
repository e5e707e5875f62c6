import { createEnergyMeter } from '@/core/measure/energyMeter'
import { integratedLoudness } from '@/core/measure/loudness'
import { layoutLesson } from '@/core/lesson/layout'
import { seededRandom } from '@/core/random'
import { lessonOver, soundBank, speechLike, TAKE } from '@/core/testing/lessons'
import { HOUSE_RATE, type Seconds } from '@/core/units'
import { planMix } from './plan'
import { renderWhole } from './renderer'

/** A voice with a knock about every so many seconds, 20 dB over it. */
function withKnocks(every: Seconds, seed: number): Float32Array {
  const voice = speechLike([
    [null, 0.5],
    [-24, 8],
    [null, 0.5],
    [-27, 6],
    [null, 0.5],
  ])
  const random = seededRandom(seed)
  for (let time = 0.6; time < 15; time += every * (0.75 + random() / 2))
    for (let k = 0; k < 6; k++) voice[Math.round(time * HOUSE_RATE) + k]! += 0.9 * (-0.8) ** k
  return voice
}

test.each([0.05, 0.08, 0.15, 0.4, 1])(
  'a voice with knocks every %f s, which its limiter holds down, comes out as loud as asked',
  async (every) => {
    const voice = withKnocks(every, 5)
    const bank = soundBank({ [TAKE]: [voice] })
    const lesson = lessonOver([0, voice.length / HOUSE_RATE], false)
    const { plan } = planMix(lesson, layoutLesson(lesson), bank.analysisOf)
    const meter = createEnergyMeter(HOUSE_RATE, 2)
    for await (const { sum } of renderWhole(plan, bank.source)) meter.push(sum)
    expect(Math.abs(integratedLoudness(meter.track())! - lesson.targets.loudness)).toBeLessThan(0.3)
  },
)
