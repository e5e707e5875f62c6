import { UserError } from '@/core/userError'

/**
 * Lets `most` pieces of work run at once; where one more is asked for, the oldest is broken off, and whoever waits for it is
 * told `sentence`.
 */
export function newestOf(most: number, sentence: () => string) {
  const running: AbortController[] = []
  return async <T>(work: (signal: AbortSignal) => Promise<T>, gone?: AbortSignal): Promise<T> => {
    const own = new AbortController()
    running.push(own)
    while (running.length > most) running.shift()!.abort()
    try {
      return await work(gone ? AbortSignal.any([own.signal, gone]) : own.signal)
    } catch (error) {
      throw own.signal.aborted ? new UserError(sentence(), { cause: error }) : error
    } finally {
      const index = running.indexOf(own)
      if (index >= 0) running.splice(index, 1)
    }
  }
}
