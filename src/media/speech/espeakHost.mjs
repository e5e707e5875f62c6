/**
 * A process of its own around the synthesiser's library (GPL): reads one job as JSON from standard input and writes
 * to standard output a line `{rate}`, then for each text a line `{samples, words}` and its samples, 16 bit.
 * A word's `at` is its character in the text, `sample` where it begins.
 */
import koffi from 'koffi'
import { readFileSync, writeSync } from 'node:fs'

const SYNCHRONOUS = 2
const RATE = 1
const PITCH = 3
const UTF8 = 0x01
const SSML = 0x10
const CHARACTERS = 1
const WORD = 1
const LAST = 0

const library = koffi.load('libespeak-ng.so.1')
const Event = koffi.struct('espeak_EVENT', {
  type: 'int',
  id: 'uint',
  textPosition: 'int',
  length: 'int',
  audioPosition: 'int',
  sample: 'int',
  userData: 'void *',
  extra: koffi.array('uint8', 8),
})
koffi.struct('espeak_VOICE', {
  name: 'const char *',
  languages: 'const char *',
  identifier: 'const char *',
  gender: 'uchar',
  age: 'uchar',
  variant: 'uchar',
  spare: 'uchar',
  score: 'int',
  pointer: 'void *',
})
const Callback = koffi.proto('int OnSound(int16_t *samples, int count, espeak_EVENT *events)')
const initialize = library.func('int espeak_Initialize(int output, int buffer, const char *path, int options)')
const setCallback = library.func('void espeak_SetSynthCallback(OnSound *callback)')
const voiceByName = library.func('int espeak_SetVoiceByName(const char *name)')
const voiceByProperties = library.func('int espeak_SetVoiceByProperties(espeak_VOICE *voice)')
const setParameter = library.func('int espeak_SetParameter(int parameter, int value, int relative)')
const synthesize = library.func(
  'int espeak_Synth(const void *text, size_t size, uint position, int kind, uint end, uint flags, void *id, void *data)',
)

const { voice, rate, pitch, texts } = JSON.parse(readFileSync(0, 'utf8'))
const hertz = initialize(SYNCHRONOUS, 500, null, 0)
if (hertz <= 0) fail('the synthesiser does not start')
if (voiceByName(voice) !== 0) {
  const wanted = { name: null, languages: voice, identifier: null, gender: 0, age: 0, variant: 0, spare: 0, score: 0 }
  if (voiceByProperties({ ...wanted, pointer: null }) !== 0) fail(`there is no voice ${voice}`)
}
setParameter(RATE, rate, 0)
setParameter(PITCH, pitch, 0)

let pieces = []
let words = []
const size = koffi.sizeof(Event)
setCallback(
  koffi.register((samples, count, events) => {
    if (samples && count > 0) pieces.push(koffi.decode(samples, koffi.array('int16_t', count, 'Typed')).slice())
    for (let i = 0; ; i++) {
      const event = koffi.decode(events, i * size, Event)
      if (event.type === LAST) return 0
      if (event.type === WORD) words.push({ at: event.textPosition - 1, sample: event.sample })
    }
  }, koffi.pointer(Callback)),
)

write(Buffer.from(`${JSON.stringify({ rate: hertz })}\n`))
for (const text of texts) {
  pieces = []
  words = []
  const bytes = Buffer.from(`${text}\0`)
  if (synthesize(bytes, bytes.length, 0, CHARACTERS, 0, UTF8 | SSML, null, null) !== 0) fail('a text was refused')
  const sound = Buffer.concat(pieces.map((piece) => Buffer.from(piece.buffer, piece.byteOffset, piece.byteLength)))
  write(Buffer.from(`${JSON.stringify({ samples: sound.length / 2, words })}\n`))
  write(sound)
}

/** Standard output may be a pipe that is full for a moment. */
function write(bytes) {
  for (let at = 0; at < bytes.length;) {
    try {
      at += writeSync(1, bytes, at)
    } catch (error) {
      if (error.code !== 'EAGAIN') throw error
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 2)
    }
  }
}

function fail(reason) {
  process.stderr.write(`${reason}\n`)
  process.exit(1)
}
