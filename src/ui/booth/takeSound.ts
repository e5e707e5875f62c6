import type { Seconds } from '@/core/units'
import { pageTime } from './pageTime'
import type { TrackSound } from './trackSound'

/** What stands between two blocks and is no jitter of their times. */
const HOLE: Seconds = 0.02
/** A device that has given nothing for so long gives nothing any more. */
const SILENT: Seconds = 1

/** What a microphone hears from one moment to another, however late it reaches the page. */
export interface TakenSound {
  /** Length so far. */
  time(): Seconds
  /** Where in what is taken stands what is, or was, heard at a page time. */
  placeAt(heard: Seconds): Seconds
  /** Of what was heard, what never came. */
  missing(): Seconds
  /** Waits for what was heard until now, and takes no more. */
  end(): Promise<void>
}

/** Tells all that is heard from now on. */
export function takeSound({ rate, listen }: TrackSound, tell: (samples: Float32Array) => void): TakenSound {
  const begun = pageTime()
  let until: Seconds = Infinity
  let last = begun
  let came = begun
  let total = 0
  let missing: Seconds = 0
  const time = () => total / rate
  const stopListening = listen((samples, heard) => {
    const start = heard - samples.length / rate
    if (heard <= begun || start >= until) return
    if (total > 0 && start - last > HOLE) missing += start - last
    last = heard
    came = pageTime()
    total += samples.length
    tell(samples)
  })
  return {
    time,
    placeAt: (heard) => Math.max(0, time() + heard - last),
    missing: () => missing,
    async end() {
      until = came = pageTime()
      while (last < until && pageTime() - came < SILENT) await new Promise((resolve) => setTimeout(resolve, 10))
      stopListening()
    },
  }
}
