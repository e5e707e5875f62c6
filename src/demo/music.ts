import { writeFile } from 'node:fs/promises'
import { writeMidi, type MidiEvent } from 'midi-file'
import { runProgram } from '@/media/process'

/** A calm piece in D major for pad, harp and bass: chord degrees a bar, played round with small changes. */
const CHORDS = [
  [50, 57, 62, 66],
  [47, 54, 62, 66],
  [43, 55, 59, 62],
  [45, 52, 61, 64],
  [50, 57, 62, 66],
  [54, 57, 61, 66],
  [43, 50, 59, 67],
  [45, 57, 61, 64],
]
const TICKS = 480
const BAR = 4 * TICKS
const PROGRAMS = { pad: 89, harp: 46, bass: 32 } // General MIDI, counted from 0

interface Note {
  channel: number
  key: number
  velocity: number
  from: number
  length: number
}

/** Writes the piece as a Standard MIDI File, has it played by the synthesiser and codes it (by the file's ending). */
export async function composeBed(work: string, rounds: number, out: string): Promise<void> {
  const midi = `${work}.mid`
  const wav = `${work}.wav`
  await writeFile(
    midi,
    Buffer.from(
      writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat: TICKS }, tracks: [track(notes(rounds))] }),
    ),
  )
  await runProgram(
    'fluidsynth',
    ['-ni', '-g', '0.7', '-r', '48000', '-F', wav, '/usr/share/sounds/sf2/TimGM6mb.sf2', midi],
    { limit: 300 },
  )
  await runProgram('ffmpeg', ['-v', 'error', '-y', '-f', 'wav', '-i', wav, '-b:a', '160k', out], { limit: 300 })
}

function notes(rounds: number): Note[] {
  const all: Note[] = []
  for (let bar = 0; bar < rounds * CHORDS.length; bar++) {
    const chord = CHORDS[bar % CHORDS.length]!
    const from = bar * BAR
    chord.slice(1).forEach((key) => all.push({ channel: 0, key, velocity: 58, from, length: BAR - 20 }))
    all.push({ channel: 2, key: chord[0]! - 12, velocity: 62, from, length: BAR - 60 })
    for (let beat = 0; beat < 8; beat++) {
      const key = chord[[0, 2, 1, 3, 2, 1, 3, 2][(beat + (bar >> 3)) % 8]!]! + 12
      all.push({ channel: 1, key, velocity: beat % 4 === 0 ? 70 : 52, from: from + (beat * TICKS) / 2, length: TICKS })
    }
  }
  const end = rounds * CHORDS.length * BAR
  CHORDS[0]!.forEach((key) => all.push({ channel: 0, key, velocity: 56, from: end, length: 2 * BAR }))
  return all
}

function track(all: readonly Note[]): MidiEvent[] {
  const timed: { at: number; event: MidiEvent }[] = [
    { at: 0, event: { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: 60_000_000 / 72 } },
    ...Object.values(PROGRAMS).map((programNumber, channel) => ({
      at: 0,
      event: { deltaTime: 0, type: 'programChange', channel, programNumber } as MidiEvent,
    })),
    ...all.flatMap(({ channel, key: noteNumber, velocity, from, length }) => [
      { at: from, event: { deltaTime: 0, type: 'noteOn', channel, noteNumber, velocity } as MidiEvent },
      { at: from + length, event: { deltaTime: 0, type: 'noteOff', channel, noteNumber, velocity: 0 } as MidiEvent },
    ]),
  ]
  timed.sort((a, b) => a.at - b.at)
  const events = timed.map(({ at, event }, i) => ({ ...event, deltaTime: at - (timed[i - 1]?.at ?? 0) }))
  return [...events, { deltaTime: BAR, meta: true, type: 'endOfTrack' }]
}
