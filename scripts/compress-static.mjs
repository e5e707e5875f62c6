import { readdir, readFile, stat, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { brotliCompress, constants } from 'node:zlib'
import { ROOT } from './application.mjs'

/** Puts a brotli copy beside every script and style sheet that Next has built; the server sends it to browsers that take it. */

const compress = promisify(brotliCompress)
const folder = join(ROOT, '.next', 'static')
const names = await readdir(folder, { recursive: true })
for (const name of names.filter((one) => /\.(js|css|svg)$/.test(one))) {
  const path = join(folder, name)
  // Files are named by their content: what was compressed once stays right.
  if (names.includes(`${name}.br`) || !(await stat(path)).isFile()) continue
  const bytes = await readFile(path)
  const params = { [constants.BROTLI_PARAM_QUALITY]: 11, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length }
  await writeFile(`${path}.br`, await compress(bytes, { params }))
}
