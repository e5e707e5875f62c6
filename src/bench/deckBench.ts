import { join } from 'node:path'
import { writeDeck } from '@/demo/deck'
import { HARBOUR_LIGHTS } from '@/demo/harbourLights'
import { importMedia } from '@/media/import/import'
import { folderObjects } from '@/media/store/folderObjects'
import { openStore } from '@/media/store/store'
import { cpuTime } from './cpuTime'

const SLIDES = 40

/** Slides with notes to stills, notes and titles, against the office program that only prints them as a PDF. */
export async function measureDeck(work: string): Promise<void> {
  const deck = join(work, 'forty.pptx')
  const slides = HARBOUR_LIGHTS.filter(({ isHidden }) => !isHidden)
  await writeDeck(
    Array.from({ length: SLIDES }, (_, i) => ({ ...slides[i % slides.length]!, title: `Slide ${i + 1}` })),
    deck,
  )
  const office = ['--headless', `-env:UserInstallation=file://${join(work, 'profile')}`, '--convert-to', 'pdf']
  const printed = cpuTime('soffice', [...office, '--outdir', work, deck]).wall
  const store = openStore(folderObjects(join(work, 'deck')))
  const start = performance.now()
  const { pages, notes } = await importMedia(store, deck, 'forty.pptx')
  const taken = (performance.now() - start) / 1000
  const said = notes.filter(Boolean).length
  console.log(
    `${pages.length} slides to stills and ${said} notes: ${taken.toFixed(1)} s, ${(taken / printed).toFixed(1)} times the printing alone`,
  )
}
