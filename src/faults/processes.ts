import { readdirSync, readFileSync } from 'node:fs'

/** Memory of processes and all they have started. */
export interface MemoryWatch {
  /** Largest memory that a single process held, in bytes, and what it was. */
  stop(): { bytes: number; command: string }
}

const LOOK_EVERY = 150 // ms

export function watchMemory(roots: () => readonly (number | undefined)[]): MemoryWatch {
  let most = { bytes: 0, command: '' }
  const timer = setInterval(() => {
    for (const pid of withDescendants(roots().filter((root) => root !== undefined))) {
      const bytes = residentBytes(pid)
      if (bytes > most.bytes) most = { bytes, command: commandOf(pid) }
    }
  }, LOOK_EVERY)
  return {
    stop() {
      clearInterval(timer)
      return most
    },
  }
}

function withDescendants(roots: readonly number[]): number[] {
  const children = new Map<number, number[]>()
  for (const name of readdirSync('/proc')) {
    if (!/^\d+$/.test(name)) continue
    const parent = Number(read(`/proc/${name}/stat`).split(') ')[1]?.split(' ')[1])
    children.set(parent, [...(children.get(parent) ?? []), Number(name)])
  }
  const all = [...roots]
  for (let i = 0; i < all.length; i++) all.push(...(children.get(all[i]!) ?? []))
  return all
}

const residentBytes = (pid: number) => Number(/VmRSS:\s+(\d+)/.exec(read(`/proc/${pid}/status`))?.[1] ?? 0) * 1024

const commandOf = (pid: number) => read(`/proc/${pid}/cmdline`).split('\0').slice(0, 3).join(' ')

function read(path: string): string {
  try {
    return readFileSync(path, 'utf8')
  } catch {
    // It has ended in between.
    return ''
  }
}
