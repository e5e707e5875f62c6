import { resolve } from 'node:path'
import { assertCanBeMade } from '@/media/lessonMedia'
import { heardWords } from '@/media/speech/lessonWords'
import { openAssets } from '@/media/store/assets'
import { folderObjects } from '@/media/store/folderObjects'
import { renderVideo } from '@/media/video/render'
import { withArchive } from '../workspace'

export function render(archive: string, { out, cache, language }: { out: string; cache?: string; language?: string }) {
  return withArchive(archive, language, async ({ lesson, store, assets, sounds }) => {
    await assertCanBeMade(lesson, store)
    let shown = -1
    const onProgress = (share: number) => {
      const percent = Math.floor(share * 100)
      if (percent > shown) process.stderr.write(`${(shown = percent)} %\n`)
    }
    const kept = cache ? openAssets(folderObjects(resolve(cache))) : assets
    const heard = await heardWords(lesson, store, kept)
    const { balance, timeline } = await renderVideo(lesson, store, sounds, kept, out, { onProgress, heard })
    return { ...balance, steps: timeline.steps.map(({ step, start, end }) => ({ id: step.id, start, end })) }
  })
}
