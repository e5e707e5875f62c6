import { copyFile, mkdir, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import type { Seconds } from '@/core/units'
import { UserError } from '@/core/userError'
import { say } from '@/messages/say'
import { sentenceFor } from '../../ffmpeg'
import { CODING_MEMORY, ProgramError, runProgram } from '../../process'
import { exists, PARTS } from '../../store/store'

/** A hundred slides take five seconds. */
const LIMIT: Seconds = 300

/** All pages, also hidden ones, so that they can be counted; pictures as they are. */
const EXPORT = JSON.stringify({
  ExportHiddenSlides: { type: 'boolean', value: 'true' },
  ReduceImageResolution: { type: 'boolean', value: 'false' },
  Quality: { type: 'long', value: '95' },
})

/**
 * Draws a deck as PDF with LibreOffice, and returns where it is. A deck can name files and addresses that are to be put
 * into it: so it is drawn where there are none, in a file system that holds the program and the deck alone, without any
 * network, with a profile of its own that does not outlive it.
 */
export async function drawDeck(
  path: string,
  extension: string,
  name: string,
  folder: string,
  signal?: AbortSignal,
): Promise<string> {
  const job = join(folder, 'office')
  await mkdir(job)
  await copyFile(path, join(job, `deck.${extension}`))
  const office = [
    'soffice',
    '-env:UserInstallation=file:///job/profile',
    ...['--headless', '--norestore', '--nolockcheck', '--nodefault', '--nofirststartwizard', '--nologo'],
    ...['--convert-to', `pdf:impress_pdf_Export:${EXPORT}`, '--outdir', '/job', `/job/deck.${extension}`],
  ]
  try {
    await runProgram('bwrap', [...closedIn(job), ...office], { limit: LIMIT, memory: CODING_MEMORY, signal })
  } catch (error) {
    if (error instanceof ProgramError && error.reason !== 'program')
      throw new UserError(sentenceFor(error, name), { cause: error })
    // What it was not able to do is seen by what is missing: it ends well where it failed, and badly where it did not.
    if (!(error instanceof ProgramError)) throw error
  }
  const drawn = join(job, 'deck.pdf')
  if (!(await exists(drawn))) throw new UserError(say('imports.theseSlidesCouldNot', { name }))
  const out = join(folder, PARTS.drawn)
  await rename(drawn, out)
  await rm(job, { recursive: true, force: true })
  return out
}

/** What the program sees: itself, the letters that are installed, and the one folder it works in. */
function closedIn(job: string): string[] {
  const seen = ['/usr', '/etc/fonts', '/etc/libreoffice', '/var/lib/libreoffice', '/var/cache/fontconfig']
  return [
    ...['--unshare-all', '--die-with-parent', '--new-session', '--clearenv'],
    ...['--setenv', 'PATH', '/usr/bin', '--setenv', 'HOME', '/job'],
    ...seen.flatMap((folder) => ['--ro-bind-try', folder, folder]),
    ...['bin', 'lib', 'lib64'].flatMap((folder) => ['--symlink', `usr/${folder}`, `/${folder}`]),
    ...['--proc', '/proc', '--dev', '/dev', '--tmpfs', '/tmp', '--bind', job, '/job', '--chdir', '/job'],
  ]
}
