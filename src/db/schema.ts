import { JOB_ERRORS, JOB_STATES } from '@/core/messages/job'
import type { JobKind } from '@/core/messages/jobInput'
import { bigint, index, integer, jsonb, pgTable, primaryKey, real, text, timestamp } from 'drizzle-orm/pg-core'

const moment = (name: string) => timestamp(name, { withTimezone: true })

export const courses = pgTable('courses', {
  id: text('id').primaryKey(),
  title: text('title').notNull(),
  /** Words that synthesised voices are told how to say. */
  pronunciations: jsonb('pronunciations').notNull().default([]),
  /** How its lessons look (core/course/courseStyle.ts); null: nobody has said so. */
  style: jsonb('style'),
  /** The steps its lessons begin and end with (core/course/sharedSteps.ts); null: none. */
  ends: jsonb('ends'),
  /** What is made of each of its lessons, by the names of core/delivery/outputs.ts. */
  delivery: jsonb('delivery').notNull().default([]),
  /** Among the others, where the author has put them in an order; null: after them, by age. */
  place: integer('place'),
  /** Kept for a while, and can be brought back (db/deleted.ts). */
  deletedAt: moment('deleted_at'),
  createdAt: moment('created_at').notNull().defaultNow(),
})

/** A lesson's present document; `revision` counts its saves. */
export const lessons = pgTable(
  'lessons',
  {
    id: text('id').primaryKey(),
    courseId: text('course_id')
      .notNull()
      .references(() => courses.id, { onDelete: 'cascade' }),
    revision: integer('revision').notNull(),
    document: jsonb('document').notNull(),
    /** What lists say of it (core/course/listing.ts); null where the document can't be read, or was stored before. */
    summary: jsonb('summary'),
    /** Of the save that led to this revision: one that comes again is known by it. */
    save: text('save'),
    /** Among the lessons of its course, as courses are. */
    place: integer('place'),
    deletedAt: moment('deleted_at'),
    createdAt: moment('created_at').notNull().defaultNow(),
    savedAt: moment('saved_at').notNull().defaultNow(),
  },
  (table) => [index('lessons_by_course').on(table.courseId)],
)

/** Documents as they were saved; thinned by core/lesson/versions.ts. */
export const revisions = pgTable(
  'revisions',
  {
    lessonId: text('lesson_id')
      .notNull()
      .references(() => lessons.id, { onDelete: 'cascade' }),
    revision: integer('revision').notNull(),
    document: jsonb('document').notNull(),
    /** Of the save that led to it; null: none. */
    save: text('save'),
    /** Given by the author; null: none. */
    name: text('name'),
    savedAt: moment('saved_at').notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.lessonId, table.revision] })],
)

/** The files that a lesson's present document names, by their hashes. */
export const lessonMedia = pgTable(
  'lesson_media',
  {
    lessonId: text('lesson_id')
      .notNull()
      .references(() => lessons.id, { onDelete: 'cascade' }),
    media: text('media').notNull(),
  },
  (table) => [primaryKey({ columns: [table.lessonId, table.media] })],
)

/** What is kept in the store: media, called by their hash, and what is made of them by a recipe in an edition of the code. */
export const assets = pgTable(
  'assets',
  {
    name: text('name').primaryKey(),
    kind: text('kind').notNull(),
    edition: text('edition').notNull(),
    bytes: bigint('bytes', { mode: 'number' }).notNull(),
    madeAt: moment('made_at').notNull().defaultNow(),
    usedAt: moment('used_at').notNull().defaultNow(),
    /** Since when nothing has needed it, as far as that was looked for; null: it is needed. */
    unneededSince: moment('unneeded_since'),
  },
  (table) => [index('assets_by_kind').on(table.kind, table.usedAt)],
)

/** Of which media an asset was made. */
export const assetSources = pgTable(
  'asset_sources',
  {
    asset: text('asset')
      .notNull()
      .references(() => assets.name, { onDelete: 'cascade' }),
    source: text('source').notNull(),
  },
  (table) => [primaryKey({ columns: [table.asset, table.source] }), index('assets_by_source').on(table.source)],
)

/**
 * Work that takes a while (core/messages/job.ts). Of what is computed the id follows from kind and input, so that nothing is
 * done twice; an import has the id of its upload or recording.
 */
export const jobs = pgTable(
  'jobs',
  {
    id: text('id').primaryKey(),
    kind: text('kind').$type<JobKind>().notNull(),
    input: jsonb('input').notNull(),
    /** Whose it is, where it goes with a lesson. */
    lessonId: text('lesson_id').references(() => lessons.id, { onDelete: 'cascade' }),
    /** Of whoever asked: what is said of it is said in that. */
    language: text('language').notNull().default('en'),
    state: text('state', { enum: JOB_STATES }).notNull(),
    progress: real('progress').notNull().default(0),
    error: text('error'),
    errorCode: text('error_code', { enum: JOB_ERRORS }),
    result: jsonb('result'),
    createdAt: moment('created_at').notNull().defaultNow(),
    finishedAt: moment('finished_at'),
  },
  (table) => [index('jobs_by_lesson').on(table.lessonId), index('jobs_by_state').on(table.state)],
)

/**
 * What is on its way into a lesson, from its first bytes on: recorded in a browser, or a file that is brought in. Open ones
 * whose browser is gone can be recovered; finished ones are imported (`importId`) and wait to be taken into the lesson.
 */
export const arrivals = pgTable(
  'arrivals',
  {
    id: text('id').primaryKey(),
    lessonId: text('lesson_id')
      .notNull()
      .references(() => lessons.id, { onDelete: 'cascade' }),
    kind: text('kind', { enum: ['voice', 'room', 'picture', 'file'] }).notNull(),
    /** The browser that makes or sends it, by a token that only it knows; empty where nobody said. */
    owner: text('owner').notNull().default(''),
    /** Of a file. */
    name: text('name').notNull().default(''),
    /** Of a recording: what the browser wants to know of it later, see core/messages/arrival.ts. */
    details: jsonb('details'),
    state: text('state', { enum: ['open', 'finished', 'taken'] }).notNull(),
    importId: text('import_id'),
    createdAt: moment('created_at').notNull().defaultNow(),
    heardAt: moment('heard_at').notNull().defaultNow(),
  },
  (table) => [index('arrivals_by_lesson').on(table.lessonId)],
)
