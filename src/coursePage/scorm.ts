import type { Report } from './report'
import { readVisit, written } from './visit'

/** SCORM's run-time: an object that the course site puts into a window around this one. */
type Api = Record<string, (...args: string[]) => string>

/** Where both keep what a package wants to know again. */
const KEPT = 'cmi.suspend_data'
const PROGRESS = 'cmi.progress_measure'

/** The names by which SCORM 1.2 and SCORM 2004 call the same things, and how many characters may be kept. */
const NAMES = {
  scorm12: {
    object: 'API',
    call: (name: string) => `LMS${name}`,
    end: 'Finish',
    begin: 'Initialize',
    place: 'cmi.core.lesson_location',
    status: 'cmi.core.lesson_status',
    time: 'cmi.core.session_time',
    exit: 'cmi.core.exit',
    most: 4096,
  },
  scorm2004: {
    object: 'API_1484_11',
    call: (name: string) => name,
    end: 'Terminate',
    begin: 'Initialize',
    place: 'cmi.location',
    status: 'cmi.completion_status',
    time: 'cmi.session_time',
    exit: 'cmi.exit',
    most: 64_000,
  },
} as const

/** How far around the standard has one look. */
const MOST_FRAMES = 500

/** Null where no course site is around. */
export function scormReport(version: keyof typeof NAMES): Report | null {
  const names = NAMES[version]
  const api = findApi(names.object)
  if (!api) return null
  const call = (name: string, ...args: string[]) => api[names.call(name)]!(...args)
  const set = (name: string, value: string) => call('SetValue', name, value)
  const begun = Date.now()
  const isScorm2004 = version === 'scorm2004'
  let lessonLength = 0
  let isOver = false
  return {
    begin(length) {
      lessonLength = length
      const isUncounted = call(names.begin, '') === 'false'
      const status = call('GetValue', names.status)
      const isComplete = status === 'completed' || status === 'passed'
      if (!isComplete) set(names.status, 'incomplete')
      const kept = readVisit(call('GetValue', KEPT), length)
      // Packages of before kept the place alone.
      const place = kept.place || Number(call('GetValue', names.place)) || 0
      const share = isScorm2004 ? Number(call('GetValue', PROGRESS)) || 0 : 0
      return Promise.resolve({ ...kept, place, isComplete, share, isUncounted })
    },
    tell(visit, share) {
      set(names.place, visit.place.toFixed(1))
      set(KEPT, written(visit, lessonLength, names.most))
      if (isScorm2004) set(PROGRESS, share.toFixed(4))
      call('Commit', '')
    },
    complete() {
      set(names.status, 'completed')
      call('Commit', '')
    },
    end() {
      if (isOver) return
      isOver = true
      const seconds = (Date.now() - begun) / 1000
      set(names.time, version === 'scorm12' ? asTimespan(seconds) : `PT${seconds.toFixed(2)}S`)
      set(names.exit, 'suspend')
      call('Commit', '')
      call(names.end, '')
    },
  }
}

/** `0000:00:00.00`, as SCORM 1.2 writes a length of time. */
function asTimespan(seconds: number): string {
  const two = (value: number) => String(value).padStart(2, '0')
  const rest = (seconds % 60).toFixed(2).padStart(5, '0')
  return `${String(Math.floor(seconds / 3600)).padStart(4, '0')}:${two(Math.floor(seconds / 60) % 60)}:${rest}`
}

/** In the windows around this one, or around the one that opened it. */
function findApi(name: string): Api | null {
  for (const first of [window, window.opener as Window | null]) {
    for (let at: Window | null = first, n = 0; at && n < MOST_FRAMES; n++) {
      try {
        const api = (at as unknown as Record<string, Api | undefined>)[name]
        if (api) return api
      } catch {
        break // a window of another site
      }
      at = at.parent === at ? null : at.parent
    }
  }
  return null
}
