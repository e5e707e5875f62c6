import { createHash, randomUUID } from 'node:crypto'
import { readFile, rm, stat, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { ObjectStore } from './objects'

/**
 * What is made of files by a recipe and takes long: coded pictures, mixes, said sentences, words found in takes. The same
 * recipe in the same edition of the code always gives the same, so it is kept under a key made of all of that. All of it
 * can be made anew: it may be cleared away at any time.
 */
export const ASSET_KINDS = ['coded', 'mix', 'speech', 'alignment'] as const
export type AssetKind = (typeof ASSET_KINDS)[number]

export interface Recipe {
  kind: AssetKind
  /** Raised, or another, when the same recipe comes to give something else. */
  edition: unknown
  /** Media by their hashes. */
  sources: readonly string[]
  /** What is done with them. */
  recipe: readonly unknown[]
  /** Of the file. */
  extension: string
}

/** Something that was kept, or used again. */
export interface AssetNote {
  /** Among all that is stored; of media it is their hash. */
  name: string
  kind: AssetKind | 'media'
  edition: string
  sources: readonly string[]
  bytes: number
}
export type AssetLog = (note: AssetNote) => void

export interface Assets {
  /** A file of this machine, made by `make` where it is not there yet. */
  file(recipe: Recipe, make: (draft: string) => Promise<void>): Promise<string>
  /** Its bytes. */
  bytes(recipe: Recipe, make: () => Promise<Buffer>): Promise<Buffer>
  /** The same for many from one run: `make` is told which are missing, by their place in `recipes`. */
  all(
    recipes: readonly Recipe[],
    make: (missing: number[], keep: (index: number, bytes: Buffer) => Promise<void>) => Promise<void>,
  ): Promise<Buffer[]>
  /** Null where it was not made yet. */
  find(recipe: Recipe): Promise<Buffer | null>
}

/** `log` is told of everything that is kept or used. */
export function openAssets(objects: ObjectStore, log: AssetLog = () => {}): Assets {
  async function note(recipe: Recipe, path: string): Promise<string> {
    const { kind, edition, sources } = recipe
    log({ name: nameOf(recipe), kind, edition: shortened(edition), sources, bytes: (await stat(path)).size })
    return path
  }

  async function found(recipe: Recipe): Promise<string | null> {
    const name = nameOf(recipe)
    return (await objects.size(name)) === null ? null : note(recipe, await objects.local(name))
  }

  /** Written beside its place first, so that whoever is killed leaves no half file. */
  async function made(recipe: Recipe, make: (draft: string) => Promise<void>): Promise<string> {
    const folder = await objects.draft()
    const draft = join(folder, `${randomUUID()}.${recipe.extension}`)
    try {
      await make(draft)
      await objects.put(nameOf(recipe), draft)
      return await note(recipe, await objects.local(nameOf(recipe)))
    } finally {
      await rm(folder, { recursive: true, force: true })
    }
  }

  const file: Assets['file'] = async (recipe, make) => (await found(recipe)) ?? made(recipe, make)
  return {
    file,
    bytes: async (recipe, make) => readFile(await file(recipe, async (draft) => writeFile(draft, await make()))),
    async all(recipes, make) {
      const names = recipes.map(nameOf)
      const paths = new Map<string, string | null>()
      // The same recipe several times is made once.
      const firsts = names.flatMap((name, i) => (names.indexOf(name) === i ? [i] : []))
      await Promise.all(firsts.map(async (i) => paths.set(names[i]!, await found(recipes[i]!))))
      const missing = firsts.filter((i) => paths.get(names[i]!) === null)
      const keep = async (i: number, bytes: Buffer) => {
        paths.set(names[i]!, await made(recipes[i]!, (draft) => writeFile(draft, bytes)))
      }
      if (missing.length > 0) await make(missing, keep)
      const read = new Map<string, Buffer>()
      await Promise.all([...paths].map(async ([name, path]) => read.set(name, await readFile(path!))))
      return names.map((name) => read.get(name)!)
    },
    async find(recipe) {
      const path = await found(recipe)
      return path === null ? null : readFile(path)
    },
  }
}

function nameOf({ kind, edition, sources, recipe, extension }: Recipe): string {
  const key = createHash('sha256')
    .update(JSON.stringify([edition, sources, recipe]))
    .digest('hex')
  return `${kind}/${key.slice(0, 2)}/${key}.${extension}`
}

const MOST_OF_AN_EDITION = 80
const shortened = (edition: unknown): string =>
  typeof edition === 'string' || typeof edition === 'number'
    ? String(edition).slice(0, MOST_OF_AN_EDITION)
    : createHash('sha256').update(JSON.stringify(edition)).digest('hex').slice(0, 16)
