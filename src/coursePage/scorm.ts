import type { Report } from './report'

/** SCORM's run-time: an object that the course site puts into a window around this one. */
type Api = Record<string, (...args: string[]) => string>

/** The names by which SCORM 1.2 and SCORM 2004 call the same things. */
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
  let isOver = false
  return {
    async begin() {
      call(names.begin, '')
      const status = call('GetValue', names.status)
      if (status !== 'completed' && status !== 'passed') set(names.status, 'incomplete')
      return Number(call('GetValue', names.place)) || null
    },
    place(seconds, seen) {
      set(names.place, seconds.toFixed(1))
      if (version === 'scorm2004') set('cmi.progress_measure', Math.min(1, seen).toFixed(4))
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
