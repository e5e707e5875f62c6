import { takeSpeech } from '@/core/measure/takeVoice'
import { nanoid } from 'nanoid'
import type { Step, Take } from '@/core/lesson/document'
import type { Edit } from '@/core/lesson/edits'
import type { MediaInfo } from '@/core/messages/media'
import { newTake, takesOf } from '@/core/lesson/takes'
import { jointScript, layByWords, type LaidReading } from '@/core/narration/lay/layByWords'
import { misfit, readingFit } from '@/core/narration/lay/readingFit'
import { layByPauses } from '@/core/narration/lay/layByPauses'
import { anchorsByPauses, anchorsByWords } from '@/core/narration/lay/relay'
import type { Pronunciation } from '@/core/narration/speechVoice'
import { say } from '@/messages/say'
import { call } from '../api'
import { bringIn, fetchAnalysis } from '../arrival'
import type { Desk } from '../lesson/context'
import { runJob } from '../jobs'

/** Has the scripts of steps read by the lesson's synthesised voice; each becomes a take that is heard from now on. */
export async function readScripts({ store, course }: Desk, steps: readonly Step[]): Promise<void> {
  const { reading, steps: all } = store.getState().history.lesson
  const { text: around } = jointScript(all)
  const pronunciations = await call<Pronunciation[]>(`/api/courses/${course.id}/pronunciations`)
  const read = await Promise.all(
    steps.map(async (step) => {
      const { info } = await runJob({ kind: 'read', script: step.script, around, reading, pronunciations })
      return { step, info }
    }),
  )
  store.getState().addMedia(read.map(({ info }) => info))
  const takes = read.map(({ step, info }) => takeFrom(step, info, 'read', say('booth.reading')))
  store.getState().edit({
    name: 'addTakes',
    takes,
    heard: takes.map(({ step, media, from, to }) => ({
      step,
      passages: [{ id: nanoid(10), media, from, to, pause: 0 }],
    })),
  })
}

/** A recording made elsewhere becomes a take of the step, heard from now on. */
export async function bringInTake({ store, course }: Desk, step: Step, file: File): Promise<void> {
  const info = await bringIn(file, course.id)
  store.getState().addMedia([info])
  const number = takesOf(store.getState().history.lesson, step.id).length + 1
  const take = takeFrom(step, info, 'brought-in', say('booth.take', { number }))
  const passages = [{ id: nanoid(10), media: info.hash, from: take.from, to: take.to, pause: 0 }]
  store.getState().edit({ name: 'addTakes', takes: [take], heard: [{ step: step.id, passages }] })
}

/**
 * One recording of several steps is laid over them by the words of their scripts; without any script, by its pauses.
 * Tells what was found; where that is little, `ask` comes before anything is laid.
 */
export async function bringInReading(
  { store, course, tell }: Desk,
  steps: readonly Step[],
  file: File,
  onProgress: (share: number) => void,
  ask: (what: string) => Promise<boolean>,
): Promise<void> {
  const info = await bringIn(file, course.id)
  if (info.kind !== 'sound') throw new Error(say('booth.noVoiceInFile', { name: file.name }))
  store.getState().addMedia([info])
  const recording = { media: info.hash, length: info.length! }
  const { text } = jointScript(steps)
  const byPauses = async (why: 'booth.noScriptSoByPauses' | 'booth.notFoundSoByPauses') => {
    const speech = takeSpeech(await fetchAnalysis(info.hash))
    const laid = layByPauses(steps, { ...recording, speech }, 'brought-in', () => nanoid(10))
    store.getState().edit({ name: 'addTakes', ...laid })
    tell(say(why))
  }
  if (text.trim() === '') return byPauses('booth.noScriptSoByPauses')
  const { language } = store.getState().history.lesson
  const task = { kind: 'align', media: info.hash, from: 0, to: info.length!, script: text, language } as const
  const found = await runJob<'align'>(task, onProgress)
  const doubt = misfit(readingFit(text, found))
  if (doubt && !(await ask(doubt))) return
  if (found.words.length === 0) return byPauses('booth.notFoundSoByPauses')
  const laid = layByWords(steps, recording, found, 'brought-in', () => nanoid(10))
  store.getState().edit({ name: 'addTakes', takes: laid.takes, heard: laid.heard })
  tell(sayLaid(laid))
}

function sayLaid({ heard, silent, otherwise, retakes, adLibs }: LaidReading): string {
  return [
    say('booth.laidOver', { count: heard.length }),
    retakes > 0 && say('booth.triesLeftOut', { count: retakes }),
    adLibs > 0 && say('booth.besidesKept', { count: adLibs }),
    otherwise.length > 0 && say('booth.saidOtherwise', { count: otherwise.length }),
    silent.length > 0 && say('booth.notFoundInIt', { count: silent.length }),
  ]
    .filter(Boolean)
    .join(' ')
}

/**
 * A file worked on elsewhere takes a take's place. As long as before, everything stays where it is; otherwise it is
 * laid again by its words, or without a script by its pauses. Returns a sentence where that was done.
 */
export async function replaceTake(desk: Desk, take: Take, file: File): Promise<void> {
  const { store, course, tell } = desk
  const info = await bringIn(file, course.id)
  if (info.kind !== 'sound') throw new Error(say('booth.noVoiceInFile', { name: file.name }))
  store.getState().addMedia([info])
  const old = store.getState().media.get(take.media)!
  const isWhole = Math.abs(info.length! - old.length!) < SAME_LENGTH
  const isPart = Math.abs(info.length! - (take.to - take.from)) < SAME_LENGTH
  if (isWhole || isPart) {
    store.getState().edit(replacing(take, info, isWhole ? [] : [[take.from, 0]]))
    return
  }
  store.getState().edit(replacing(take, info, await anchors(desk, take, info)))
  tell(say('booth.theFileIsNot'))
}

const SAME_LENGTH = 0.02 // seconds

const replacing = (take: Take, info: MediaInfo, places: [number, number][]): Edit => ({
  name: 'replaceVoice',
  media: take.media,
  by: info.hash,
  places,
})

/** By the words that are found in both; by the pauses where there is no script, or it is not what they say. */
async function anchors({ store }: Desk, take: Take, info: MediaInfo): Promise<[number, number][]> {
  const { language } = store.getState().history.lesson
  const align = (media: string, from: number, to: number) =>
    runJob({ kind: 'align', media, from, to, script: take.script, language })
  if (take.script.trim() !== '') {
    const [before, after] = await Promise.all([
      align(take.media, take.from, take.to),
      align(info.hash, 0, info.length!),
    ])
    const byWords = anchorsByWords(before.words, after.words)
    if (byWords.length > 0) return byWords
  }
  const [before, after] = await Promise.all([fetchAnalysis(take.media), fetchAnalysis(info.hash)])
  return anchorsByPauses(takeSpeech(before), takeSpeech(after))
}

function takeFrom(step: Step, info: MediaInfo, kind: Take['kind'], name: string): Take {
  return { ...newTake(nanoid(10), info.hash, step, { from: 0, to: info.length! }, kind), name }
}
