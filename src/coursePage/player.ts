import type { PageContent } from '@/core/delivery/coursePage'
import { cueText } from '@/core/formats/captionFiles'
import { pageWordsOf } from '@/core/delivery/pageWords'
import { openReport } from './openReport'

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

/** By what was really played, not by where somebody has jumped to. */
function seen(): number {
  let sum = 0
  for (let i = 0; i < video.played.length; i++) sum += video.played.end(i) - video.played.start(i)
  return video.duration > 0 ? sum / video.duration : 0
}

let isFinished = false
function finish(): void {
  if (isFinished) return
  isFinished = true
  document.getElementById('done')!.textContent = `✓ ${words.watched}`
  report.complete()
}

const tell = () => report.place(video.currentTime, seen())
video.addEventListener('pause', tell)
setInterval(() => {
  if (!video.paused) tell()
}, TELL_EVERY)
window.addEventListener('pagehide', () => {
  tell()
  report.end()
})

void report.begin().then((place) => {
  // Who was at the end begins anew.
  if (place && place < (video.duration || Infinity) - 5) video.currentTime = place
})
