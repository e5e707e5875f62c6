import type { PageContent } from '@/core/delivery/coursePage'
import { cueText } from '@/core/formats/captionFiles'
import { pageWordsOf } from '@/core/delivery/pageWords'
import { openReport } from './openReport'
import type { Earlier } from './report'
import { shareOf, together, type Visit } from './visit'

/** What a lesson's page in a package does: captions, chapters, transcript, speed, keys, and telling how far one has come. */

/** So much of a lesson seen is all of it: few watch the last breath of the music. */
const ENOUGH = 0.95
const TELL_EVERY = 5000 // ms

const content = JSON.parse(document.getElementById('content')!.textContent) as PageContent
const video = document.getElementById('video') as HTMLVideoElement
const report = openReport(content.reportsTo)
const words = pageWordsOf(content.language)

/** In the page itself: from a folder browsers open no file of captions. */
const track = video.addTextTrack('captions', words.captions, content.language)
for (const { start, end, lines } of content.captions) track.addCue(new VTTCue(start, end, cueText(lines)))

const captions = document.getElementById('captions') as HTMLInputElement
const showCaptions = (isShown: boolean) => {
  captions.checked = isShown
  track.mode = isShown ? 'showing' : 'hidden'
}
showCaptions(false)
captions.addEventListener('change', () => showCaptions(captions.checked))
video.textTracks.addEventListener('change', () => (captions.checked = track.mode === 'showing'))

const speed = document.getElementById('speed') as HTMLSelectElement
speed.addEventListener('change', () => (video.playbackRate = Number(speed.value)))

const timed = [...document.querySelectorAll<HTMLButtonElement>('button[data-time]')]
for (const button of timed)
  button.addEventListener('click', () => {
    video.currentTime = Number(button.dataset.time)
    void video.play()
  })

video.addEventListener('timeupdate', () => {
  for (const list of ['#chapters button', 'details button']) {
    const buttons = [...document.querySelectorAll<HTMLButtonElement>(list)]
    const current = buttons.findLast(({ dataset }) => Number(dataset.time) <= video.currentTime + 0.05)
    for (const button of buttons) button.setAttribute('aria-current', String(button === current))
  }
  if (seen() >= ENOUGH) finish()
})

/** Who goes back right after a sentence began means the one before. */
const JUST_BEGUN = 1 // s
const KEYS: Record<string, () => void> = {
  p: () => void (video.paused ? video.play() : video.pause()),
  b: () => {
    const before = content.captions.findLast(({ start }) => start < video.currentTime - JUST_BEGUN)
    video.currentTime = before?.start ?? 0
  },
  n: () => {
    const next = content.captions.find(({ start }) => start > video.currentTime + 0.05)
    if (next) video.currentTime = next.start
  },
  t: () => showCaptions(track.mode !== 'showing'),
}
/** Single letters can be switched off, for those who speak to their machine (WCAG 2.2, 2.1.4). */
const keys = document.getElementById('keys') as HTMLInputElement
document.addEventListener('keydown', (event) => {
  const isFree = keys.checked && !(event.target instanceof HTMLSelectElement)
  if (isFree && !event.ctrlKey && !event.metaKey && !event.altKey) KEYS[event.key.toLowerCase()]?.()
})

let earlier: Earlier | null = null

/** By what was really played in all visits, not by where somebody has jumped to. */
function visit(): Visit {
  const now = Array.from({ length: video.played.length }, (_, i) => ({
    start: video.played.start(i),
    end: video.played.end(i),
  }))
  return { place: video.currentTime, played: together(earlier?.played ?? [], now) }
}

const seen = () => Math.max(earlier?.share ?? 0, shareOf(visit().played, video.duration))

function showStatus(text: string): void {
  document.getElementById('done')!.textContent = text
}
const showFinished = () => showStatus(`✓ ${words.watched}`)

let isFinished = false
function finish(): void {
  if (isFinished || !earlier || earlier.isUncounted) return
  isFinished = true
  showFinished()
  report.complete()
  tell()
}

function tell(): void {
  if (earlier) report.tell(visit(), seen())
}
video.addEventListener('pause', tell)
setInterval(() => {
  if (!video.paused) tell()
}, TELL_EVERY)
function end(): void {
  tell()
  if (earlier) report.end()
}
window.addEventListener('pagehide', end)
// A browser may keep a page and show it again: its visit is over, so another one begins.
window.addEventListener('pageshow', (event) => {
  if (event.persisted) location.reload()
})

/** What was played of a lesson is known by its length, which the video tells. */
const ready =
  video.readyState > 0
    ? Promise.resolve()
    : new Promise<void>((resolve) => video.addEventListener('loadedmetadata', () => resolve(), { once: true }))
void ready
  .then(() => report.begin(video.duration))
  .then((known) => {
    earlier = known
    isFinished = known.isComplete
    if (isFinished) showFinished()
    if (known.isSilent) video.muted = true
    if (known.isUncounted) showStatus(words.uncounted)
    if (known.returnTo) showWayBack(known.returnTo)
    // Who was at the end begins anew, and who has begun already goes on.
    if (known.place && known.place < video.duration - 5 && video.played.length === 0) video.currentTime = known.place
  })

/** Back to the course, as its site wants it. */
function showWayBack(address: string): void {
  const link = document.createElement('a')
  link.href = address
  link.target = '_top'
  link.textContent = words.back
  link.addEventListener('click', end)
  document.querySelector('.controls')!.append(link)
}
