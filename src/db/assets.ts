import { and, eq, isNotNull, isNull, notInArray, sql } from 'drizzle-orm'
import type { CourseSpace } from '@/core/course/space'
import { db, transaction, type Transaction } from './client'
import { assets, assetSources, lessonMedia } from './schema'

/** What is known of everything that is stored (media/store): what it is, of what, how large, and when it was used. */

/** The kind of files that people brought in, and of cleaned voices; all others can be made anew. */
export const MEDIA = 'media'

export interface NewAsset {
  /** Of media their hash, of others where they stand in the store. */
  name: string
  kind: string
  edition: string
  /** Media by their hashes. */
  sources: readonly string[]
  bytes: number
  /** Now, where it is not said. */
  usedAt?: Date
}

/** Writes down what was kept or used again. */
export async function noteAssets(notes: readonly NewAsset[]): Promise<void> {
  if (notes.length === 0) return
  await transaction(async (tx) => {
    // In one order, so that two who note the same do not wait for each other.
    const sorted = [...notes].sort((a, b) => (a.name < b.name ? -1 : 1))
    const rows = sorted.map(({ name, kind, edition, bytes, usedAt }) => ({ name, kind, edition, bytes, usedAt }))
    await tx
      .insert(assets)
      .values(rows)
      .onConflictDoUpdate({ target: assets.name, set: { usedAt: sql`now()`, bytes: sql`excluded.bytes` } })
    const sources = sorted.flatMap(({ name, sources }) => sources.map((source) => ({ asset: name, source })))
    if (sources.length > 0) await tx.insert(assetSources).values(sources).onConflictDoNothing()
  })
}

export const assetNames = async (kind: string): Promise<Set<string>> =>
  new Set((await db().select({ name: assets.name }).from(assets).where(eq(assets.kind, kind))).map(({ name }) => name))

export async function forgetAssets(names: readonly string[]): Promise<void> {
  await db()
    .delete(assets)
    .where(sql`${assets.name} = any(${sql.param([...names])})`)
}

/** Media that nothing needs, with the time from which on that is known. What is needed again counts from then. */
export async function markUnneeded(needed: ReadonlySet<string>): Promise<void> {
  const isNeeded = sql`${assets.name} = any(${sql.param([...needed])})`
  await db()
    .update(assets)
    .set({ unneededSince: null })
    .where(and(eq(assets.kind, MEDIA), isNotNull(assets.unneededSince), isNeeded))
  await db()
    .update(assets)
    .set({ unneededSince: sql`now()` })
    .where(and(eq(assets.kind, MEDIA), isNull(assets.unneededSince), sql`not ${isNeeded}`))
}

/** Since when media have been unneeded, by their hashes. */
export async function unneededSince(): Promise<Map<string, Date>> {
  const rows = await db()
    .select()
    .from(assets)
    .where(and(eq(assets.kind, MEDIA), isNotNull(assets.unneededSince)))
  return new Map(rows.map(({ name, unneededSince }) => [name, unneededSince!]))
}

/** The names of those of some kinds that were not used for longest, beyond `room` bytes of all. */
export async function assetsBeyond(kinds: readonly string[], room: number): Promise<{ name: string; bytes: number }[]> {
  const { rows } = await db().execute<{ name: string; bytes: string }>(
    sql`select name, bytes from (
          select name, bytes, sum(bytes) over (order by used_at desc, name) as total from assets
          where kind in ${[...kinds]}
        ) as counted where total > ${room}`,
  )
  return rows.map(({ name, bytes }) => ({ name, bytes: Number(bytes) }))
}

/** What can be made anew, of media that are not there. */
export async function assetsOfLostMedia(): Promise<{ name: string; bytes: number }[]> {
  const { rows } = await db().execute<{ name: string; bytes: string }>(
    sql`select name, bytes from assets where kind <> ${MEDIA} and exists (
          select 1 from asset_sources where asset = name
          and not exists (select 1 from assets media where media.name = source))`,
  )
  return rows.map(({ name, bytes }) => ({ name, bytes: Number(bytes) }))
}

/** Brings up to date which files a lesson names. */
export async function setLessonMedia(tx: Transaction, lessonId: string, media: ReadonlySet<string>): Promise<void> {
  const hashes = [...media]
  const own = eq(lessonMedia.lessonId, lessonId)
  await tx.delete(lessonMedia).where(hashes.length > 0 ? and(own, notInArray(lessonMedia.media, hashes)) : own)
  if (hashes.length > 0)
    await tx
      .insert(lessonMedia)
      .values(hashes.map((media) => ({ lessonId, media })))
      .onConflictDoNothing()
}

/** How much room each course takes. Files that several courses use are counted for each. */
export async function spaceOfCourses(): Promise<Record<string, CourseSpace>> {
  const { rows } = await db().execute<{ course: string } & Record<keyof CourseSpace, string>>(
    sql`with used as (
          select distinct course_id, media from lesson_media join lessons on lessons.id = lesson_id
        ), files as (
          select course_id, sum(bytes) as bytes from used join assets on name = media group by course_id
        ), made_of as (
          select distinct course_id, asset from used join asset_sources on source = media
          except select course_id, media from used
        ), kept as (
          select course_id, sum(bytes) as bytes from made_of join assets on name = asset group by course_id
        ), made as (
          select course_id, sum((result->>'bytes')::bigint) as bytes from jobs join lessons on lessons.id = lesson_id
          where kind = 'export' and state = 'done' group by course_id
        )
        select courses.id as course, coalesce(files.bytes, 0) as files, coalesce(kept.bytes, 0) as kept,
          coalesce(made.bytes, 0) as made
        from courses left join files on files.course_id = courses.id left join kept on kept.course_id = courses.id
          left join made on made.course_id = courses.id`,
  )
  return Object.fromEntries(
    rows.map(({ course, files, kept, made }) => [
      course,
      { files: Number(files), kept: Number(kept), made: Number(made) },
    ]),
  )
}
