import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { analyse, pieces, unevenReading } from './rideMaterial'
import { rideFigures } from './rideFigures'
const cache = '/tmp/uneven.f32'
if (!existsSync(cache)) {
  const v = await unevenReading()
  writeFileSync(cache, Buffer.from(v.buffer))
}
const b = readFileSync(cache)
const voice = analyse(new Float32Array(b.buffer.slice(b.byteOffset, b.byteOffset + b.length)))
const targets = { clearance: 16, swell: 6, pauseFrom: 3 }
for (const { name, sound } of pieces()) {
  const f = rideFigures(voice, analyse(sound), targets)
  console.log(
    name.padEnd(11),
    Object.entries(f)
      .map(([k, v]) => k + ' ' + v.toFixed(3))
      .join('  '),
  )
}
