import { FRAME_RATE } from '@/core/units'
import { PICTURE_HEIGHT, PICTURE_WIDTH } from '../import/stills'

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

/** Brings any picture to the video's size, rate and colours. */
export const FIT_FILTER = [
  `scale=${PICTURE_WIDTH}:${PICTURE_HEIGHT}:force_original_aspect_ratio=decrease:out_color_matrix=bt709:out_range=tv`,
  `pad=${PICTURE_WIDTH}:${PICTURE_HEIGHT}:-1:-1:white`,
  'setsar=1',
  `fps=${FRAME_RATE}`,
  'format=yuv420p',
].join(',')
