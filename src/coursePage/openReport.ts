import type { PageContent } from '@/core/delivery/coursePage'
import { cmi5Report } from './cmi5'
import type { Report } from './report'
import { scormReport } from './scorm'
import { readVisit, written } from './visit'

/** By the course site around this page; outside one only this browser knows. */
export function openReport(to: PageContent['reportsTo']): Report {
  switch (to) {
    case 'scorm12':
    case 'scorm2004':
      return scormReport(to) ?? keptHere()
    case 'cmi5':
      return cmi5Report(new URL(location.href).searchParams) ?? keptHere()
    case null:
      return keptHere()
  }
}

const MOST = 100_000

/** Opened outside a course site: only this browser knows. */
function keptHere(): Report {
  const [visitKey, doneKey] = [`visit ${location.pathname}`, `done ${location.pathname}`]
  let lessonLength = 0
  return {
    begin(length) {
      lessonLength = length
      return Promise.resolve({ ...readVisit(read(visitKey), length), isComplete: read(doneKey) === 'yes', share: 0 })
    },
    tell: (visit) => keep(visitKey, written(visit, lessonLength, MOST)),
    complete: () => keep(doneKey, 'yes'),
    end() {},
  }
}

function read(key: string): string | null {
  try {
    return localStorage.getItem(key)
  } catch {
    return null
  }
}

function keep(key: string, text: string): void {
  try {
    localStorage.setItem(key, text)
  } catch {
    // Some browsers keep nothing for pages that are opened from a folder.
  }
}
