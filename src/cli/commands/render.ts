import { resolve } from 'node:path'
import { assertCanBeMade } from '@/media/lessonMedia'
import { heardWords } from '@/media/speech/lessonWords'
import { openAssets } from '@/media/store/assets'
import { folderObjects } from '@/media/store/folderObjects'
import { renderSound, SOUND_FORMATS, type SoundFormat } from '@/media/renderSound'
import { renderVideo } from '@/media/video/render'
import { byEnding } from '../byEnding'
import { withArchive } from '../workspace'

const WAYS: Record<string, 'video' | SoundFormat> = {
  '.mp4': 'video',
  ...Object.fromEntries(Object.keys(SOUND_FORMATS).map((format) => [`.${format}`, format as SoundFormat])),
}

/** Makes a lesson's video, or its sound alone, by the ending of the file. */
export function render(archive: string, { out, cache, language }: { out: string; cache?: string; language?: string }) {
  const way = byEnding(out, WAYS)
  return withArchive(archive, language, async ({ lesson, store, assets, sounds }) => {
    await assertCanBeMade(lesson, store)
    let shown = -1
    const onProgress = (share: number) => {
      const percent = Math.floor(share * 100)
      if (percent > shown) process.stderr.write(`${(shown = percent)} %\n`)
    }
    const kept = cache ? openAssets(folderObjects(resolve(cache))) : assets
    const { balance, timeline } =
      way === 'video'
        ? await renderVideo(lesson, store, sounds, kept, out, {
            onProgress,
            heard: await heardWords(lesson, store, kept),
          })
        : await renderSound(lesson, store, sounds, out, way, { onProgress })
    return { ...balance, steps: timeline.steps.map(({ step, start, end }) => ({ id: step.id, start, end })) }
  })
}
