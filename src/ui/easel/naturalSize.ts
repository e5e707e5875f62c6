import type { Size } from '@/core/picture/frame'

/** Of a picture or a recording on the page, in pixels of its own; 0 until it is loaded. */
export const naturalSize = (source: HTMLImageElement | HTMLVideoElement): Size =>
  'videoWidth' in source
    ? { width: source.videoWidth, height: source.videoHeight }
    : { width: source.naturalWidth, height: source.naturalHeight }
