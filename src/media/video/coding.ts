import { rasterSize, type Frame } from '@/core/picture/frame'

const PARAMETERS =
  'keyint=120:min-keyint=1:scenecut=0:bframes=0:ref=1:weightp=0:stitchable=1:mbtree=0:rc-lookahead=0:sync-lookahead=0:force-cfr=1:chromaloc=0'

/**
 * One way of coding for every picture, so that separately coded pieces share their parameter sets and can be joined
 * without coding anything again.
 */
export const codingOf = (frame: Frame): readonly string[] => coding(frame, 14, PARAMETERS)

/** The same for what is drawn: of one quality whatever was coded before. */
export const drawnCodingOf = (frame: Frame): readonly string[] => coding(frame, 13, `${PARAMETERS}:qcomp=1`)

const coding = (frame: Frame, rateFactor: number, parameters: string): readonly string[] => [
  '-c:v',
  'libx264',
  '-profile:v',
  'high',
  '-level',
  levelOf(frame),
  '-preset',
  'veryfast',
  '-crf',
  String(rateFactor),
  '-tune',
  'stillimage',
  '-x264-params',
  parameters,
  '-color_primaries',
  'bt709',
  '-color_trc',
  'bt709',
  '-colorspace',
  'bt709',
  '-color_range',
  'tv',
  '-r',
  String(frame.rate),
]

/** The least one of H.264 (table A-1) that such pictures fit, so that players of all ages take them. */
function levelOf({ pixels, rate }: Frame): string {
  const [slow, fast] = LEVELS.find(([largest]) => pixels <= largest)![1]
  return rate <= 30 ? slow : fast
}

/** By pixels a unit: for 30 pictures a second, and for 60. */
const LEVELS: readonly [number, readonly [string, string]][] = [
  [2 / 3, ['4.0', '4.0']],
  [1, ['4.0', '4.2']],
  [4 / 3, ['5.0', '5.1']],
  [2, ['5.1', '5.2']],
]

/** Frames between two pictures one can jump to. */
export const KEY_INTERVAL = 120

/** Of colours, to those of the video. */
export const TO_VIDEO_COLOURS = 'out_color_matrix=bt709:out_range=tv'
export const AS_CODED = ['setsar=1', 'format=yuv420p']

/** Brings a picture of the video's own size to its colours. */
export function stillFilter(frame: Frame): string {
  const { width, height } = rasterSize(frame)
  return [`scale=${width}:${height}:${TO_VIDEO_COLOURS}`, `fps=${frame.rate}`, ...AS_CODED].join(',')
}
