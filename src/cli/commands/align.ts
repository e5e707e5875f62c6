import { readFile } from 'node:fs/promises'
import { readScript } from '@/core/narration/words/script'
import { alignMedia } from '@/media/speech/alignment'
import { importSoundFile, withStore } from '../workspace'

/** One sentence a line in the script. */
export async function align(file: string, scriptFile: string, { language }: { language: string }) {
  const script = readScript(await readFile(scriptFile, 'utf8'), { byLine: true })
  return withStore(async (store) => {
    const { media } = await importSoundFile(store, file)
    const { words, sentences, extra } = await alignMedia(
      store,
      { media: media.hash, from: 0, to: media.length! },
      script,
      language,
    )
    return {
      words: words.map(({ word, sentence, ...times }) => ({ text: script.words[word]!.text, ...times, sentence })),
      sentences: sentences.map(({ sentence, ...rest }) => ({
        index: sentence,
        text: script.sentences[sentence]!.text,
        ...rest,
      })),
      extra: extra.map(({ kind, start, end, sentence }) => ({
        kind,
        start,
        end,
        ...(sentence !== undefined && { index: sentence }),
      })),
    }
  })
}
