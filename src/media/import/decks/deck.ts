import { cutText } from '@/core/text'
import { UserError } from '@/core/userError'
import { listed } from '@/messages/numbers'
import { say } from '@/messages/say'
import { missingFonts } from './fonts'
import { readOdp } from './odp'
import { drawDeck } from './office'
import { importPdf, type PdfPage } from './pdf'
import { readPptx } from './pptx'
import type { SlideShow } from './slideShow'

export interface DeckPage extends PdfPage {
  /** What the speaker is to say. */
  notes: string
  isHidden: boolean
}

const READERS: Record<string, (path: string, name: string) => Promise<SlideShow>> = { pptx: readPptx, odp: readOdp }

const MOST_NOTES = 20_000

/** Makes a slide of each page of a deck: PDF as it is, slides as their program would draw them. */
export async function importDeck(
  path: string,
  extension: string,
  name: string,
  folder: string,
  options: { signal?: AbortSignal; onProgress?: (share: number) => void },
): Promise<{ pages: DeckPage[]; note: string | null }> {
  const read = READERS[extension]
  if (!read) return { pages: (await importPdf(path, name, folder, true, options)).map(withoutNotes), note: null }
  const show = await read(path, name).catch((error: Error) => {
    if (error instanceof UserError) throw error
    throw new UserError(say('imports.thisDeckIsDamaged', { name }), {
      cause: error,
    })
  })
  const drawn = await drawDeck(path, extension, name, folder, options.signal)
  const pages = await importPdf(drawn, name, folder, false, options)
  // Where the slides were counted otherwise than they were drawn, nobody knows whose the notes are.
  const isMatched = show.slides.length === pages.length
  const notes = [isMatched ? null : say('imports.notesNotMatched'), fontNote(await missingFonts(show.fonts))]
  return {
    pages: isMatched ? pages.map((page, i) => withNotes(page, show.slides[i]!)) : pages.map(withoutNotes),
    note: notes.filter(Boolean).join(' ') || null,
  }
}

const withoutNotes = (page: PdfPage): DeckPage => ({ ...page, notes: '', isHidden: false })

const withNotes = (page: PdfPage, { title, notes, isHidden }: SlideShow['slides'][number]): DeckPage => ({
  ...page,
  title: cutText(title, 120) || page.title,
  notes: cutText(notes, MOST_NOTES),
  isHidden,
})

const fontNote = (missing: readonly string[]) =>
  missing.length === 0 ? null : say('imports.fontsReplaced', { fonts: listed(missing.slice(0, 5)) })
