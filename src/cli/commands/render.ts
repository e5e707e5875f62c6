import { join } from 'node:path'
import { assertCanBeMade } from '@/media/lessonMedia'
import { renderVideo } from '@/media/video/render'
import { withArchive } from '../workspace'

export function render(archive: string, { out, cache, language }: { out: string; cache?: string; language?: string }) {
  return withArchive(archive, language, async ({ lesson, store, sounds, folder }) => {
    await assertCanBeMade(lesson, store)
    let shown = -1
    const onProgress = (share: number) => {
      const percent = Math.floor(share * 100)
      if (percent > shown) process.stderr.write(`${(shown = percent)} %\n`)
    }
    const { balance, timeline } = await renderVideo(lesson, store, sounds, cache ?? join(folder, 'coded'), out, {
      onProgress,
    })
    return { ...balance, steps: timeline.steps.map(({ step, start, end }) => ({ id: step.id, start, end })) }
  })
}
