/** Turns the distances' WebAssembly text into the module the aligner loads (`npm run wasm`). */
import { readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import createWabt from 'wabt'
import { ROOT } from './application.mjs'

const folder = join(ROOT, 'src', 'core', 'narration', 'align')

export async function compileDistances() {
  const wabt = await createWabt()
  const parsed = wabt.parseWat('distances.wat', await readFile(join(folder, 'distances.wat'), 'utf8'), { simd: true })
  return Buffer.from(parsed.toBinary({}).buffer).toString('base64')
}

if (import.meta.url === `file://${process.argv[1]}`) {
  const text = `/** Made from distances.wat by \`npm run wasm\`. */\nexport const DISTANCES_MODULE =\n  '${await compileDistances()}'\n`
  await writeFile(join(folder, 'distancesModule.ts'), text)
}
