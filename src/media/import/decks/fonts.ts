import { runProgram } from '../../process'

/** Families whose letters are as wide, so that slides look the same with them. */
const AS_GOOD: Record<string, string> = {
  arial: 'liberation sans',
  helvetica: 'liberation sans',
  'times new roman': 'liberation serif',
  times: 'liberation serif',
  'courier new': 'liberation mono',
  calibri: 'carlito',
  'calibri light': 'carlito',
  cambria: 'caladea',
}
const MOST = 40

/** Which of these families of letters are not installed, nor another that is as good. */
export async function missingFonts(families: readonly string[]): Promise<string[]> {
  const asked = families.slice(0, MOST)
  const found = await Promise.all(
    asked.map(async (family) => {
      const pattern = family.replace(/[\\:,-]/g, '\\$&')
      const names = (await runProgram('fc-match', ['-f', '%{family}', pattern], { limit: 20 })).toString('utf8')
      const wanted = family.toLowerCase()
      return names
        .toLowerCase()
        .split(',')
        .some((name) => name === wanted || name === AS_GOOD[wanted])
    }),
  )
  return asked.filter((_, i) => !found[i])
}
