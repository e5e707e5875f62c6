import { join } from 'node:path'
import { rename } from 'node:fs/promises'
import type { Frame } from '@/core/picture/frame'
import type { MediaInfo } from '@/core/messages/media'
import { rasterPage } from '../import/decks/pdf'
import { drawPage, PAGE_PIXELS, pictureIn, pictureSource } from '../import/stills'
import type { Assets } from '../store/assets'
import { PARTS, type MediaStore } from '../store/store'
import { withWorkFolder } from '../store/workFolder'

/** Raised when larger pages come to be drawn otherwise. */
const EDITION = 1

/**
 * A page or picture as a PNG file with as many pixels as a frame can show: as import has drawn it, or, for frames of more
 * lines, drawn anew from what was brought in.
 */
export async function pageFile(
  { store, assets, frame }: { store: MediaStore; assets: Assets; frame: Frame },
  media: string,
  page: number,
): Promise<string> {
  if (frame.pixels <= 1) return store.local(media, PARTS.page(page))
  const pixels = Math.round(PAGE_PIXELS * frame.pixels)
  const recipe = { kind: 'coded', edition: ['page', EDITION], sources: [media], recipe: [page, pixels] } as const
  return assets.file({ ...recipe, extension: 'png' }, async (draft) =>
    drawLarger(store, await store.info(media), page, pixels, draft),
  )
}

function drawLarger(store: MediaStore, info: MediaInfo, page: number, pixels: number, out: string): Promise<void> {
  const { hash, name, extension } = info
  const isDark = info.darkPages.includes(page)
  return withWorkFolder(async (work) => {
    const draft = join(work, 'page.png')
    if (info.kind === 'deck') {
      const deck = await store.local(hash, extension === 'pdf' ? PARTS.original : PARTS.drawn)
      await drawPage(pictureIn(await rasterPage(deck, name, work, page, pixels)), isDark, pixels, draft)
    } else {
      const source = await pictureSource(await store.local(hash, PARTS.original), extension, name, work)
      await drawPage(source(), isDark, pixels, draft)
    }
    await rename(draft, out)
  })
}
