/** What a browser is told about every answer: nothing from elsewhere runs in our pages, and ours stand in nobody's frame. */

const ALWAYS: Record<string, string> = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'permissions-policy': 'microphone=(self), camera=(self), display-capture=(self), geolocation=(), payment=(), usb=()',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'x-frame-options': 'DENY',
}

/** By this the application learns which nonce the page's own scripts are to carry. */
export const NONCE_HEADER = 'x-nonce'

/** Headers of one answer. Scripts that stand in the page carry the `nonce`. */
export function safetyHeaders(nonce: string): Record<string, string> {
  return { ...ALWAYS, 'content-security-policy': contentSecurityPolicy(nonce) }
}

/** Styles may stand in the page: components set sizes and places in it. WebAssembly counts in our own workers. */
export const contentSecurityPolicy = (nonce: string): string =>
  [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'wasm-unsafe-eval'`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "media-src 'self' blob:",
    "font-src 'self' data:",
    "worker-src 'self' blob:",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ')
