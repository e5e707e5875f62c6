/** Size of every finished picture, in pixels. */
export const FRAME = { width: 1920, height: 1080 } as const
