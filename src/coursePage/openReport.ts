import type { PageContent } from '@/core/delivery/coursePage'
import { cmi5Report } from './cmi5'
import type { Report } from './report'
import { scormReport } from './scorm'

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

/** Opened outside a course site: only this browser knows. */
function keptHere(): Report {
  const key = `place ${location.pathname}`
  return {
    begin: () => Promise.resolve(Number(read(key)) || null),
    place(seconds) {
      try {
        localStorage.setItem(key, String(seconds))
      } catch {
        // Some browsers keep nothing for pages that are opened from a folder.
      }
    },
    complete() {},
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
