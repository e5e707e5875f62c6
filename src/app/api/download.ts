/** Headers that make a browser save a file under this name. */
export function downloadHeaders(name: string, type: string): Record<string, string> {
  const plain = name.replace(/[^\w .-]+/g, '-')
  return {
    'content-type': type,
    'cache-control': 'no-store',
    'content-disposition': `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(name)}`,
  }
}
