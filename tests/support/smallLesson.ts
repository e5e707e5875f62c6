import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import sharp from 'sharp'
import { headless } from './application'

export interface SmallStep {
  title: string
  start: number
  end: number
}

/** An archive of two steps, each a picture of one colour and a script that is read by a synthesised voice. */
export async function makeSmallLesson(
  folder: string,
  pictures: readonly (readonly [name: string, colour: string])[],
  scripts: readonly string[],
  ...more: string[]
): Promise<{ archive: string; steps: SmallStep[] }> {
  const files = await Promise.all(
    pictures.map(async ([name, background]) => {
      const file = join(folder, `${name}.png`)
      await sharp({ create: { width: 640, height: 360, channels: 3, background } })
        .png()
        .toFile(file)
      return file
    }),
  )
  const [script, archive] = [join(folder, 'script.txt'), join(folder, 'lesson.zip')]
  await writeFile(script, scripts.join('\n\n'))
  const made = await headless('new', '--pictures', ...files, '--script', script, ...more, '--out', archive)
  return { archive, steps: (made as { steps: SmallStep[] }).steps }
}
