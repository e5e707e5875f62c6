import sharp from 'sharp'
import type { PagePrint } from '@/core/picture/matchPages'
import { PARTS, type MediaStore } from '../../store/store'

const WIDTH = 48
const HEIGHT = 27

/** What pages are told apart by: their text, and their picture in small greys. */
export async function pagePrints(store: MediaStore, media: string): Promise<PagePrint[]> {
  const { pages, texts } = await store.info(media)
  return Promise.all(
    pages.map(async (title, i) => {
      const pixels = await sharp(await store.local(media, PARTS.thumbnail(i + 1)))
        .greyscale()
        .resize(WIDTH, HEIGHT, { fit: 'fill' })
        .raw()
        .toBuffer()
      return { text: texts[i] ?? title, pixels: Float32Array.from(pixels, (value) => value / 255) }
    }),
  )
}
