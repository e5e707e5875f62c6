import { LRUCache } from 'lru-cache'
import type { MediaInfo } from '@/core/messages/media'
import type { SampleSource } from '@/core/mix/renderer'

/** Samples of one fetch: two seconds. */
const CHUNK = 96_000
/** Kept in memory: a few minutes of stereo, whatever the lesson's length. */
const MOST_CHUNKS = 96

/** The server's sounds, in pieces as they are needed, with the next piece fetched ahead. */
export function chunkSource(mediaOf: (hash: string) => MediaInfo | undefined): SampleSource {
  const chunks = new LRUCache<string, Promise<Float32Array>>({ max: MOST_CHUNKS })

  function chunkOf({ hash, channels }: MediaInfo, index: number): Promise<Float32Array> {
    const key = `${hash}/${index}`
    let chunk = chunks.get(key)
    if (!chunk) {
      chunk = fetchChunk(hash, channels, index)
      chunks.set(key, chunk)
      chunk.catch(() => chunks.delete(key))
    }
    return chunk
  }

  return async (hash, from, frames) => {
    const media = mediaOf(hash)
    if (!media || media.channels === 0) return []
    const { channels } = media
    const out = Array.from({ length: channels }, () => new Float32Array(frames))
    const first = Math.floor(Math.max(0, from) / CHUNK)
    const last = Math.floor((from + frames - 1) / CHUNK)
    for (let index = first; index <= last; index++) {
      const samples = await chunkOf(media, index)
      const begin = Math.max(from, index * CHUNK)
      const end = Math.min(from + frames, index * CHUNK + samples.length / channels)
      for (let i = begin; i < end; i++) {
        const at = (i - index * CHUNK) * channels
        for (let c = 0; c < channels; c++) out[c]![i - from] = samples[at + c]!
      }
    }
    void chunkOf(media, last + 1).catch(() => undefined)
    return out
  }
}

/** Empty past the sound's end. */
async function fetchChunk(hash: string, channels: number, index: number): Promise<Float32Array> {
  const bytes = CHUNK * channels * 4
  const range = `bytes=${index * bytes}-${(index + 1) * bytes - 1}`
  const response = await fetch(`/api/media/${hash}/sound.f32`, { headers: { range } })
  if (response.status === 416) return new Float32Array(0)
  if (!response.ok) throw new Error(`sound of ${hash}: ${response.status}`)
  return new Float32Array(await response.arrayBuffer())
}
