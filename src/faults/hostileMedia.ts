import { mkdtemp, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { writeWav } from '@/core/formats/wav'
import { tones } from '@/core/testing/signals'
import { runProgram } from '@/media/process'

/** Files made to break whoever reads them: good ones damaged, and ones that lie about themselves. By a seed, always the same. */

export interface HostileFile {
  name: string
  bytes: Uint8Array
}

type Random = () => number
const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)]!
const below = (random: Random, most: number) => Math.floor(random() * most)

/** Small good files of every kind that is taken. */
export async function goodFiles(): Promise<HostileFile[]> {
  const folder = await mkdtemp(join(tmpdir(), 'yarn-step-hostile-'))
  const wav = writeWav([tones([[-20, 1]])], 48000)
  const made: HostileFile[] = [{ name: 'voice.wav', bytes: wav }]
  const ffmpeg = async (name: string, ...args: string[]) => {
    await runProgram('ffmpeg', ['-v', 'error', '-y', ...args, join(folder, name)], { limit: 60 })
    made.push({ name, bytes: await readFile(join(folder, name)) })
  }
  const tone = ['-f', 'lavfi', '-i', 'sine=frequency=300:duration=1']
  const moving = ['-f', 'lavfi', '-i', 'testsrc=size=160x90:rate=15:duration=1']
  try {
    await ffmpeg('voice.flac', ...tone)
    await ffmpeg('voice.mp3', ...tone)
    await ffmpeg('voice.m4a', ...tone)
    await ffmpeg('voice.ogg', ...tone, '-c:a', 'libopus')
    await ffmpeg('screen.mp4', ...moving, ...tone, '-pix_fmt', 'yuv420p')
    await ffmpeg('screen.webm', ...moving, ...tone, '-c:v', 'libvpx', '-c:a', 'libopus')
    const picture = sharp({ create: { width: 64, height: 36, channels: 3, background: '#12647a' } })
    for (const format of ['png', 'jpeg', 'webp'] as const)
      made.push({ name: `slide.${format}`, bytes: await picture.clone().toFormat(format).toBuffer() })
    made.push({ name: 'deck.pdf', bytes: Buffer.from(PDF) })
    return made
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

const PDF = `%PDF-1.4
1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj
2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj
3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 320 180]/Contents 4 0 R/Resources<</Font<</F 5 0 R>>>>>>endobj
4 0 obj<</Length 44>>stream
BT /F 24 Tf 40 90 Td (Tide table) Tj ET
endstream endobj
5 0 obj<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>endobj
trailer<</Root 1 0 R/Size 6>>
%%EOF`

/** So many hostile files, each from a good one. */
export function hostileFiles(good: readonly HostileFile[], count: number, random: Random): HostileFile[] {
  return Array.from({ length: count }, (_, i) => {
    const { name, bytes } = pick(random, good)
    const [, damage] = pick(random, DAMAGES)
    return { name: `${i} ${oddName(name, random)}`, bytes: damage(Uint8Array.from(bytes), random, good) }
  })
}

type Damage = (bytes: Uint8Array, random: Random, good: readonly HostileFile[]) => Uint8Array

const DAMAGES: [string, Damage][] = [
  ['cut off', (bytes, random) => bytes.slice(0, below(random, bytes.length))],
  ['bits turned', (bytes, random) => turned(bytes, 1 + below(random, 40), 0, random)],
  ['bits of the head turned', (bytes, random) => turned(bytes, 1 + below(random, 12), 200, random)],
  ['numbers of the head at their largest', (bytes, random) => extreme(bytes, random)],
  ['a stretch of zeros', (bytes, random) => bytes.fill(0, below(random, bytes.length), below(random, bytes.length))],
  ['two files in one', (bytes, random, good) => joined(bytes, pick(random, good).bytes)],
  ['the head of another', (bytes, random, good) => joined(pick(random, good).bytes.slice(0, 64), bytes.slice(64))],
  ['noise behind a head', (bytes, random) => joined(bytes.slice(0, 48), noiseBytes(20_000, random))],
  ['nothing', () => new Uint8Array(0)],
  ['a WAV file that lies', (_, random) => lyingWav(random)],
  ['a huge PNG', (_, random) => hugePng(random)],
  ['a PDF of odd pages', (_, random) => oddPdf(random)],
  ['a list of other files', () => Buffer.from('#EXTM3U\nfile:///etc/passwd\nhttp://127.0.0.1:1/x\n')],
]

/** Names as they come: long, with marks, letters of other scripts, and what no database takes. */
function oddName(name: string, random: Random): string {
  const ending = name.slice(name.lastIndexOf('.'))
  return pick(random, [
    name,
    `${'long name '.repeat(30)}${ending}`,
    `Ебб и поток ⚓️ 潮汐${ending}`,
    `a\0b\ud83d${ending}`,
    `../../etc/passwd${ending}`,
    `"><script>alert(1)</script>${ending}`,
    `'; drop table lessons; --${ending}`,
  ])
}

function turned(bytes: Uint8Array, times: number, within: number, random: Random): Uint8Array {
  for (let i = 0; i < times; i++) bytes[below(random, within || bytes.length)]! ^= 1 << below(random, 8)
  return bytes
}

function extreme(bytes: Uint8Array, random: Random): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
  const at = below(random, Math.max(1, Math.min(160, bytes.length - 4)))
  if (bytes.length >= 4) view.setUint32(at, pick(random, [0, 1, 0x7fffffff, 0xffffffff, 0x80000000]), random() < 0.5)
  return bytes
}

function joined(a: Uint8Array, b: Uint8Array): Uint8Array {
  return Uint8Array.from([...a, ...b])
}

const noiseBytes = (length: number, random: Random) => Uint8Array.from({ length }, () => below(random, 256))

/** Rates, channels, lengths and samples beyond all measure. */
function lyingWav(random: Random): Uint8Array {
  const bytes = Buffer.alloc(44 + 4000)
  const channels = pick(random, [0, 1, 2, 8, 64, 1000, 65535])
  const rate = pick(random, [0, 1, 7, 3999, 48_000, 768_001, 0xffffffff])
  bytes.write('RIFF', 0)
  bytes.writeUInt32LE(pick(random, [0, 4036, 0xffffffff]), 4)
  bytes.write('WAVEfmt ', 8)
  bytes.writeUInt32LE(16, 16)
  bytes.writeUInt16LE(pick(random, [1, 3, 0xfffe, 85]), 20)
  bytes.writeUInt16LE(channels, 22)
  bytes.writeUInt32LE(rate, 24)
  bytes.writeUInt32LE(0xffffffff, 28)
  bytes.writeUInt16LE(4, 32)
  bytes.writeUInt16LE(pick(random, [0, 8, 16, 32, 64, 65535]), 34)
  bytes.write('data', 36)
  bytes.writeUInt32LE(pick(random, [0, 4000, 0xffffffff]), 40)
  for (let at = 44; at + 4 <= bytes.length; at += 4)
    bytes.writeFloatLE(pick(random, [NaN, Infinity, -Infinity, 1e30, 0.1, -0.1]), at)
  return bytes
}

/** A head that promises a picture larger than any memory. The check sum is wrong too; readers look at the size first. */
function hugePng(random: Random): Uint8Array {
  const bytes = Buffer.from(
    '89504e470d0a1a0a0000000d4948445200000001000000010802000000907753de0000000c4944415408d763f8cfc0000003010100c9fe92ef0000000049454e44ae426082',
    'hex',
  )
  bytes.writeUInt32BE(pick(random, [30_000, 100_000, 0x7fffffff]), 16)
  bytes.writeUInt32BE(pick(random, [30_000, 100_000, 0x7fffffff]), 20)
  return bytes
}

function oddPdf(random: Random): Uint8Array {
  const box = pick(random, ['0 0 0 0', '0 0 1e9 1e9', '-1 -1 -2 -2', '0 0 1 100000', 'x y z w'])
  const count = pick(random, ['1', '-1', '999999999'])
  return Buffer.from(PDF.replace('0 0 320 180', box).replace('/Count 1', `/Count ${count}`))
}
