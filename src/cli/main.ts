import { Command, CommanderError } from 'commander'
import { UserError } from '@/core/userError'

/** The headless command. Each subcommand's code is loaded only when it is called, so that all start quickly. */

type Outcome = Promise<unknown>

const program = new Command('yarn-step')
  .description('Measures, aligns levels and makes lessons without a browser or a database. Prints one JSON object.')
  .exitOverride()
  .configureOutput({ outputError: (text, write) => write(text.replace(/^error: /, '').trimEnd() + '\n') })

const command = (usage: string, description: string) =>
  program.command(usage).description(description).option('--json', 'print the JSON on one line').exitOverride()

const LANGUAGE = 'in which the lesson is told, where it is told in several'

command('loudness <file>', 'loudness of a sound by ITU-R BS.1770')
  .option('--series', 'also momentary and short-term loudness every 100 ms')
  .action(run(async (file, options) => (await import('./commands/loudness')).loudness(file, options)))

command('speech <file>', 'where somebody speaks').action(
  run(async (file) => (await import('./commands/speech')).speech(file)),
)

program
  .command('align <file> <script>')
  .description('when each word of a script is said; one sentence a line in the script')
  .option('--language <code>', 'of the script', 'en')
  .option('--json', 'print the JSON on one line')
  .exitOverride()
  .action((file: string, script: string, options: { language: string; json?: boolean }) =>
    print(
      import('./commands/align').then(({ align }) => align(file, script, options)),
      options,
    ),
  )

command('ride', 'lays a bed under a voice')
  .requiredOption('--voice <file>')
  .requiredOption('--bed <file>')
  .option('--clearance <lu>', 'how far the bed stays under the voice', number, 16)
  .option('--swell <lu>', 'how far it stays under the voice where nobody speaks', number, 6)
  .option('--even-strokes', 'takes its strokes down while the voice speaks')
  .option('--pocket', 'takes out of the bed, while the voice speaks, what the voice needs')
  .requiredOption('--out-dir <folder>')
  .action(runOptions(async (options) => (await import('./commands/ride')).ride(options)))

command('mix <archive>', "makes a lesson's sound")
  .requiredOption('--out <file>')
  .option('--stems <folder>')
  .option('--language <code>', LANGUAGE)
  .action(run(async (archive, options) => (await import('./commands/mix')).mix(archive, options)))

command('render <archive>', "makes a lesson's video, its sound alone, or a picture of it")
  .requiredOption(
    '--out <file>',
    'ends in .mp4 or .webm; in .wav, .flac, .mp3, .m4a or .opus; or in .png, .gif or .webp',
  )
  .option(
    '--preset <name>',
    'where it goes: course-site, video-site, phone, archive, without-music, captions-in-picture',
  )
  .option('--step <number>', 'only this step', number)
  .option('--from <seconds>', 'only from here', number)
  .option('--to <seconds>', 'only to here', number)
  .option('--cache <folder>', 'keeps coded pictures there, so that making the video again is quicker')
  .option('--sheet <file>', 'what was measured in it: ends in .html, to be read, or in .json')
  .option('--language <code>', LANGUAGE)
  .action(run(async (archive, options) => (await import('./commands/render')).render(archive, options)))

command('package <archive>', 'makes a zip for a course site: the video with a page of its own')
  .requiredOption('--out <file>', 'ends in .zip')
  .option('--standard <name>', 'scorm12, scorm2004, cmi5 or plain', 'scorm12')
  .option('--language <code>', LANGUAGE)
  .action(run(async (archive, options) => (await import('./commands/package')).makePackage(archive, options)))

command(
  'course <archives...>',
  'makes files of several lessons into a folder; only what has changed since the last time',
)
  .requiredOption('--out-dir <folder>')
  .option('--make <names...>', 'what to make of each lesson, as video, mp3, captions-vtt, package-scorm12', ['video'])
  .option('--title <text>', 'of the course', 'Course')
  .option('--language <code>', LANGUAGE)
  .action((archives: string[], options: { json?: boolean }) =>
    print(
      import('./commands/course').then(({ course }) => course(archives, options as never)),
      options,
    ),
  )

command('captions <archive>', "a lesson's captions")
  .requiredOption('--out <file>', 'ends in .vtt, .srt or .ttml')
  .option('--language <code>', LANGUAGE)
  .action(run(async (archive, options) => (await import('./commands/captions')).captions(archive, options)))

command('chapters <archive>', "a lesson's chapters")
  .requiredOption('--out <file>', 'ends in .vtt or .txt')
  .option('--language <code>', LANGUAGE)
  .action(run(async (archive, options) => (await import('./commands/captions')).chapters(archive, options)))

command('transcript <archive>', 'what is said in a lesson, to be read')
  .requiredOption('--out <file>', 'ends in .txt, .html or .docx')
  .option('--times', 'also when each step begins')
  .option('--pictures', 'also what each step shows (.docx)')
  .option('--language <code>', LANGUAGE)
  .action(run(async (archive, options) => (await import('./commands/captions')).transcript(archive, options)))

command('check <archive>', 'finds mistakes before delivery')
  .option('--captions', 'also in captions, once all words are found')
  .option('--language <code>', LANGUAGE)
  .action(run(async (archive, options) => (await import('./commands/check')).check(archive, options)))

command('new', 'makes a first lesson from raw files')
  .requiredOption('--pictures <files...>')
  .option('--voice <file>', 'without one, a synthesised voice reads the script or the notes of the deck')
  .option('--bed <file>')
  .option('--script <file>', 'the words; a blank line between two slides')
  .option('--with-hidden', 'also slides that the deck leaves out')
  .option('--title <text>')
  .option('--shape <shape>', '16:9, 4:3, 1:1 or 9:16', '16:9')
  .option('--lines <count>', 'of the shorter side: 720, 1080, 1440 or 2160', number, 1080)
  .option('--rate <count>', 'pictures a second: 25, 30, 50 or 60', number, 30)
  .option('--fill', 'pictures of another shape fill the frame and are cut off at their sides')
  .option('--language <code>', 'of the script', 'en')
  .requiredOption('--out <archive>')
  .action(runOptions(async (options) => (await import('./commands/new')).newLesson(options)))

command('clean <file>', 'takes noise out of a voice; every sample stays at its place')
  .requiredOption('--out <file>')
  .option('--noise-from <seconds>', 'where the room alone is heard', number)
  .option('--noise-to <seconds>', '', number)
  .option('--parts <names...>', 'noise, hiss, rumble, tone, sibilance, plosives, clicks, clipping, levelling')
  .option('--amount <share>', 'how much of the noise goes, 0 to 1', number)
  .action(run(async (file, options) => (await import('./commands/clean')).clean(file, options)))

command('say <script>', 'has a script read by a synthesised voice')
  .option('--voice <voice>', 'one of those that `voices` lists', 'espeak-ng:en-gb')
  .option('--rate <words>', 'words a minute', number, 140)
  .option('--pitch <share>', '0 to 100', number, 45)
  .option('--pause <seconds>', 'between two sentences', number, 0.45)
  .option('--said-as <pairs...>', 'how words are said, as word=said')
  .requiredOption('--out <file>')
  .action(run(async (script, options) => (await import('./commands/say')).say(script, options)))

command('voices', 'lists the synthesised voices that are installed').action(
  runOptions(async () => ({ voices: await (await import('@/media/speech/voices')).listVoices() })),
)

command('gc', "clears away what nothing in the application's database refers to any more")
  .option('--dry-run', 'only says what would go')
  .option('--grace-days <days>', 'how long media must have been without need', number)
  .action(runOptions(async (options) => (await import('./commands/gc')).gc(options)))

command('demo', 'makes the demo lessons as archives, and the raw files of the second one')
  .requiredOption('--out <folder>')
  .action(runOptions(async (options) => (await import('./commands/demo')).demo(options)))

function run(work: (subject: string, options: never) => Outcome) {
  return (subject: string, options: { json?: boolean }) => print(work(subject, options as never), options)
}

function runOptions(work: (options: never) => Outcome) {
  return (options: { json?: boolean }) => print(work(options as never), options)
}

async function print(outcome: Outcome, { json }: { json?: boolean }): Promise<void> {
  const text = JSON.stringify(await outcome, null, json ? undefined : 1)
  await new Promise((resolve) => process.stdout.write(`${text}\n`, resolve))
}

function number(text: string): number {
  const value = Number(text)
  if (text.trim() === '' || !Number.isFinite(value)) throw new UserError(`A number is needed here, not "${text}".`)
  return value
}

/** One sentence for everything that goes wrong; a stack trace helps nobody who calls a command. */
function sentenceFor(error: unknown): string {
  if (error instanceof UserError) return error.message
  if (error instanceof Error && 'code' in error && 'path' in error) return fileSentence(error.code, String(error.path))
  return `Something went wrong inside the program: ${String(error).split('\n')[0]}`
}

function fileSentence(code: unknown, path: string): string {
  if (code === 'ENOENT') return `There is no such file: ${path}.`
  if (code === 'EISDIR') return `A file is needed, and this is a folder: ${path}.`
  if (code === 'EACCES') return `This may not be read or written: ${path}.`
  return `This can't be read or written (${String(code)}): ${path}.`
}

try {
  await program.parseAsync()
} catch (error) {
  if (error instanceof CommanderError) process.exitCode = error.exitCode === 0 ? 0 : 2
  else {
    process.stderr.write(`${sentenceFor(error)}\n`)
    process.exitCode = 1
  }
}
