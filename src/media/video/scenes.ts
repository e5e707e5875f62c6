import type { Seconds } from '@/core/units'
import { inputOf } from '../ffmpeg'
import { runProgram } from '../process'

/** Share of a picture that must differ from the one before (ffmpeg's own scene score, 0..1). */
const CHANGED = 0.04
/** A change that goes on is one: a page that builds up. */
const TOGETHER: Seconds = 0.7

/** The moments at which a recording's picture changes all at once. */
export async function findScenes(proxy: string): Promise<Seconds[]> {
  const filter = `scale=320:-2,select='gt(scene,${CHANGED})',metadata=print:file=-`
  const args = ['-v', 'error', '-nostdin', ...inputOf(proxy, 'mov'), '-vf', filter, '-an', '-f', 'null', '-']
  const out = (await runProgram('ffmpeg', args, { limit: 1800 })).toString('utf8')
  const times = [...out.matchAll(/pts_time:([\d.]+)/g)].map(([, time]) => Number(time))
  return times.filter((time, i) => i === 0 || time - times[i - 1]! > TOGETHER)
}
