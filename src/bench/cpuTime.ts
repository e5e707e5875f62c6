import { spawnSync } from 'node:child_process'

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
