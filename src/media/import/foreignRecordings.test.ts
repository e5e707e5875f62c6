import { writeFile } from 'node:fs/promises'
import { writeWav } from '@/core/formats/wav'
import type { Lesson } from '@/core/lesson/document'
import { emptyLesson, newRecording, newStep } from '@/core/lesson/newParts'
import { HOUSE_RATE, type Seconds } from '@/core/units'
import { soundsOf } from '../lessonMedia'
import { runProgram } from '../process'
import { openAssets } from '../store/assets'
import { folderObjects } from '../store/folderObjects'
import { importing } from '../testing/importing'
import { PARTS, storeSource } from '../store/store'
import { PROXY_RATE } from '../video/recording'
import { renderVideo } from '../video/render'
import { withSoundTrack } from './soundTrack'

/**
 * Recordings as phones, cameras and screen recorders write them: time stamps decide when something is seen and heard. A
 * flash and a beep are at the same moment, and are found again in what the page plays and in the finished video.
 */

const bench = importing()
const { at, take, ffmpeg } = bench

/** Black; `flash` makes it white for a quarter second. */
const black = (length: Seconds, rate = 30) => [
  ...['-f', 'lavfi', '-i', `color=black:size=640x360:rate=${rate}:duration=${length}`],
]
const flash = (moment: Seconds) => `drawbox=color=white:t=fill:enable='between(t,${moment - 0.001},${moment + 0.25})'`
async function beep(name: string, moment: Seconds, length: Seconds): Promise<string> {
  const samples = new Float32Array(length * HOUSE_RATE)
  for (let i = 0; i < 0.25 * HOUSE_RATE; i++)
    samples[Math.round(moment * HOUSE_RATE) + i] = 0.5 * Math.sin((2 * Math.PI * 1000 * i) / HOUSE_RATE)
  await writeFile(at(name), writeWav([samples], HOUSE_RATE))
  return at(name)
}
async function picture(name: string, moment: Seconds, length: Seconds): Promise<string> {
  await ffmpeg(...black(length), '-vf', flash(moment), '-c:v', 'libx264', '-g', '30', at(name))
  return at(name)
}

/** When it flashes in a video. */
async function seenAt(file: string): Promise<Seconds> {
  const grey = ['-i', file, '-vf', 'scale=1:1:flags=area,format=gray', '-f', 'rawvideo', 'pipe:1']
  return (
    (await runProgram('ffmpeg', ['-v', 'error', ...grey], { limit: 60 })).findIndex((value) => value > 128) / PROXY_RATE
  )
}
const beepIn = (samples: Float32Array) => samples.findIndex((value) => Math.abs(value) > 0.1) / HOUSE_RATE
async function heardAt(hash: string, length: Seconds): Promise<Seconds> {
  const { source, close } = storeSource(bench.store)
  const [left] = await source(hash, 0, length * HOUSE_RATE)
  await close()
  return beepIn(left!)
}

const FRAME: Seconds = 1 / PROXY_RATE

/** In the page's copy, and in the finished video. */
async function expectTogether(name: string, moment: Seconds, length: Seconds): Promise<void> {
  const media = await take(name)
  expect(media.note).toBeNull()
  expect(Math.abs((await seenAt(await bench.store.local(media.hash, PARTS.proxy))) - moment)).toBeLessThanOrEqual(FRAME)
  expect(Math.abs((await heardAt(media.hash, length)) - moment)).toBeLessThan(0.02)
  const lesson: Lesson = {
    ...emptyLesson('x'),
    frame: { ...emptyLesson('x').frame, lines: 720 },
    steps: [newStep('s', '', { ...newRecording(media.hash, media.length!), gain: 0 })],
  }
  const assets = openAssets(folderObjects(at('coded')))
  await renderVideo(lesson, bench.store, await soundsOf(lesson, bench.store), assets, at('out.mp4'))
  expect(Math.abs((await seenAt(at('out.mp4'))) - moment)).toBeLessThanOrEqual(FRAME)
  const raw = await ffmpeg('-i', at('out.mp4'), '-ac', '1', '-ar', String(HOUSE_RATE), '-f', 'f32le', 'pipe:1')
  const heard = beepIn(new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length)))
  expect(Math.abs(heard - moment)).toBeLessThan(0.02)
}

describe('flash and beep', () => {
  test.each(['mp4', 'mkv', 'mov'])('of a sound that begins later than the picture (%s)', async (ending) => {
    const coded = ending === 'mov' ? ['-c:a', 'pcm_s16le'] : ['-c:a', 'aac']
    const inputs = ['-itsoffset', '0.7', '-i', await beep('late.wav', 1.3, 4), '-i', await picture('p.mp4', 2, 5)]
    await ffmpeg(...inputs, '-map', '1:v', '-map', '0:a', '-c:v', 'copy', ...coded, at(`sound-late.${ending}`))
    await expectTogether(`sound-late.${ending}`, 2, 4)
  })

  test('of a picture that begins later than the sound', async () => {
    const inputs = ['-itsoffset', '0.4', '-i', await picture('q.mp4', 1.6, 4), '-i', await beep('b.wav', 2, 4.4)]
    await ffmpeg(...inputs, '-map', '0:v', '-map', '1:a', '-c:v', 'copy', '-c:a', 'pcm_s16le', at('picture-late.mkv'))
    await expectTogether('picture-late.mkv', 2, 4)
  })

  test('after a gap in the sound', async () => {
    const gap = "asetpts='if(gt(T,1),PTS+1.5/TB,PTS)'"
    const inputs = ['-i', await beep('early.wav', 1.5, 3), '-i', await picture('r.mp4', 3, 5)]
    await ffmpeg(
      ...inputs,
      '-map',
      '1:v',
      '-map',
      '0:a',
      '-c:v',
      'copy',
      '-af',
      gap,
      '-c:a',
      'pcm_s16le',
      at('gap.mkv'),
    )
    await expectTogether('gap.mkv', 3, 4)
  })

  test('in a file with an edit list', async () => {
    const inputs = [
      '-ss',
      '0.517',
      '-i',
      await picture('s.mp4', 2.517, 6),
      '-ss',
      '0.517',
      '-i',
      await beep('e.wav', 2.517, 6),
    ]
    await ffmpeg(...inputs, '-map', '0:v', '-map', '1:a', '-c:v', 'copy', '-c:a', 'aac', at('edited.mp4'))
    await expectTogether('edited.mp4', 2, 4)
  })
})

/** Mean colour of a place of the page's copy, by its own tags. */
async function colourAt(hash: string, x: number, y: number): Promise<number[]> {
  const one = `crop=8:8:${x}:${y},scale=in_color_matrix=bt709:in_range=tv,format=gbrp,scale=1:1:flags=area,format=rgb24`
  const args = [
    '-i',
    await bench.store.local(hash, PARTS.proxy),
    '-vf',
    one,
    '-frames:v',
    '1',
    '-f',
    'rawvideo',
    'pipe:1',
  ]
  return [...(await ffmpeg(...args))]
}
const colour = (name: string, size: string) => ['-f', 'lavfi', '-i', `color=${name}:size=${size}:rate=25:duration=0.4`]

test('pixels that are not square are shown as they are meant, without a rest of the ground', async () => {
  await ffmpeg(...colour('red', '720x576'), '-vf', 'setsar=64/45', '-c:v', 'libx264', at('wide.mp4'))
  const { hash } = await take('wide.mp4')
  for (const [x, y] of [
    [2, 540],
    [1910, 540],
  ] as const)
    expect((await colourAt(hash, x, y))[1]).toBeLessThan(40)
})

test('an odd size fills the frame: no white rows', async () => {
  await ffmpeg(...colour('red', '1366x768'), '-c:v', 'libx264', '-pix_fmt', 'yuv420p', at('odd.mp4'))
  const { hash } = await take('odd.mp4')
  for (const y of [0, 1072]) expect((await colourAt(hash, 960, y))[1]).toBeLessThan(40)
})

test.each([
  ['1280x720', 'bt709'],
  ['640x360', 'bt601'],
])('a picture of %s without tags is taken for %s', async (size, matrix) => {
  const filter = `scale=out_color_matrix=${matrix}:out_range=tv,format=yuv420p`
  await ffmpeg(...colour('0xc81e3c', size), '-vf', filter, '-c:v', 'libx264', '-bsf:v', UNTAGGED, at(`${matrix}.mp4`))
  const { hash } = await take(`${matrix}.mp4`)
  ;(await colourAt(hash, 960, 540)).forEach((value, c) => expect(Math.abs(value - [200, 30, 60][c]!)).toBeLessThan(6))
})
const UNTAGGED = 'h264_metadata=colour_primaries=2:transfer_characteristics=2:matrix_coefficients=2'

test.each([
  ['smpte2084', 'PQ'],
  ['arib-std-b67', 'HLG'],
])('the white of a page in a wide range of light (%s) is white, and its grey is grey', async (transfer) => {
  const wide = `zscale=tin=bt709:t=${transfer}:pin=bt709:p=bt2020:min=bt709:m=bt2020nc:rin=tv:r=tv:npl=203,format=yuv420p10le`
  const tags = ['-color_trc', transfer, '-color_primaries', 'bt2020', '-colorspace', 'bt2020nc']
  for (const [name, grey] of [
    ['white', 255],
    ['0x808080', 128],
  ] as const) {
    const filter = `scale=out_color_matrix=bt709:out_range=tv,format=yuv444p,${wide}`
    await ffmpeg(
      ...colour(name, '1280x720'),
      '-vf',
      filter,
      ...tags,
      '-c:v',
      'libx265',
      '-x265-params',
      'log-level=none',
      at(`${transfer}-${name}.mp4`),
    )
    const { hash } = await take(`${transfer}-${name}.mp4`)
    for (const value of await colourAt(hash, 960, 540)) expect(Math.abs(value - grey)).toBeLessThan(10)
  }
})

test('lines of two moments become pictures of one', async () => {
  const moving = ['-f', 'lavfi', '-i', 'testsrc2=size=720x576:rate=50:duration=1']
  const woven = ['-vf', 'tinterlace=interleave_top', '-flags', '+ilme+ildct', '-x264opts', 'tff=1']
  await ffmpeg(...moving, ...woven, '-c:v', 'libx264', '-qp', '10', at('woven.mp4'))
  await ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'testsrc2=size=720x576:rate=25:duration=1',
    '-c:v',
    'libx264',
    '-qp',
    '10',
    at('whole.mp4'),
  )
  const [woven1, whole] = [await take('woven.mp4'), await take('whole.mp4')]
  const combs = await Promise.all([woven1.hash, whole.hash].map(combsIn))
  expect(combs[0]! / combs[1]!).toBeLessThan(1.6)
})

/** How much each line differs from both its neighbours in the same direction, where something moves. */
async function combsIn(hash: string): Promise<number> {
  const args = [
    '-i',
    await bench.store.local(hash, PARTS.proxy),
    '-vf',
    'scale=720:576:flags=neighbor,format=gray',
    '-f',
    'rawvideo',
    'pipe:1',
  ]
  const raw = await runProgram('ffmpeg', ['-v', 'error', ...args], { limit: 60 })
  let sum = 0
  for (let i = 720; i < raw.length - 720; i++) {
    const [up, down] = [raw[i]! - raw[i - 720]!, raw[i]! - raw[i + 720]!]
    if (up * down > 900) sum++
  }
  return sum
}

test('of several sounds the one that is meant is heard', async () => {
  await beep('soft.wav', 0.2, 2)
  await ffmpeg('-i', at('soft.wav'), '-af', 'volume=0.02', at('softer.wav'))
  const inputs = ['-i', await picture('t.mp4', 1, 2), '-i', at('softer.wav'), '-i', at('soft.wav')]
  const maps = ['-map', '0:v', '-map', '1:a', '-map', '2:a', '-disposition:a:0', '0', '-disposition:a:1', 'default']
  await ffmpeg(...inputs, ...maps, '-c:v', 'copy', '-c:a', 'aac', at('two.mkv'))
  expect(await heardAt((await take('two.mkv')).hash, 2)).toBeCloseTo(0.2, 1)
})

test('another of its sounds may be chosen, and the first again; the picture stays as it is', async () => {
  await beep('first.wav', 0.4, 2)
  await beep('second.wav', 1.2, 2)
  const inputs = ['-i', await picture('c.mp4', 1, 2), '-i', at('first.wav'), '-i', at('second.wav')]
  const told = ['-metadata:s:a:0', 'language=eng', '-metadata:s:a:1', 'title=Commentary']
  for (const name of ['choice.mkv', 'choice.mp4']) {
    await ffmpeg(
      ...inputs,
      ...['-map', '0:v', '-map', '1:a', '-map', '2:a'],
      ...told,
      '-c:v',
      'copy',
      '-c:a',
      'aac',
      at(name),
    )
    const media = await take(name)
    // MP4 keeps titles of tracks where nobody reads them.
    expect(media.soundTracks).toEqual(['English', name === 'choice.mkv' ? 'Commentary' : expect.any(String)])
    const other = await withSoundTrack(bench.store, media.hash, 1)
    expect(other).toMatchObject({ name, soundTrack: 1, soundTracks: media.soundTracks, length: media.length })
    expect(await heardAt(other.hash, 2)).toBeCloseTo(1.2, 1)
    expect(await seenAt(await bench.store.local(other.hash, PARTS.proxy))).toBeCloseTo(1, 1)
    expect(await heardAt((await withSoundTrack(bench.store, other.hash, 0)).hash, 2)).toBeCloseTo(0.4, 1)
  }
})
