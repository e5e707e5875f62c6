import { FRAME_RATE } from '@/core/units'
import type { PictureStream } from '../ffmpeg'
import { FRAME } from '@/core/picture/frame'

/**
 * One way of coding for every picture, so that separately coded pieces share their parameter sets and can be joined
 * without coding anything again.
 */
export const CODING: readonly string[] = [
  '-c:v',
  'libx264',
  '-profile:v',
  'high',
  '-level',
  '4.0',
  '-preset',
  'veryfast',
  '-crf',
  '14',
  '-tune',
  'stillimage',
  '-x264-params',
  'keyint=120:min-keyint=1:scenecut=0:bframes=0:ref=1:weightp=0:stitchable=1:mbtree=0:rc-lookahead=0:sync-lookahead=0:force-cfr=1:chromaloc=0',
  '-color_primaries',
  'bt709',
  '-color_trc',
  'bt709',
  '-colorspace',
  'bt709',
  '-color_range',
  'tv',
  '-r',
  String(FRAME_RATE),
]

/** Frames between two pictures one can jump to. */
export const KEY_INTERVAL = 120

const SCALE = 'out_color_matrix=bt709:out_range=tv'
const AS_CODED = ['setsar=1', 'format=yuv420p']

/** Brings a picture of the video's own size to its colours. */
export const STILL_FILTER = [`scale=${FRAME.width}:${FRAME.height}:${SCALE}`, `fps=${FRAME_RATE}`, ...AS_CODED].join(
  ',',
)

/**
 * Brings the picture of a recording to the video's size and colours: lines of two moments become pictures of one, pixels
 * become square, light of a wide range becomes usual light, and what is not tagged is taken for what its size says. It is
 * put in the middle, without a row or column of the ground where it fills the frame but for a rounding.
 */
export function recordingFilter(picture: PictureStream): string {
  const { width, height } = sizeInFrame(picture)
  const ground = width < FRAME.width || height < FRAME.height ? [`pad=${FRAME.width}:${FRAME.height}:-1:-1:white`] : []
  return [
    ...(picture.isInterlaced ? ['bwdif=mode=send_frame:deint=interlaced'] : []),
    ...(picture.range === 'high' ? TO_USUAL_LIGHT : []),
    `scale=${width}:${height}:${picture.range === 'high' ? SCALE : `in_color_matrix=${matrixOf(picture)}:${SCALE}`}`,
    ...ground,
    ...AS_CODED,
  ].join(',')
}

/** A piece of the ground narrower than this is a rounding. */
const ROUNDING = 4 // pixels

/** How large a picture is in the frame, in whole pairs of pixels. */
export function sizeInFrame({ width, height, pixelShape }: PictureStream): { width: number; height: number } {
  const wide = width * pixelShape
  const scale = Math.min(FRAME.width / wide, FRAME.height / height)
  const rounded = (size: number, whole: number) =>
    whole - size * scale <= ROUNDING ? whole : 2 * Math.round((size * scale) / 2)
  return { width: rounded(wide, FRAME.width), height: rounded(height, FRAME.height) }
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
