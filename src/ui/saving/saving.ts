/**
 * Saving as a state machine: what is known, what happened, and what is to be done next. It knows neither clock nor network;
 * `autosave.ts` does what it orders and tells it what came of that. `L` is a state of a lesson, known by its identity.
 */
export interface Saving<L> {
  /** As it is here now. */
  present: L
  /** Something is being typed that is not in `present` yet. */
  isTyping: boolean
  /** What the server has, as far as is known here, and its revision there. */
  saved: L
  base: number
  /** Saves that were sent on top of `base` and may have been done, though no answer came. */
  saves: readonly string[]
  /** Sent and not answered: it is sent again as it was, so that it is known where it was done. */
  attempt: Sent<L> | null
  /** The server is being asked. */
  isAsking: boolean
  trouble: Trouble<L> | null
}

export interface Sent<L> {
  save: string
  lesson: L
}

export type Trouble<L> =
  /** No answer since a moment (ms since 1970). */
  | { kind: 'offline'; since: number; isKept: boolean }
  /** The server has looked at this state of the lesson and does not take it. */
  | { kind: 'refused'; reason: string; lesson: L }
  /** Another window changed the same things: somebody has to choose. */
  | { kind: 'conflict' }

export type Happening<L> =
  | { kind: 'changed'; lesson: L }
  | { kind: 'typing'; isTyping: boolean }
  /** The wait is over, or somebody wants it saved now; `save` is the id of a new save. */
  | { kind: 'due'; save: string }
  | { kind: 'taken'; revision: number }
  /** Somebody else was quicker. */
  | { kind: 'overtaken' }
  /** A save of ours had been done after all: what else was stored came on top of that. */
  | { kind: 'ownSaveFound'; revision: number; lesson: L }
  /** What somebody else stored was put together with what is here, which is `present` from now on. */
  | { kind: 'united'; revision: number; theirs: L; present: L }
  | { kind: 'clashed' }
  | { kind: 'refused'; reason: string }
  | { kind: 'unanswered'; at: number; isKept: boolean }
  /** The author wants the other version: nothing here is to be saved. */
  | { kind: 'givenUp' }

export type Order<L> =
  | { kind: 'send'; base: number; sent: Sent<L> }
  /** To find out what somebody else has stored. */
  | { kind: 'look' }
  /** Until it is due, instead of any wait before. */
  | { kind: 'wait'; for: number }

const WAIT = { afterChange: 400, afterFailure: 3000 } // ms
/** A draft tells this many of the saves that may have been done. */
const MOST_SAVES = 20

export const isSaved = <L>({ present, saved, attempt, isTyping }: Saving<L>): boolean =>
  present === saved && attempt === null && !isTyping

/** Whether there is something to send, and nothing that keeps it from being sent. */
export function wantsSaving<L>(now: Saving<L>): boolean {
  if (now.isAsking || now.trouble?.kind === 'conflict') return false
  if (now.trouble?.kind === 'refused' && now.trouble.lesson === now.present) return false
  return now.present !== now.saved || now.attempt !== null
}

/**
 * The state after something has happened, and what is to be done. Whatever happens: where there is still something to save
 * afterwards, it is sent or waited for.
 */
export function happen<L>(before: Saving<L>, what: Happening<L>): { now: Saving<L>; order: Order<L> | null } {
  const now = after(before, what)
  if (what.kind === 'overtaken') return { now, order: { kind: 'look' } }
  if (what.kind === 'due') {
    if (!now.isAsking || before.isAsking) return { now, order: null }
    return { now, order: { kind: 'send', base: now.base, sent: now.attempt! } }
  }
  return { now, order: wantsSaving(now) ? { kind: 'wait', for: waitAfter(now, what) } : null }
}

function waitAfter<L>({ trouble }: Saving<L>, { kind }: Happening<L>): number {
  if (trouble?.kind === 'offline') return WAIT.afterFailure
  return kind === 'changed' || kind === 'typing' ? WAIT.afterChange : 0
}

function after<L>(before: Saving<L>, what: Happening<L>): Saving<L> {
  switch (what.kind) {
    case 'changed':
      return { ...before, present: what.lesson, trouble: withoutRefusal(before.trouble) }
    case 'typing':
      return { ...before, isTyping: what.isTyping }
    case 'due':
      return wantsSaving(before) ? asking(before, what.save) : before
    case 'overtaken':
      return { ...before, attempt: null, trouble: null }
    case 'taken':
      return goneOnFrom(before, what.revision, before.attempt!.lesson)
    case 'ownSaveFound':
      return goneOnFrom(before, what.revision, what.lesson)
    case 'united':
      return { ...goneOnFrom(before, what.revision, what.theirs), present: what.present }
    case 'clashed':
      return { ...before, isAsking: false, trouble: { kind: 'conflict' } }
    case 'refused':
      return { ...before, isAsking: false, attempt: null, trouble: refusal(before, what.reason) }
    case 'unanswered': {
      const since = before.trouble?.kind === 'offline' ? before.trouble.since : what.at
      return { ...before, isAsking: false, trouble: { kind: 'offline', since, isKept: what.isKept } }
    }
    case 'givenUp':
      return { ...before, saved: before.present, attempt: null, saves: [], trouble: null }
  }
}

function asking<L>(before: Saving<L>, save: string): Saving<L> {
  const attempt = before.attempt ?? { save, lesson: before.present }
  const saves = before.saves.includes(attempt.save) ? before.saves : [...before.saves, attempt.save].slice(-MOST_SAVES)
  return { ...before, attempt, saves, isAsking: true }
}

const goneOnFrom = <L>(before: Saving<L>, base: number, saved: L): Saving<L> => ({
  ...before,
  base,
  saved,
  saves: [],
  attempt: null,
  isAsking: false,
  trouble: null,
})

/** What could not be sent, as a refused question about it, is not sent again until something has changed. */
const refusal = <L>({ attempt, present }: Saving<L>, reason: string): Trouble<L> => ({
  kind: 'refused',
  reason,
  lesson: attempt?.lesson ?? present,
})

const withoutRefusal = <L>(trouble: Trouble<L> | null): Trouble<L> | null =>
  trouble?.kind === 'refused' ? null : trouble
