/** Headers that make a browser save a file under this name. */
export function downloadHeaders(name: string, type: string): Record<string, string> {
  const plain = name.replace(/[^\w .-]+/g, '-')
  return {
    'content-type': type,
    'cache-control': 'no-store',
    'content-disposition': `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(name)}`,
  }
}

/** Bytes as they are made or read, one piece when one is wanted. A reader that goes away ends their source. */
export function streamOf(source: AsyncIterable<Uint8Array>): ReadableStream<Uint8Array> {
  const pieces = source[Symbol.asyncIterator]()
  return new ReadableStream({
    async pull(controller) {
      const { value, done } = await pieces.next()
      if (done) controller.close()
      else controller.enqueue(value)
    },
    cancel: () => void pieces.return?.(undefined),
  })
}
