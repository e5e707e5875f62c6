import { spawn, type ChildProcess } from 'node:child_process'
import type { Readable, Writable } from 'node:stream'
import type { Seconds } from '@/core/units'

export interface RunOptions {
  /** The program is killed when this much time has passed, or it has used twice as much of the processor. */
  limit: Seconds
  /** Bytes of memory it may use; the usual ones where nothing is said. */
  memory?: number
  signal?: AbortSignal
  /** Takes standard output as it comes; awaited, so that a slow reader slows the program. */
  onOutput?: (chunk: Buffer) => void | Promise<void>
  /** Writes standard input. */
  feed?: (input: Writable) => Promise<void>
  /** Sees each line of standard error. */
  onMessage?: (line: string) => void
}

/** What no file that people bring needs to be read. */
const USUAL_MEMORY = 1024 ** 3
/** For programs that code pictures, at up to 2160 lines. */
export const CODING_MEMORY = 4 * 1024 ** 3

/**
 * Why a program failed: its time was up, it asked for more memory than it may have, the disk is full, it is not installed, or
 * it says why.
 */
export type FailureReason = 'time' | 'memory' | 'disk' | 'missing' | 'program'

/** A program ended with an error; `messages` is the end of what it said on standard error. */
export class ProgramError extends Error {
  override name = 'ProgramError'
  constructor(
    program: string,
    readonly messages: string,
    readonly reason: FailureReason = 'program',
    /** By which it was ended, where it did not end by itself. */
    readonly signal: NodeJS.Signals | null = null,
  ) {
    super(`${program} failed (${signal ?? reason}): ${messages}`)
  }
}

/** Runs a program to its end and returns what it printed (empty where `onOutput` takes it). It ends with this process. */
export async function runProgram(program: string, args: readonly string[], options: RunOptions): Promise<Buffer> {
  const { limit, signal, onOutput, feed, onMessage } = options
  signal?.throwIfAborted()
  const child = startProgram(program, args, options)
  let isTimeUp = false
  const end = () => child.kill('SIGKILL')
  const timer = setTimeout(() => {
    isTimeUp = true
    end()
  }, limit * 1000)
  signal?.addEventListener('abort', end, { once: true })
  const kept: Buffer[] = []
  try {
    const [ended, messages] = await Promise.all([
      exitOf(child),
      readMessages(child.stderr!, onMessage),
      readOutput(child.stdout!, onOutput ?? ((chunk) => void kept.push(chunk))),
      feed ? feedInput(child.stdin!, feed) : undefined,
    ])
    signal?.throwIfAborted()
    if (ended === NOT_FOUND) throw new ProgramError(program, messages, 'missing')
    const { signalCode } = child
    if (ended !== 0)
      throw new ProgramError(program, messages, isTimeUp ? 'time' : reasonIn(messages, signalCode), signalCode)
    return Buffer.concat(kept)
  } finally {
    clearTimeout(timer)
    signal?.removeEventListener('abort', end)
    end()
  }
}

/** What ends with this was never begun: there is no such program. */
const NOT_FOUND = 127

/** The program under its limits, and with an end when this process ends, however that does. */
function startProgram(program: string, args: readonly string[], { limit, memory, feed }: RunOptions): ChildProcess {
  const limits = ['prlimit', `--data=${memory ?? USUAL_MEMORY}`, `--cpu=${Math.ceil(limit * 2)}`, '--core=0']
  const whole = ['--pdeathsig', 'KILL', ...limits, program, ...args]
  return spawn('setpriv', whole, { stdio: [feed ? 'pipe' : 'ignore', 'pipe', 'pipe'] })
}

function reasonIn(messages: string, signal: NodeJS.Signals | null): FailureReason {
  if (signal === 'SIGXCPU') return 'time'
  if (/no space left on device|disk quota exceeded/i.test(messages)) return 'disk'
  if (/cannot allocate memory|out of memory|bad_alloc|memory exhausted/i.test(messages)) return 'memory'
  return 'program'
}

function exitOf(child: ChildProcess): Promise<number | null> {
  return new Promise((resolve, reject) => {
    child.on('error', reject)
    child.on('close', resolve)
  })
}

async function readOutput(output: Readable, take: (chunk: Buffer) => void | Promise<void>): Promise<void> {
  for await (const chunk of output) await take(chunk as Buffer)
}

async function readMessages(stream: Readable, onMessage?: (line: string) => void): Promise<string> {
  let last = ''
  let rest = ''
  for await (const chunk of stream.setEncoding('utf8')) {
    last = (last + chunk).slice(-4000)
    const lines = (rest + chunk).split(/[\r\n]/)
    rest = lines.pop()!
    if (onMessage) lines.forEach(onMessage)
  }
  return last.trim()
}

async function feedInput(input: Writable, feed: (input: Writable) => Promise<void>): Promise<void> {
  // The program's exit code tells what went wrong; a broken pipe only follows from it.
  input.on('error', () => {})
  await feed(input)
  input.end()
}

/** Resolves once all of it has gone, so that the bytes may be used for something else. */
export function writeWhole(output: Writable, bytes: Uint8Array): Promise<void> {
  if (output.destroyed) return Promise.resolve()
  // What goes wrong is told by the program that did not take it.
  return new Promise((resolve) => void output.write(bytes, () => resolve()))
}

/** Writes and waits until there is room again, or the reader is gone. */
export function writeTo(output: Writable, bytes: Uint8Array): Promise<void> {
  if (output.destroyed || output.write(bytes)) return Promise.resolve()
  return new Promise((resolve) => {
    const done = () => {
      output.off('drain', done)
      output.off('close', done)
      resolve()
    }
    output.on('drain', done)
    output.on('close', done)
  })
}
