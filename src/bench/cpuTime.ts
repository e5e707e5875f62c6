import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { cpuUsage } from 'node:process'

/** CPU seconds (user and system) and wall seconds of a whole process, by the system's own accounting. */
export function cpuTime(command: string, args: readonly string[]): { cpu: number; wall: number } {
  const start = performance.now()
  // `time` is a shell keyword here: it measures the child with everything it starts.
  const quoted = [command, ...args].map((part) => `'${part.replaceAll("'", `'\\''`)}'`).join(' ')
  const { status, stderr } = spawnSync(
    'bash',
    ['-c', `TIMEFORMAT='%U %S'; time ${quoted} >/dev/null 2>/tmp/yarn-step-bench.log`],
    { encoding: 'utf8' },
  )
  if (status !== 0) throw new Error(`${command} failed (see /tmp/yarn-step-bench.log)`)
  const [user, system] = stderr.trim().split(/\s+/).slice(-2).map(Number)
  return { cpu: user! + system!, wall: (performance.now() - start) / 1000 }
}

/** CPU seconds of this process so far, and of all that it has started and that have ended. */
export function cpuWithChildren(): number {
  const { user, system } = cpuUsage()
  // `cutime` and `cstime` of proc(5), in hundredths of a second; a name in brackets stands before.
  const [childUser, childSystem] = readFileSync('/proc/self/stat', 'utf8').split(') ').at(-1)!.split(' ').slice(13, 15)
  return (user + system) / 1e6 + (Number(childUser) + Number(childSystem)) / 100
}
