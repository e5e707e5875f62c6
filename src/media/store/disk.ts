import { statfs } from 'node:fs/promises'
import { causesOf } from '@/core/userError'
import { ProgramError } from '../process'

/** Whether an error says that there is no room left, whoever met it. */
export function isDiskFull(error: unknown): boolean {
  return causesOf(error).some(
    (one) =>
      (one instanceof ProgramError && one.reason === 'disk') ||
      ['ENOSPC', 'EDQUOT'].includes(one.code ?? '') ||
      /no space left on device/i.test(one.message ?? ''),
  )
}

/** Room that is left for others when something large is taken in. */
const RESERVE = 256 * 1024 ** 2

/** Bytes that can still be kept in a folder. */
export async function freeBytes(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder)
  return Math.max(0, bavail * bsize - RESERVE)
}
