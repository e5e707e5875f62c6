import type { Framing } from '@/core/lesson/framing'
import { GROUND_BLUR, groundColour, placeInFrame, rasterSize, type Frame, type Size } from '@/core/picture/frame'
import type { PictureStream } from '../ffmpeg'
import { AS_CODED, TO_VIDEO_COLOURS } from './coding'

/**
 * Filters (of ffmpeg) that bring the picture of a recording to the video's size and colours: lines of two moments become
 * pictures of one, pixels become square, light of a wide range becomes usual light, and what is not tagged is taken for
 * what its size says.
 */

/** As it stands in the frame of a lesson. */
export function recordingFilter(picture: PictureStream, frame: Frame, framing: Framing, isDark: boolean): string {
  const into = rasterSize(frame)
  const size = squareSize(picture)
  const place = placeInFrame(size, into, framing)
  const upright = [...prepared(picture), scaled(picture, place)]
  const fills = place.width >= into.width && place.height >= into.height
  if (fills) upright.push(`crop=${into.width}:${into.height}:${-place.x}:${-place.y}`)
  else if (framing.ground === 'blurred') upright.push(onItself(size, into, place, frame))
  else upright.push(`pad=${into.width}:${into.height}:${place.x}:${place.y}:${groundColour(framing, isDark)}`)
  return [...upright, ...AS_CODED].join(',')
}

/** In its own shape, no larger than a frame of 1080 lines. */
export function proxyFilter(picture: PictureStream): string {
  const size = squareSize(picture)
  const [longer, shorter] = [Math.max(size.width, size.height), Math.min(size.width, size.height)]
  const scale = Math.min(1, 1920 / longer, 1080 / shorter)
  const even = (length: number) => Math.max(2, 2 * Math.round((length * scale) / 2))
  return [
    ...prepared(picture),
    scaled(picture, { width: even(size.width), height: even(size.height) }),
    ...AS_CODED,
  ].join(',')
}

const squareSize = ({ width, height, pixelShape }: PictureStream): Size => ({ width: width * pixelShape, height })

const prepared = (picture: PictureStream): string[] => [
  ...(picture.isInterlaced ? ['bwdif=mode=send_frame:deint=interlaced'] : []),
  ...(picture.range === 'high' ? TO_USUAL_LIGHT : []),
]

function scaled(picture: PictureStream, { width, height }: Size): string {
  const from = picture.range === 'high' ? '' : `in_color_matrix=${matrixOf(picture)}:`
  return `scale=${width}:${height}:${from}${TO_VIDEO_COLOURS}`
}

/** The ground needs few pixels: it is blurred. */
const GROUND_SHARE = 1 / 6

/** Over a ground that is the picture itself, larger and blurred. */
function onItself(size: Size, into: Size, place: { x: number; y: number }, { pixels }: Frame): string {
  const small = (length: number) => 2 * Math.round((length * GROUND_SHARE) / 2)
  const larger = { width: into.width * GROUND_BLUR.larger, height: into.height * GROUND_BLUR.larger }
  const cover = placeInFrame(size, larger, { way: 'fill', ground: 'plain', middle: { x: 0.5, y: 0.5 } })
  const blurred = [
    `scale=${small(cover.width)}:${small(cover.height)}`,
    `gblur=sigma=${GROUND_BLUR.deviation * pixels * GROUND_SHARE}`,
    `crop=${small(into.width)}:${small(into.height)}`,
    `scale=${into.width}:${into.height}:flags=bicubic`,
  ]
  return `split[upper][under];[under]${blurred.join(',')}[ground];[ground][upper]overlay=${place.x}:${place.y}`
}

/** Pictures of 720 lines and more are in the colours of high definition, unless they say otherwise. */
const matrixOf = ({ matrix, height }: PictureStream) => matrix ?? (height >= 720 ? 'bt709' : 'bt601')

/**
 * The white of a page (203 cd/m², ITU-R BT.2408) is the usual white; what is brighter is as bright as that.
 */
const TO_USUAL_LIGHT = [
  'zscale=transfer=linear:npl=203',
  'format=gbrpf32le',
  'zscale=primaries=bt709',
  'tonemap=clip',
  'zscale=transfer=bt709:matrix=bt709:range=tv',
  'format=yuv420p',
]
