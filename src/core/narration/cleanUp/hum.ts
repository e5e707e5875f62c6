import type { Hum } from '@/core/measure/hum'
import { HOUSE_RATE, type Hertz } from '@/core/units'
import { filtered, notch } from './filters'

/** As narrow as the mains are steady: a voice passes through such a gap in a moment. */
const WIDTH: Hertz = 2

/** The sound without the hum that was found in it. */
export const removeHum = (samples: Float32Array, { at, multiples }: Pick<Hum, 'at' | 'multiples'>): Float32Array =>
  multiples.reduce((out, k) => filtered(out, notch(HOUSE_RATE, k * at, (k * at) / WIDTH)), samples)
