import { writeMidi, type MidiEvent } from 'midi-file'
import type { Score } from '@/core/compose/compose'

const TICKS_PER_BEAT = 480

/** A piece as a Standard MIDI File, format 0. */
export function writeScore({ tempo, programs, notes, bars, beatsPerBar }: Score): Uint8Array {
  const timed: { at: number; event: MidiEvent }[] = [
    { at: 0, event: { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: Math.round(60e6 / tempo) } },
    ...programs.map(({ channel, program }) => ({
      at: 0,
      event: { deltaTime: 0, type: 'programChange', channel, programNumber: program } as MidiEvent,
    })),
    ...notes.flatMap(({ channel, key, velocity, start, length }) => [
      { at: ticks(start), event: { deltaTime: 0, type: 'noteOn', channel, noteNumber: key, velocity } as MidiEvent },
      {
        at: ticks(start + length),
        event: { deltaTime: 0, type: 'noteOff', channel, noteNumber: key, velocity: 0 } as MidiEvent,
      },
    ]),
  ]
  // A note ends before the same note begins anew.
  const order = ({ event }: { event: MidiEvent }) => (event.type === 'noteOff' ? 1 : event.type === 'noteOn' ? 2 : 0)
  timed.sort((a, b) => a.at - b.at || order(a) - order(b))
  const events = timed.map(({ at, event }, i) => ({ ...event, deltaTime: at - (timed[i - 1]?.at ?? 0) }))
  const end = Math.max(0, ticks(bars * beatsPerBar) - (timed.at(-1)?.at ?? 0))
  const track = [...events, { deltaTime: end, meta: true, type: 'endOfTrack' } as MidiEvent]
  return Uint8Array.from(
    writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat: TICKS_PER_BEAT }, tracks: [track] }),
  )
}

const ticks = (beats: number) => Math.round(beats * TICKS_PER_BEAT)
