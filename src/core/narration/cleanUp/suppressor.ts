/**
 * Takes noise out of speech with RNNoise (Valin, "A hybrid DSP/deep learning approach to real-time full-band speech
 * enhancement", 2018), compiled to WebAssembly. House rate only.
 */
export type Suppressor = (samples: Float32Array) => Float32Array

interface Exports {
  memory: WebAssembly.Memory
  emscripten_stack_init(): void
  __wasm_call_ctors(): void
  rnnoise_create(model: number): number
  rnnoise_destroy(state: number): void
  rnnoise_process_frame(state: number, out: number, input: number): number
  malloc(bytes: number): number
}

const FRAME = 480
/** The suppressor thinks in 16-bit samples. */
const SCALE = 32768
/** Its output comes one frame late. */
const DELAY = FRAME

/** `module` is `rnnoise_simd.wasm` of the package `@shiguredo/rnnoise-wasm`. */
export function createSuppressor(module: WebAssembly.Module): Suppressor {
  const { exports } = new WebAssembly.Instance(module, {
    env: {
      emscripten_memcpy_big: (to: number, from: number, bytes: number): void => {
        new Uint8Array(wasm.memory.buffer).copyWithin(to, from, from + bytes)
      },
      emscripten_resize_heap: (bytes: number) => {
        const pages = Math.ceil((bytes - wasm.memory.buffer.byteLength) / 65536)
        return pages > 0 && wasm.memory.grow(pages) >= 0 ? 1 : 0
      },
      __assert_fail: () => {
        throw new Error('the noise suppressor failed')
      },
    },
  })
  const wasm = exports as unknown as Exports
  wasm.emscripten_stack_init()
  wasm.__wasm_call_ctors()
  const input = wasm.malloc(FRAME * 4)
  const output = wasm.malloc(FRAME * 4)

  return (samples) => {
    const state = wasm.rnnoise_create(0)
    const out = new Float32Array(samples.length)
    for (let at = 0; at < samples.length + DELAY; at += FRAME) {
      const frame = new Float32Array(wasm.memory.buffer, input, FRAME)
      for (let i = 0; i < FRAME; i++) frame[i] = (samples[at + i] ?? 0) * SCALE
      wasm.rnnoise_process_frame(state, output, input)
      const made = new Float32Array(wasm.memory.buffer, output, FRAME)
      const to = at - DELAY
      for (let i = 0; i < FRAME; i++) if (to + i >= 0 && to + i < out.length) out[to + i] = made[i]! / SCALE
    }
    wasm.rnnoise_destroy(state)
    return out
  }
}
