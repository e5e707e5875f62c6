import sharp, { type Sharp } from 'sharp'
import type { Picture } from '@/core/lesson/document'
import type { Framing } from '@/core/lesson/framing'
import { GROUND_BLUR, groundColour, placeInFrame, rasterSize, type Frame, type Size } from '@/core/picture/frame'
import type { Raster } from '@/core/picture/raster'
import type { Assets } from '../store/assets'
import type { MediaStore } from '../store/store'
import { drawCard } from './card'
import { pageFile } from './pageFile'

/** A page or a card as it stands in the frame. */
export async function stillFrame(
  work: { store: MediaStore; assets: Assets; frame: Frame },
  picture: Exclude<Picture, { kind: 'recording' }>,
  framing: Framing,
): Promise<Raster> {
  if (picture.kind === 'card') return rasterOf(sharp(Buffer.from(await drawCard(picture.lines, work.frame))))
  const { media, page } = picture
  const [file, info] = await Promise.all([pageFile(work, media, page), work.store.info(media)])
  return rasterOf(await framed(file, work.frame, framing, info.darkPages.includes(page)))
}

async function framed(file: string, frame: Frame, framing: Framing, isDark: boolean): Promise<Sharp> {
  const into = rasterSize(frame)
  const { width = 1, height = 1 } = await sharp(file).metadata()
  const size = { width, height }
  if (width === into.width && height === into.height) return sharp(file)
  const { x, y, ...place } = placeInFrame(size, into, framing)
  const picture = sharp(file).resize(place.width, place.height, { fit: 'fill' })
  if (place.width >= into.width && place.height >= into.height) return picture.extract({ left: -x, top: -y, ...into })
  const ground =
    framing.ground === 'blurred'
      ? await blurred(file, size, into, frame)
      : sharp({ create: { ...into, channels: 3, background: groundColour(framing, isDark) } })
  return ground.composite([{ input: await picture.png({ compressionLevel: 0 }).toBuffer(), left: x, top: y }])
}

/** The ground needs few pixels: it is blurred. */
const GROUND_SHARE = 1 / 6

/** The picture itself, larger than the frame and blurred, as far as the frame shows it. */
async function blurred(file: string, size: Size, into: Size, { pixels }: Frame): Promise<Sharp> {
  const small = (length: number) => Math.round(length * GROUND_SHARE)
  const larger = { width: into.width * GROUND_BLUR.larger, height: into.height * GROUND_BLUR.larger }
  const cover = placeInFrame(size, larger, { way: 'fill', ground: 'plain', middle: { x: 0.5, y: 0.5 } })
  const [wide, high] = [small(cover.width), small(cover.height)]
  const seen = { width: small(into.width), height: small(into.height) }
  const ground = await sharp(file)
    .resize(wide, high, { fit: 'fill' })
    .blur(GROUND_BLUR.deviation * pixels * GROUND_SHARE)
    .extract({ left: (wide - seen.width) >> 1, top: (high - seen.height) >> 1, ...seen })
    .png()
    .toBuffer()
  return sharp(ground).resize(into.width, into.height, { fit: 'fill', kernel: 'cubic' })
}

async function rasterOf(picture: Sharp): Promise<Raster> {
  const { data, info } = await picture.removeAlpha().toColourspace('srgb').raw().toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, data }
}
