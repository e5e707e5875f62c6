import { DISTANCES_MODULE } from './distancesModule'
import { FEATURES } from './features'

/** Values of a frame in the module's memory: whole groups of four. */
const STRIDE = 28
const PAGE = 65536
const FLOAT = 4

interface Exports {
  memory: WebAssembly.Memory
  distances(frame: number, list: number, count: number, out: number): void
}

/** Euclidean distances of frame `t` of one sound from frames `low` to `high` (inclusive) of another. Used up at once. */
export type Distances = (t: number, low: number, high: number) => Float32Array

/**
 * Distances between the frames of two sounds (see features.ts), at most `widest` at once. In WebAssembly, four values at
 * a time: they are most of what alignment computes.
 */
export function createDistances(take: Float32Array, reference: Float32Array, widest: number): Distances {
  const { memory, distances } = new WebAssembly.Instance(compiled()).exports as unknown as Exports
  const [frames, count] = [take.length / FEATURES, reference.length / FEATURES]
  const list = frames * STRIDE * FLOAT
  const out = list + count * STRIDE * FLOAT
  const bytes = out + widest * FLOAT
  memory.grow(Math.max(0, Math.ceil((bytes - memory.buffer.byteLength) / PAGE)))
  const values = new Float32Array(memory.buffer)
  lay(values, 0, take)
  lay(values, list / FLOAT, reference)
  return (t, low, high) => {
    distances(t * STRIDE * FLOAT, list + low * STRIDE * FLOAT, high - low + 1, out)
    return values.subarray(out / FLOAT, out / FLOAT + high - low + 1)
  }
}

function lay(values: Float32Array, at: number, features: Float32Array): void {
  for (let from = 0; from < features.length; from += FEATURES, at += STRIDE)
    values.set(features.subarray(from, from + FEATURES), at)
}

let loaded: WebAssembly.Module | undefined
function compiled(): WebAssembly.Module {
  loaded ??= new WebAssembly.Module(Uint8Array.from(atob(DISTANCES_MODULE), (letter) => letter.charCodeAt(0)))
  return loaded
}
