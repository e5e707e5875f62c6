import { readFileSync } from 'node:fs'
import { dirname, join, normalize } from 'node:path'
import ts from 'typescript'

/** Says which files under src/ import each other in a circle, also for types only; ends with 1 where any do. */

const files = listFiles()
const known = new Set(files)
const imports = new Map(files.map((file) => [file, importsOf(file)]))
const circles = findCircles()
for (const circle of circles) console.error(`A circle of imports: ${circle.join(' -> ')}`)
process.exitCode = circles.length > 0 ? 1 : 0

function listFiles() {
  return ts.sys.readDirectory('src', ['.ts', '.tsx']).map((path) => normalize(path.replace(`${process.cwd()}/`, '')))
}

function importsOf(file) {
  const { importedFiles } = ts.preProcessFile(readFileSync(file, 'utf8'), true, true)
  return importedFiles.flatMap(({ fileName }) => {
    const base = fileName.startsWith('@/') ? join('src', fileName.slice(2)) : join(dirname(file), fileName)
    if (!fileName.startsWith('@/') && !fileName.startsWith('.')) return []
    return [`${base}.ts`, `${base}.tsx`, join(base, 'index.ts'), base].filter((path) => known.has(path)).slice(0, 1)
  })
}

/** Depth first: what is met again on the way leads round. */
function findCircles() {
  const found = []
  const done = new Set()
  const visit = (file, way) => {
    const at = way.indexOf(file)
    if (at >= 0) return void found.push([...way.slice(at), file])
    if (done.has(file)) return
    for (const next of imports.get(file)) visit(next, [...way, file])
    done.add(file)
  }
  for (const file of files) visit(file, [])
  return found
}
