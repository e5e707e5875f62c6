import { expose } from 'comlink'
import { emptyLesson } from '@/core/lesson/newParts'
import { carryOver, layoutLesson } from '@/core/lesson/layout'
import type { MediaInfo } from '@/core/messages/media'
import { planMix } from '@/core/mix/plan'
import type { MixPlan } from '@/core/mix/mixPlan'
import { HOUSE_RATE, toSamples } from '@/core/units'
import { chunkSource } from './chunkSource'
import { LISTENING, type Hearing, type MixWorkerApi } from './protocol'
import { createStreamer } from './stream'

/** Renders the lesson's mix and streams it to the player. Nothing that takes long is done here: it would be heard. */

const infos = new Map<string, MediaInfo>()
const source = chunkSource((hash) => infos.get(hash))

let timeline = layoutLesson(emptyLesson(''))
let plan: MixPlan = planMix(emptyLesson(''), timeline, () => undefined).plan
let arrived = 0
/** Playing that was asked for before its plan had come. */
let waiting: { serial: number; begin: () => void } | null = null
let hearing: Hearing = 'all'

const streamer = createStreamer(() => ({ plan, source, hearing }))

const api: MixWorkerApi = {
  connect: (port) => streamer.connect(port),
  planFrom: (port) => expose(api, port),
  setMix(lesson, nextPlan, media, serial) {
    for (const info of media) infos.set(info.hash, info)
    const before = timeline
    timeline = layoutLesson(lesson)
    plan = nextPlan
    streamer.change((position) => toSamples(carryOver(before, timeline, position / HOUSE_RATE)))
    arrived = serial
    if (waiting && waiting.serial <= arrived) waiting.begin()
  },
  play(from, until, serial) {
    const begin = () => {
      waiting = null
      streamer.play(toSamples(from), until === null ? null : toSamples(until))
    }
    if (serial <= arrived) begin()
    else waiting = { serial, begin }
  },
  stop() {
    waiting = null
    streamer.stop()
  },
  listenTo(next) {
    hearing = next
    streamer.change((position) => position)
  },
}

expose(api)
postMessage(LISTENING)
