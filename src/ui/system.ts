/** Whether this is a system whose keyboards have a Cmd key. */
export const isApple = (): boolean =>
  typeof navigator !== 'undefined' && /mac|iphone|ipad/i.test(navigator.platform || navigator.userAgent)
