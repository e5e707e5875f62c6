import { readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { compose, scoreLength } from '@/core/compose/compose'
import type { Wish } from '@/core/compose/wish'
import { writeScore } from '@/core/formats/midi'
import { HOUSE_RATE, type Seconds } from '@/core/units'
import { runProgram } from './process'
import { withWorkFolder } from './store/workFolder'

/** Plays a Standard MIDI File and writes what is heard, as a WAV file at the house rate. */
export type Instruments = (midi: string, wav: string, signal?: AbortSignal) => Promise<void>

const SOUND_FONT = '/usr/share/sounds/sf2/TimGM6mb.sf2'

/** Debian's General MIDI synthesiser with its small sound font. */
export const fluidsynth: Instruments = async (midi, wav, signal) => {
  const args = ['-ni', '-g', '0.6', '-r', String(HOUSE_RATE), '-F', wav, SOUND_FONT, midi]
  await runProgram('fluidsynth', args, { limit: 1800, signal })
}

/** Kept after the last note ends: its ring. */
const RING: Seconds = 1.5

/** Has the piece of a wish played: a WAV file as long as the wish, its ring fading within it. */
export async function playWish(wish: Wish, play: Instruments = fluidsynth, signal?: AbortSignal): Promise<Buffer> {
  return withWorkFolder(async (folder) => {
    const [midi, raw, wav] = ['piece.mid', 'raw.wav', 'piece.wav'].map((name) => join(folder, name)) as [
      string,
      string,
      string,
    ]
    const score = compose({ ...wish, length: Math.max(3, wish.length - RING) })
    await writeFile(midi, writeScore(score))
    await play(midi, raw, signal)
    const length = Math.min(wish.length, scoreLength(score) + RING)
    const filter = `afade=t=out:st=${(length - RING).toFixed(3)}:d=${RING},apad=whole_dur=${length.toFixed(6)}`
    const args = ['-v', 'error', '-y', '-i', raw, '-af', filter, '-t', length.toFixed(6), '-c:a', 'pcm_s24le', wav]
    await runProgram('ffmpeg', args, { limit: 600, signal })
    return readFile(wav)
  })
}
