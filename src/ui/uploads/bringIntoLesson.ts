import type { useAppProps } from 'antd/es/app/context'
import { byName } from '@/core/lesson/fromFile'
import { say } from '@/messages/say'
import type { Desk } from '../lesson/context'
import type { LessonStore } from '../lesson/lessonStore'
import { arrivalsOfLesson } from './arrivals'
import { isCaptionFile } from './captionFile'
import { expectInOrder } from './placeInOrder'

/**
 * Brings files into the open lesson, by whatever way they came; pictures stand in it in the order of their names, and captions
 * are what its steps say.
 */
export function bringIntoLesson(
  files: readonly File[],
  { id, store }: Pick<Desk, 'id' | 'store'>,
  app: useAppProps,
): void {
  for (const file of files.filter(isCaptionFile)) void readIn(file, store, app)
  const keys = arrivalsOfLesson(id).add(files.filter((file) => !isCaptionFile(file)).sort(byName))
  expectInOrder(keys, store.getState().selected)
}

async function readIn(file: File, store: LessonStore, { message }: useAppProps): Promise<void> {
  try {
    const { takeCaptions } = await import('./takeCaptions')
    const steps = takeCaptions(store, await file.text())
    void message.success(
      say(steps === 0 ? 'uploads.saidAlready' : 'uploads.nowTheScript', { name: file.name, count: steps }),
    )
  } catch (error) {
    void message.error(`${file.name}: ${(error as Error).message}`, 8)
  }
}
