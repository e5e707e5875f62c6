import type { Seconds } from '@/core/units'
import type { SoundCue } from './document'
import type { Loose, SoundSpan, StepSpan, TimeOfMark } from './timeline'

/** Sounds at the places they hang on; those that hang on nothing any more are loose. */
export function laySounds(
  cues: readonly SoundCue[],
  steps: readonly StepSpan[],
  timeOf: TimeOfMark,
): { sounds: SoundSpan[]; loose: Loose[] } {
  const starts = new Map(steps.map(({ step, start }) => [step.id, start]))
  const byId = new Map(cues.map((cue) => [cue.id, cue]))
  const sounds: SoundSpan[] = []
  const loose: Loose[] = []
  for (const cue of cues) {
    const start = startOf(cue, new Set())
    // What begins before the lesson does begins with it.
    if (start === null) loose.push({ kind: 'sound', id: cue.id, cue })
    else sounds.push({ cue, start: Math.max(0, start), end: Math.max(0, start) + cue.to - cue.from })
  }
  return { sounds: sounds.sort((a, b) => a.start - b.start), loose }

  /** `seen` guards against sounds that hang on each other. */
  function startOf({ id, anchor }: SoundCue, seen: Set<string>): Seconds | null {
    if (seen.has(id)) return null
    seen.add(id)
    const base = anchorTime(anchor, seen)
    return base === null ? null : base + anchor.offset
  }

  function anchorTime(anchor: SoundCue['anchor'], seen: Set<string>): Seconds | null {
    switch (anchor.kind) {
      case 'step':
        return starts.get(anchor.step) ?? null
      case 'mark':
        return timeOf(anchor.mark)
      case 'sound': {
        const other = byId.get(anchor.sound)
        return other ? startOf(other, seen) : null
      }
    }
  }
}
