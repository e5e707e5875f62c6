import { asInFile } from './soundTrack'
import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import sharp from 'sharp'
import { writeWav } from '@/core/formats/wav'
import { integratedLoudness } from '@/core/measure/loudness'
import { noise, tones } from '@/core/testing/signals'
import { importing } from '../testing/importing'
import { importMedia } from './import'
import { runProgram } from '../process'
import { PARTS, storeSource } from '../store/store'

/** Files of every kind that is taken, and of every kind that must be refused with a sentence. */

const bench = importing()
const { at, put, take, ffmpeg } = bench
const tone = () => [tones([[-20, 2]]), tones([[-20, 2]])]

const ROOM = 'anoisesrc=r=48000:a=0.0004:d=30:seed=3'
const MIXED = ['-filter_complex', '[0:a][1:a]amix=inputs=2:duration=first:normalize=0']

describe('what is taken', () => {
  beforeAll(() => put('tone.wav', writeWav(tone(), 48000)))

  test('a WAV file is kept sample by sample, once', async () => {
    const first = await take('tone.wav')
    expect(first).toMatchObject({ kind: 'sound', channels: 2, length: 2, note: null, extension: 'wav' })
    await put('same tone.wav', await readFile(at('tone.wav')))
    // Who brings it under another name finds it by that.
    expect(await take('same tone.wav')).toEqual({ ...first, name: 'same tone.wav' })
    const { source, close } = storeSource(bench.store)
    const [left] = await source(first.hash, 1000, 4800)
    await close()
    const wanted = tone()[0]!
    for (let i = 0; i < 4800; i += 7) expect(left![i]!).toBeCloseTo(wanted[1000 + i]!, 6)
    expect(integratedLoudness((await bench.store.analysis(first.hash))!.energy)).toBeCloseTo(-20, 1)
  })

  test('hum of the mains is found in the pauses of a voice', async () => {
    const talk = "'0.2*sin(2*PI*(180+40*sin(3*t))*t)*gt(sin(2*PI*t/2),-0.5)"
    const humming = "0.004*sin(2*PI*50.03*t)+0.003*sin(2*PI*100.06*t)'"
    const make = (name: string, sound: string) =>
      ffmpeg('-f', 'lavfi', '-i', `aevalsrc=${sound}:s=48000:d=30`, '-f', 'lavfi', '-i', ROOM, ...MIXED, at(name))
    await make('humming.flac', `${talk}+${humming}`)
    await make('quiet.flac', `${talk}'`)
    const { hum } = await take('humming.flac')
    expect(hum!.multiples).toEqual([1, 2])
    expect(Math.abs(hum!.at - 50.03)).toBeLessThan(0.02)
    expect((await take('quiet.flac')).hum).toBeNull()
  })

  test.each([
    ['left-only', 'c0=c0|c1=0*c0', -20],
    ['right-only', 'c0=0*c0|c1=c0', -20],
    ['opposite', 'c0=c0|c1=-1*c0', -20],
  ])(
    'a voice that is %s is heard in the middle, and as it is in its file where that is wanted',
    async (sides, pan, level) => {
      const name = `${sides}.flac`
      await ffmpeg('-i', at('tone.wav'), '-af', `pan=stereo|${pan}`, at(name))
      const media = await take(name)
      expect(media).toMatchObject({ channels: 1, sides, length: 2 })
      expect(integratedLoudness((await bench.store.analysis(media.hash))!.energy)).toBeCloseTo(level, 1)
      const asItIs = await asInFile(bench.store, media.hash)
      expect(asItIs).toMatchObject({ channels: 2, sides: null, length: 2, name })
      const { source, close } = storeSource(bench.store)
      const [left, right] = await source(asItIs.hash, 1000, 4800)
      const [middle] = await source(media.hash, 1000, 4800)
      await close()
      const loudest = (sound: Float32Array) => sound.reduce((most, value) => Math.max(most, Math.abs(value)), 0)
      expect(loudest(left!) > 0.01).toBe(sides !== 'right-only')
      expect(loudest(right!) > 0.01).toBe(sides !== 'left-only')
      const wanted = sides === 'right-only' ? right! : left!
      for (let i = 0; i < 4800; i += 7) expect(middle![i]!).toBeCloseTo(wanted[i]!, 5)
    },
  )

  test('samples before the beginning and after the end are silent', async () => {
    const { hash } = await take('tone.wav')
    const { source, close } = storeSource(bench.store)
    const [before] = await source(hash, -100, 200)
    const [after] = await source(hash, 2 * 48000 - 50, 100)
    await close()
    expect([...before!.subarray(0, 100)].every((value) => value === 0)).toBe(true)
    expect(before!.subarray(100).some((value) => value !== 0)).toBe(true)
    expect([...after!.subarray(50)].every((value) => value === 0)).toBe(true)
  })

  test.each([
    ['mp3', ['-c:a', 'libmp3lame']],
    ['m4a', ['-c:a', 'aac']],
    ['ogg', ['-c:a', 'libvorbis']],
    ['opus', ['-c:a', 'libopus']],
    ['flac', ['-c:a', 'flac']],
  ])('%s is decoded to the house format', async (ending, coding) => {
    await ffmpeg('-i', at('tone.wav'), ...coding, at(`tone.${ending}`))
    const media = await take(`tone.${ending}`)
    expect(media).toMatchObject({ kind: 'sound', channels: 2, note: null })
    expect(media.length!).toBeGreaterThan(1.95)
    expect(media.length!).toBeLessThan(2.1)
    expect(integratedLoudness((await bench.store.analysis(media.hash))!.energy)!).toBeCloseTo(-20, 0)
  })

  test('other rates and surround come out as stereo at 48 kHz', async () => {
    await put('low.wav', writeWav([tones([[-20, 3]], 500, 8000)], 8000))
    expect(await take('low.wav')).toMatchObject({ channels: 1, length: 3 })
    const six = Array.from({ length: 6 }, () => tones([[-30, 1]], 500, 96000))
    await put('surround.wav', writeWav(six, 96000))
    expect(await take('surround.wav')).toMatchObject({ channels: 2, length: 1 })
  })

  test('a moving GIF is a recording', async () => {
    await ffmpeg('-f', 'lavfi', '-i', 'testsrc=size=320x180:rate=10:duration=2', at('moving.gif'))
    const media = await take('moving.gif')
    expect(media).toMatchObject({ kind: 'recording', channels: 0 })
    expect(media.length!).toBeCloseTo(2, 1)
  })

  test.each([
    ['aiff', ['-c:a', 'pcm_s24be']],
    ['caf', ['-c:a', 'pcm_s16le']],
    ['wma', ['-c:a', 'wmav2']],
    ['rf64.wav', ['-c:a', 'pcm_s16le', '-rf64', 'always']],
  ])('a sound as %s is heard as it is', async (ending, coding) => {
    await ffmpeg('-i', at('tone.wav'), ...coding, at(`foreign.${ending}`))
    const media = await take(`foreign.${ending}`)
    expect(media).toMatchObject({ kind: 'sound', channels: 2, note: null })
    expect(Math.abs(media.length! - 2)).toBeLessThan(0.06)
    expect(integratedLoudness((await bench.store.analysis(media.hash))!.energy)!).toBeCloseTo(-20, 0)
  })

  test('a recording has a picture that plays everywhere, its own sound and its length', async () => {
    await ffmpeg(
      '-f',
      'lavfi',
      '-i',
      'testsrc=size=640x360:rate=25:duration=2',
      '-i',
      at('tone.wav'),
      '-c:v',
      'libvpx',
      '-c:a',
      'libopus',
      at('screen.webm'),
    )
    const media = await take('screen.webm')
    expect(media).toMatchObject({ kind: 'recording', channels: 2 })
    expect(media.length!).toBeCloseTo(2, 1)
    const probe = await runProgram(
      'ffprobe',
      [
        '-v',
        'error',
        '-show_entries',
        'stream=codec_name,width,height,r_frame_rate',
        '-of',
        'csv=p=0',
        await bench.store.local(media.hash, PARTS.proxy),
      ],
      { limit: 20 },
    )
    expect(probe.toString().trim()).toBe('h264,640,360,30/1')
  })

  test('a container without a picture is a sound, whatever its ending says', async () => {
    await ffmpeg('-i', at('tone.wav'), '-c:a', 'aac', at('only-sound.mp4'))
    expect((await take('only-sound.mp4')).kind).toBe('sound')
  })

  test('a file that was cut off is taken with a note', async () => {
    const whole = writeWav([noise(48000 * 4)], 48000)
    await put('half.wav', whole.subarray(0, whole.length / 2))
    await ffmpeg('-i', at('tone.wav'), '-c:a', 'flac', at('cut.flac'))
    await put('cut.flac', (await readFile(at('cut.flac'))).subarray(0, 20000))
    expect((await take('cut.flac')).note).toMatch('cut off')
  })
})

describe('what is refused, with a sentence that says what to do', () => {
  const playlist = '#EXTM3U\n#EXT-X-TARGETDURATION:10\n#EXTINF:10,\nfile:///etc/passwd\n#EXT-X-ENDLIST\n'
  const cases: [name: string, make: () => Promise<unknown>, sentence: RegExp][] = [
    ['empty.wav', () => put('empty.wav', ''), /nothing in this file: empty\.wav.*again/],
    ['text.mp4', () => put('text.mp4', 'This is only a text.'), /can't be used: text\.mp4\. Bring in a picture \(PNG/],
    ['list.mp3', () => put('list.mp3', playlist), /can't be used: list\.mp3/],
    ['concat.wav', () => put('concat.wav', "ffconcat version 1.0\nfile '/etc/passwd'\n"), /can't be used/],
    [
      'no-samples.wav',
      () => put('no-samples.wav', writeWav([new Float32Array(0)], 48000)),
      /no sound in it: no-samples\.wav/,
    ],
    ['silence.wav', () => put('silence.wav', writeWav([new Float32Array(96000)], 48000)), /only silence.*microphone/],
    ['truncated.mp4', truncatedVideo, /damaged or incomplete: truncated\.mp4/],
    ['truncated.png', truncatedPicture, /damaged or incomplete: truncated\.png/],
    ['huge.png', hugePicture, /too large: huge\.png has 20,000 x 20,000/],
    ['locked.pdf', lockedDeck, /locked with a password: locked\.pdf.*without one/],
    ['broken.pdf', () => put('broken.pdf', '%PDF-1.4\nnothing more'), /damaged or incomplete: broken\.pdf/],
  ]

  test.each(cases)('%s', async (name, make, sentence) => {
    await make()
    const before = await readdir(join(bench.folder, 'media'))
    await expect(take(name)).rejects.toMatchObject({ name: 'UserError', message: expect.stringMatching(sentence) })
    const after = await readdir(join(bench.folder, 'media'))
    // Nothing half-made stays behind.
    expect(after).toEqual(after.filter((entry) => before.includes(entry) || entry === '.drafts'))
    expect(await readdir(join(bench.folder, 'media', '.drafts')).catch(() => [])).toEqual([])
  })

  test('a recording without sound is taken, and says it has none', async () => {
    await silentFilm()
    expect(await take('silent-film.mp4')).toMatchObject({ kind: 'recording', channels: 0 })
  })

  async function truncatedVideo() {
    await ffmpeg('-f', 'lavfi', '-i', 'testsrc=size=320x180:rate=30:duration=2', '-c:v', 'libx264', at('whole.mp4'))
    await put('truncated.mp4', (await readFile(at('whole.mp4'))).subarray(0, 6000))
  }
  async function truncatedPicture() {
    const whole = await sharp({
      create: {
        width: 900,
        height: 900,
        channels: 3,
        background: '#fff',
        noise: { type: 'gaussian', mean: 128, sigma: 30 },
      },
    })
      .png()
      .toBuffer()
    await put('truncated.png', whole.subarray(0, whole.length / 3))
  }
  async function hugePicture() {
    await put(
      'huge.png',
      await sharp({ create: { width: 20000, height: 20000, channels: 3, background: '#fff' }, limitInputPixels: false })
        .png()
        .toBuffer(),
    )
  }
  async function lockedDeck() {
    // Encrypted with the standard handler; the dictionary alone makes a reader ask for the password.
    const key = '<' + '41'.repeat(32) + '>'
    await put(
      'locked.pdf',
      `%PDF-1.4
1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj
2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj
3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 100]>>endobj
4 0 obj<</Filter/Standard/V 1/R 2/O ${key}/U ${key}/P -4>>endobj
trailer<</Root 1 0 R/Encrypt 4 0 R/ID[<00><00>]>>
%%EOF`,
    )
  }
  async function silentFilm() {
    await ffmpeg(
      '-f',
      'lavfi',
      '-i',
      'testsrc=size=320x180:rate=30:duration=1',
      '-c:v',
      'libx264',
      '-pix_fmt',
      'yuv420p',
      at('silent-film.mp4'),
    )
  }
})

describe('files as they come', () => {
  beforeAll(() => put('tone.wav', writeWav(tone(), 48000)))

  test('samples that are no numbers, or beyond all measure, are silent, and that is said', async () => {
    const samples = tones([[-20, 2]])
    for (const [i, value] of [NaN, Infinity, -Infinity, 1e30].entries()) samples[48_000 + i] = value
    await put('broken.wav', floatWav(samples, 48_000))
    const media = await take('broken.wav')
    expect(media.note).toMatch(/^4 samples of this file are damaged and silent now/)
    const { source, close } = storeSource(bench.store)
    const [found] = await source(media.hash, 47_990, 30)
    await close()
    expect([...found!].every((value) => Math.abs(value) < 1)).toBe(true)
    expect([...found!.slice(10, 14)]).toEqual([0, 0, 0, 0])
    expect(found![20]!).toBeCloseTo(samples[48_010]!, 6)
    expect(integratedLoudness((await bench.store.analysis(media.hash))!.energy)!).toBeCloseTo(-20, 1)
  })

  test('odd rates and many channels are refused with what to do, before anything is decoded', async () => {
    await put('slow.wav', floatWav(tones([[-20, 0.02]]), 1))
    await expect(take('slow.wav')).rejects.toThrow(/1 samples a second: slow\.wav\. Save it with/)
    await ffmpeg('-f', 'lavfi', '-i', `aevalsrc=${Array(16).fill('0.1').join('|')}:d=1`, at('many.wav'))
    await expect(take('many.wav')).rejects.toThrow(/16 channels: many\.wav\. Save it with one or two/)
  })

  test('a length that is only reckoned makes no file cut off; one that is promised does', async () => {
    await ffmpeg('-i', at('tone.wav'), '-c:a', 'aac', '-f', 'adts', at('tone.aac'))
    expect((await take('tone.aac')).note).toBeNull()
    await ffmpeg('-f', 'lavfi', '-i', 'anoisesrc=d=20:a=0.1', '-q:a', '9', '-write_xing', '0', at('bare.mp3'))
    expect((await take('bare.mp3')).note).toBeNull()
    const flac = at('whole.flac')
    await ffmpeg('-f', 'lavfi', '-i', 'anoisesrc=d=20:a=0.1', flac)
    await put('half.flac', (await readFile(flac)).subarray(0, 300_000))
    expect((await take('half.flac')).note).toMatch(/^This file is cut off/)
  })

  test('sound that goes on after the last picture is kept, and the last picture stays', async () => {
    await ffmpeg(
      ...['-f', 'lavfi', '-i', 'testsrc=size=320x180:rate=30:duration=2'],
      ...['-f', 'lavfi', '-i', 'sine=frequency=440:duration=6'],
      ...['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac', at('still going.mp4')],
    )
    const media = await take('still going.mp4')
    expect(Math.abs(media.length! - 6)).toBeLessThan(0.1)
    expect(media.note).toBeNull()
    expect(media.lastPicture!).toBeGreaterThan(1.9)
    const proxy = await bench.store.local(media.hash, PARTS.proxy)
    const frame = (time: string) =>
      runProgram(
        'ffmpeg',
        [
          ...['-v', 'error', '-ss', time, '-i', proxy, '-frames:v', '1'],
          ...['-f', 'rawvideo', '-pix_fmt', 'gray', 'pipe:1'],
        ],
        { limit: 30 },
      )
    const [last, later] = [await frame('1.95'), await frame('5.5')]
    const difference = last.reduce((sum, value, i) => sum + Math.abs(value - later[i]!), 0) / last.length
    expect(difference).toBeLessThan(2)
  })

  test.each([
    ['look.ico', '\0\0\x01\0\x01\0\x10\x10\0\0\x01\0\x20\0', 'Save the picture as PNG or JPEG'],
    ['voice.amr', '#!AMR\n\0\0\0\0', 'Save the sound as WAV or FLAC'],
    ['film.flv', 'FLV\x01\x05\0\0\0\x09', 'Save the recording as MP4'],
  ])('%s is named with what to do', async (name, bytes, advice) => {
    await put(name, Buffer.from(bytes, 'latin1'))
    await expect(take(name)).rejects.toThrow(advice)
  })

  test('a name may be as long as a path, and holds nothing that no database takes', async () => {
    const name = `${'long '.repeat(60)}\0\ud83d.wav`
    const media = await importMedia(bench.store, await put('named.wav', writeWav([tones([[-21, 1]])], 48000)), name)
    expect(media.name).toBe(`${'long '.repeat(60)}\ufffd.wav`)
  })
})

/** 32-bit float WAV, as recorders and editors write it. */
function floatWav(samples: Float32Array, rate: number): Buffer {
  const header = Buffer.alloc(44)
  header.write('RIFF', 0)
  header.writeUInt32LE(36 + samples.byteLength, 4)
  header.write('WAVEfmt ', 8)
  header.writeUInt32LE(16, 16)
  header.writeUInt16LE(3, 20)
  header.writeUInt16LE(1, 22)
  header.writeUInt32LE(rate, 24)
  header.writeUInt32LE(rate * 4, 28)
  header.writeUInt16LE(4, 32)
  header.writeUInt16LE(32, 34)
  header.write('data', 36)
  header.writeUInt32LE(samples.byteLength, 40)
  return Buffer.concat([header, Buffer.from(samples.buffer)])
}
