/** Turns WebAssembly text into the modules that are loaded (`npm run wasm`). */
import { readFile, writeFile } from 'node:fs/promises'
import { basename, join } from 'node:path'
import createWabt from 'wabt'
import { ROOT } from './application.mjs'

/** Each `X.wat` becomes `XModule.ts` beside it. */
const TEXTS = ['src/core/bed/front', 'src/core/narration/align/distances', 'src/core/picture/pixels']

/** The module of a text, in base64. */
export async function compileText(text) {
  const wabt = await createWabt()
  const parsed = wabt.parseWat(`${basename(text)}.wat`, await readFile(join(ROOT, `${text}.wat`), 'utf8'), {
    simd: true,
  })
  return Buffer.from(parsed.toBinary({}).buffer).toString('base64')
}

if (import.meta.url === `file://${process.argv[1]}`) {
  for (const text of TEXTS) {
    const name = basename(text)
    const constant = `${name.toUpperCase()}_MODULE`
    const made = `/** Made from ${name}.wat by \`npm run wasm\`. */\nexport const ${constant} =\n  '${await compileText(text)}'\n`
    await writeFile(join(ROOT, `${text}Module.ts`), made)
  }
}
