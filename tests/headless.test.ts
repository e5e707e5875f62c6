import { execFile } from 'node:child_process'
import { existsSync } from 'node:fs'
import { readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { promisify } from 'node:util'
import PptxGenJS from 'pptxgenjs'
import { readWav, writeWav } from '@/core/formats/wav'
import { createEnergyMeter } from '@/core/measure/energyMeter'
import { momentarySeries } from '@/core/measure/loudness'
import type { BalanceSheet } from '@/core/mix/balanceSheet'
import { musicLike, speechLike } from '@/core/testing/lessons'
import { noise, tones } from '@/core/testing/signals'
import { headless, output, scratch } from './support/application'
import { ROOT } from '../scripts/application.mjs'

/** The headless command, called as other programs call it; its figures against an independent measurement. */

const folder = scratch()
const at = (name: string) => join(folder, name)
const put = (name: string, channels: Float32Array[], rate = 48000) =>
  writeFile(at(name), writeWav(channels, rate)).then(() => at(name))

interface Refusal {
  code: number
  stdout: string
  stderr: string
}
const refused = (...args: string[]): Promise<Refusal> =>
  promisify(execFile)(join(ROOT, 'bin', 'yarn-step'), args, { env: process.env }).then(
    () => Promise.reject(new Error('it should have been refused')),
    (error: Refusal) => error,
  )

test('loudness agrees with ffmpeg on noise, stereo and surround, also from a lossy file', async () => {
  // Without much near half the sample rate, where short interpolators differ about what lies between two samples.
  const soft = (seed: number) =>
    noise(48000 * 20, seed).map(
      (_, i, all) => (all[i]! + (all[i - 1] ?? 0) + (all[i - 2] ?? 0) + (all[i - 3] ?? 0)) / 4,
    )
  const swelling = soft(6).map((value, i) => value * 0.6 * Math.abs(Math.sin(i / 70_000)))
  const other = soft(7).map((value) => value * 0.1)
  await put('stereo.wav', [swelling, other])
  await put('surround.wav', [swelling, other, other, swelling, other, other])
  await output('ffmpeg', ['-v', 'error', '-y', '-i', at('stereo.wav'), '-b:a', '192k', at('stereo.mp3')])
  for (const name of ['stereo.wav', 'surround.wav', 'stereo.mp3']) {
    const ours = (await headless('loudness', at(name))) as Record<string, number>
    const layout = name === 'surround.wav' ? ['-channel_layout', '5.1'] : []
    const summary = (
      await output('ffmpeg', [
        '-hide_banner',
        '-nostats',
        ...layout,
        '-i',
        at(name),
        '-af',
        'ebur128=peak=true',
        '-f',
        'null',
        '-',
      ])
    ).split('Summary:')[1]!
    const theirs = (pattern: RegExp) => Number(pattern.exec(summary)![1])
    expect(Math.abs(ours.integrated! - theirs(/I:\s+(-?[\d.]+) LUFS/))).toBeLessThan(0.15)
    expect(Math.abs(ours.range! - theirs(/LRA:\s+(-?[\d.]+) LU/))).toBeLessThan(0.5)
    expect(Math.abs(ours.truePeak! - theirs(/Peak:\s+(-?[\d.]+) dBFS/))).toBeLessThan(0.3)
  }
})

test('what needs the database says where none answers, and nothing of its own', async () => {
  const before = process.env.DATABASE_URL
  process.env.DATABASE_URL = 'postgres://127.0.0.1:1/none'
  const { code, stderr } = await refused('gc')
  process.env.DATABASE_URL = before ?? ''
  expect(code).not.toBe(0)
  expect(stderr).toContain('The database does not answer.')
  expect(stderr).not.toMatch(/select|\.mjs/)
})

test('undefined values are null, and a series is on a grid of 100 ms', async () => {
  await put('short.wav', [tones([[-20, 0.2]])])
  expect(await headless('loudness', at('short.wav'))).toMatchObject({
    integrated: null,
    range: null,
    maxMomentary: null,
    maxShortTerm: null,
  })
  await put('tone.wav', [tones([[-20, 5]]), tones([[-20, 5]])])
  const { momentary, shortTerm } = (await headless('loudness', at('tone.wav'), '--series')) as {
    momentary: number[]
    shortTerm: number[]
  }
  expect(momentary).toHaveLength(47)
  expect(shortTerm).toHaveLength(21)
  momentary.forEach((value) => expect(value).toBeCloseTo(-20, 1))
})

test('speech prints the segments', async () => {
  await put('speech.wav', [
    speechLike([
      [null, 1],
      [-12, 3],
      [null, 1],
      [-12, 2],
      [null, 1],
    ]),
  ])
  const { segments } = (await headless('speech', at('speech.wav'))) as { segments: { start: number; end: number }[] }
  expect(segments).toHaveLength(2)
  expect(Math.abs(segments[1]!.start - 5)).toBeLessThan(0.12)
})

test('ride writes three stems, equally long and of 24 bits, and the gain curve explains what it did', async () => {
  await put('voice.wav', [
    speechLike([
      [null, 1],
      [-10, 4],
      [null, 0.6],
      [-16, 5],
      [null, 5],
      [-8, 5],
      [null, 2],
    ]),
  ])
  await put('bed.wav', [musicLike(9, -8), musicLike(9, -9, 6)])
  const { report, gain } = (await headless(
    'ride',
    '--voice',
    at('voice.wav'),
    '--bed',
    at('bed.wav'),
    '--clearance',
    '18',
    '--swell',
    '8',
    '--out-dir',
    at('ride'),
  )) as {
    report: BalanceSheet
    gain: { rate: number; decibels: number[] }
  }
  const bytes = await Promise.all(['voice', 'bed', 'bed-raw'].map((name) => readFile(at(`ride/${name}.wav`))))
  expect(new Set(bytes.map(({ length }) => length)).size).toBe(1)
  expect(bytes[0]!.readUInt16LE(34)).toBe(24)
  expect(report.within!).toBeGreaterThanOrEqual(0.98)
  expect(Math.abs(report.clearance! - 18)).toBeLessThan(2)
  // The bed is the raw bed times the gain that was printed.
  const [, bed, raw] = bytes.map((file) => readWav(file).channels[0]!)
  for (let second = 2; second < 21; second += 1.7) {
    const from = Math.round(second * gain.rate) * (48000 / gain.rate)
    const power = (sound: Float32Array) =>
      sound.subarray(from, from + 480).reduce((sum, value) => sum + value * value, 1e-12)
    expect(
      Math.abs(10 * Math.log10(power(bed!) / power(raw!)) - gain.decibels[Math.round(second * gain.rate)]!),
    ).toBeLessThan(0.4)
  }
  // In the long pause the bed comes up, and is down again before the voice.
  const meter = createEnergyMeter(48000, 1)
  meter.push([bed!])
  const level = momentarySeries(meter.track())
  expect(level[130]! - level[80]!).toBeGreaterThan(6)
  // All the way down 300 ms before the voice sets in at 15.6 s, and steady there.
  const gainAt = (time: number) => gain.decibels[Math.round(time * gain.rate)]!
  expect(gainAt(13.5) - gainAt(15.3)).toBeGreaterThan(4)
  expect(Math.abs(gainAt(15.3) - gainAt(15.6))).toBeLessThan(0.5)
})

test('new makes a lesson of a deck alone: its notes are read by a stand-in voice, hidden slides are left out', async () => {
  const deck = new PptxGenJS()
  for (const [i, notes] of ['Look at the tide first.', 'Nobody hears this.', ''].entries()) {
    const slide = deck.addSlide()
    slide.addText(`Page ${'one two three'.split(' ')[i]}`, { x: 1, y: 1, w: 8, h: 1 })
    if (notes) slide.addNotes(notes)
    slide.hidden = i === 1
  }
  await writeFile(at('deck.pptx'), (await deck.write({ outputType: 'nodebuffer' })) as Buffer)
  const make = (...more: string[]) =>
    headless('new', '--pictures', at('deck.pptx'), '--out', at('deck.zip'), ...more) as Promise<{
      steps: { title: string; script: string; start: number; end: number }[]
    }>
  const { steps } = await make()
  expect(steps.map(({ title, script }) => [title, script])).toEqual([
    ['Page one', 'Look at the tide first.'],
    ['Page three', ''],
  ])
  await headless('mix', at('deck.zip'), '--out', at('deck.wav'), '--stems', at('deck-stems'))
  const { segments } = (await headless('speech', at('deck-stems/voice.wav'))) as {
    segments: { start: number; end: number }[]
  }
  expect(segments[0]!.start).toBeGreaterThan(0.3)
  expect(segments.at(-1)!.end).toBeLessThan(steps[0]!.end)
  expect(segments.at(-1)!.end - segments[0]!.start).toBeGreaterThan(0.8)
  expect((await make('--with-hidden')).steps.map(({ title }) => title)).toEqual(['Page one', 'Page two', 'Page three'])
})

test('new, check, mix and render work on one archive', async () => {
  await output('ffmpeg', [
    '-v',
    'error',
    '-y',
    '-f',
    'lavfi',
    '-i',
    'color=0x12475a:size=640x360',
    '-frames:v',
    '1',
    at('one.png'),
  ])
  await output('ffmpeg', [
    '-v',
    'error',
    '-y',
    '-f',
    'lavfi',
    '-i',
    'color=0x8a5527:size=640x360',
    '-frames:v',
    '1',
    at('two.png'),
  ])
  await put('reading.wav', [
    speechLike([
      [null, 0.5],
      [-12, 3],
      [null, 1.2],
      [-12, 3],
      [null, 0.5],
    ]),
  ])
  await put('song.wav', [musicLike(6, -10)])
  await writeFile(at('script.txt'), 'The first slide.\n\nThe second slide.\n')
  const made = (await headless(
    'new',
    '--pictures',
    at('one.png'),
    at('two.png'),
    '--voice',
    at('reading.wav'),
    '--bed',
    at('song.wav'),
    '--script',
    at('script.txt'),
    '--out',
    at('lesson.zip'),
  )) as { steps: { title: string; start: number; end: number }[] }
  expect(made.steps.map(({ title }) => title)).toEqual(['One', 'Two'])
  expect(Math.abs(made.steps[1]!.start - (0.6 + 4.45 - 0.25))).toBeLessThan(0.3)
  expect(
    ((await headless('check', at('lesson.zip'))) as { findings: { severity: string }[] }).findings.every(
      ({ severity }) => severity === 'hint',
    ),
  ).toBe(true)
  await headless('mix', at('lesson.zip'), '--out', at('mix.wav'), '--stems', at('stems'))
  const [mix, ...stems] = await Promise.all(
    ['mix.wav', 'stems/voice.wav', 'stems/bed.wav', 'stems/sounds.wav'].map(
      async (name) => readWav(await readFile(at(name))).channels[1]!,
    ),
  )
  for (let i = 0; i < mix!.length; i += 101)
    expect(Math.abs(stems.reduce((sum, stem) => sum + stem[i]!, 0) - mix![i]!)).toBeLessThan(1e-6)
  const sheet = (await headless('render', at('lesson.zip'), '--out', at('lesson.mp4'))) as BalanceSheet & {
    steps: unknown[]
  }
  expect(sheet.steps).toHaveLength(2)
  expect(Math.abs(sheet.pictureLength! - made.steps[1]!.end)).toBeLessThan(1 / 30)
  expect(existsSync(at('lesson.mp4'))).toBe(true)
})

/** Short-term loudness every 100 ms by ffmpeg, the window of 3 s ending there. */
async function shortTermByFfmpeg(file: string): Promise<{ at: number; loudness: number }[]> {
  const told = await output('ffmpeg', ['-hide_banner', '-nostats', '-i', file, '-af', 'ebur128', '-f', 'null', '-'])
  return [...told.matchAll(/t: ([\d.]+)\s+TARGET:.*?S:\s*(-?[\d.]+|nan|-inf)/g)].map(([, at, loudness]) => ({
    at: Number(at),
    loudness: Number.isFinite(Number(loudness)) ? Number(loudness) : -120,
  }))
}

test('the balance sheet says what ffmpeg reads from the stems, where the words are', async () => {
  const script = [
    'The skipper reads the tide table before noon and every chart shows nine metres of water and a second buoy and',
    'our pilot book changes on most evenings under the bridge where the crew leaves enough room for the turn and for',
    'the ferry that comes in from the harbour at half past seven with all of her lights on and nobody at the rail',
  ].join(' ')
  await output('ffmpeg', [
    ...['-v', 'error', '-y', '-f', 'lavfi', '-i', 'color=0x12475a:size=640x360', '-frames:v', '1', at('long.png')],
  ])
  await writeFile(at('long.txt'), script)
  // In the middle of the music there are five seconds of nothing: it is lost there, and the voice does not pause for it.
  const song = musicLike(30, -10)
  song.fill(0, 9 * 48000, 14 * 48000)
  await put('gap.wav', [song])
  await headless(
    ...['new', '--pictures', at('long.png'), '--bed', at('gap.wav'), '--script', at('long.txt')],
    ...['--out', at('long.zip')],
  )
  const mixed = () =>
    headless('mix', at('long.zip'), '--out', at('long.wav'), '--stems', at('long')) as Promise<BalanceSheet>
  const before = await mixed()
  await headless('captions', at('long.zip'), '--out', at('long.vtt'))
  const sheet = await mixed()

  const { words } = (await headless('align', at('long/voice.wav'), at('long.txt'), '--language', 'en')) as {
    words: { start: number; end: number }[]
  }
  const spoken = words.reduce((sum, { start, end }) => sum + end - start, 0)
  expect(Math.abs(sheet.spoken - spoken)).toBeLessThan(0.02 * spoken)
  expect(sheet.spoken).not.toBeCloseTo(before.spoken, 2)
  const sentences: { start: number; end: number }[] = []
  for (const { start, end } of words) {
    const last = sentences.at(-1)
    if (last && start - last.end < 0.3) last.end = end
    else sentences.push({ start, end })
  }
  const [voice, bed] = await Promise.all(['voice', 'bed'].map((name) => shortTermByFfmpeg(at(`long/${name}.wav`))))
  const readings = voice!
    .map(({ at, loudness }, i) => ({ from: at - 3, to: at, clearance: loudness - bed![i]!.loudness }))
    .filter(({ from, to }) => sentences.some(({ start, end }) => from >= start && to <= end))
  expect(readings.length).toBeGreaterThan(80)
  const lost = readings.filter(({ clearance }) => clearance > 16 + 3).length / readings.length
  const masked = readings.filter(({ clearance }) => clearance < 16 - 3).length / readings.length
  expect(lost).toBeGreaterThan(0.05)
  expect(Math.abs(sheet.lost! - lost)).toBeLessThan(0.05)
  expect(Math.abs(sheet.masked! - masked)).toBeLessThan(0.01)
  const median = readings.map(({ clearance }) => clearance).sort((a, b) => a - b)[readings.length >> 1]!
  expect(Math.abs(sheet.clearance! - median)).toBeLessThan(0.3)
})

describe('the voice', () => {
  const SENTENCES = [
    'The skipper reads the tide table before noon.',
    'Every chart shows nine metres of water, and a second buoy.',
    'Leave enough room for the turn.',
    'Our pilot book changes on most evenings under the bridge.',
  ]
  interface Word {
    text: string
    start: number
    end: number
    sentence: number
  }
  const isRising = (words: Word[]) =>
    words.every(({ start, end }, i) => end >= start && start >= (words[i - 1]?.start ?? 0))

  test('say writes the sound and when each word begins, in order and inside it', async () => {
    await writeFile(at('script.txt'), SENTENCES.join('\n'))
    const said = (await headless('say', at('script.txt'), '--out', at('said.wav'))) as { length: number; words: Word[] }
    const { channels, rate } = readWav(await readFile(at('said.wav')))
    expect(rate).toBe(48000)
    expect(channels[0]!.length / rate).toBeCloseTo(said.length, 3)
    expect(said.words.map(({ text }) => text).join(' ')).toBe(SENTENCES.join(' '))
    expect(isRising(said.words)).toBe(true)
    expect(said.words.at(-1)!.end).toBeLessThanOrEqual(said.length)
    // The first word of a sentence begins where its sound does.
    const { segments } = (await headless('speech', at('said.wav'))) as { segments: { start: number }[] }
    for (const sentence of [0, 1, 2, 3]) {
      const { start } = said.words.find((word) => word.sentence === sentence)!
      expect(Math.min(...segments.map((segment) => Math.abs(segment.start - start)))).toBeLessThan(0.06)
    }
  })

  test('align finds another voice’s words, a sentence left out, and one said twice', async () => {
    const order = [0, 1, 1, 3]
    await writeFile(at('order.txt'), order.map((i) => SENTENCES[i]).join('\n'))
    const said = (await headless(
      'say',
      at('order.txt'),
      '--voice',
      'flite:rms',
      '--rate',
      '165',
      '--out',
      at('other.wav'),
    )) as {
      words: Word[]
    }
    const found = (await headless('align', at('other.wav'), at('script.txt'), '--language', 'en')) as {
      words: Word[]
      sentences: { index: number; status: string; start: number }[]
      extra: { kind: string; index?: number; start: number; end: number }[]
    }
    expect(found.sentences.map(({ status }) => status)).toEqual(['spoken', 'spoken', 'skipped', 'spoken'])
    // Sentence starts are true whatever engine has spoken; the later of two tries counts. The measure is 150 ms.
    const startOf = (place: number) => said.words.find(({ sentence }) => sentence === place)!.start
    expect(Math.abs(found.sentences[0]!.start - startOf(0))).toBeLessThan(0.15)
    expect(Math.abs(found.sentences[1]!.start - startOf(2))).toBeLessThan(0.15)
    expect(Math.abs(found.sentences[3]!.start - startOf(3))).toBeLessThan(0.15)
    expect(found.extra).toMatchObject([{ kind: 'retake', index: 1 }])
    expect(isRising(found.words)).toBe(true)
  })

  test.each([20, 10])('clean: noise at %d dB sinks by 20 dB and more, the speech stays within 1 dB', async (ratio) => {
    await headless('say', at('script.txt'), '--pause', '1', '--out', at('clean.wav'))
    const clean = readWav(await readFile(at('clean.wav'))).channels[0]!
    // 1.5 s of the room alone, then the words.
    const lead = 48000 * 1.5
    const quiet = new Float32Array(lead + clean.length)
    quiet.set(clean, lead)
    const speechPower = clean
      .filter((value) => Math.abs(value) > 0.01)
      .reduce((sum, value, _, all) => sum + value ** 2 / all.length, 0)
    const peak = Math.sqrt(3 * speechPower * 10 ** (-ratio / 10))
    const hiss = noise(quiet.length, 11)
    await put('noisy.wav', [quiet.map((value, i) => value + hiss[i]! * peak)])
    await headless('clean', at('noisy.wav'), '--out', at('cleaned.wav'), '--noise-from', '0.2', '--noise-to', '1.2')
    const [noisy, cleaned] = await Promise.all(
      ['noisy.wav', 'cleaned.wav'].map(async (name) => readWav(await readFile(at(name))).channels[0]!),
    )
    expect(cleaned!.length).toBe(noisy!.length)
    const power = (samples: Float32Array, from: number, to: number) =>
      10 * Math.log10(samples.slice(from, to).reduce((sum, value) => sum + value ** 2, 0) / (to - from) + 1e-12)
    expect(power(noisy!, 24000, 60000) - power(cleaned!, 24000, 60000)).toBeGreaterThan(20)
    expect(Math.abs(power(cleaned!, lead, quiet.length) - power(quiet, lead, quiet.length))).toBeLessThan(1)
  })
})

test.each([
  [['loudness'], 2, /missing required argument/],
  [['shout'], 2, /unknown command/],
  [['ride', '--voice', 'x.wav', '--out-dir', 'y'], 2, /required option '--bed <file>'/],
  [['loudness', '/no/such/file.wav'], 1, /no such file: \/no\/such\/file\.wav/],
  [['loudness', '/tmp'], 1, /folder|file is needed/],
  [['speech', join(ROOT, 'package.json')], 1, /can't be used: package\.json\. Bring in/],
  [['mix', join(ROOT, 'package.json'), '--out', '/tmp/x.wav'], 1, /not a saved lesson/],
] as const)('wrong use ends in one sentence: %j', async (args, code, sentence) => {
  const refusal = await refused(...args)
  expect(refusal.code).toBe(code)
  expect(refusal.stdout).toBe('')
  expect(refusal.stderr.trim()).toMatch(sentence)
  expect(refusal.stderr.trim().split('\n')).toHaveLength(1)
  expect(refusal.stderr).not.toMatch(/ at .*\.(m?js|ts):\d+/)
})
