import type { WaitingArrival } from '@/core/messages/arrival'
import { call } from '../api'
import { asOwner } from '../owner'
import { holdPageLock, isPageGone } from '../pageLock'

/** What this browser has on its way into lessons. */

const lockOf = (id: string) => `yarn-step-arrival-${id}`

/** While a page holds it, it is that page's affair; it goes with the page, however that ends. */
export const holdArrival = (id: string): (() => void) => holdPageLock(lockOf(id))

/** Whether a page of this browser makes it, sends it, or is about to put it into its lesson. */
export const isHeld = async (id: string): Promise<boolean> => !(await isPageGone(lockOf(id)))

/** What this browser has on its way into a lesson (of `kept` it knows that nobody makes them any more), and what others have left. */
export const askWaiting = (lesson: string, kept: readonly string[]): Promise<WaitingArrival[]> =>
  call(`/api/arrivals?lesson=${lesson}${kept.map((id) => `&kept=${id}`).join('')}`, { headers: asOwner() })

const arrivalCall = (id: string, method: 'PATCH' | 'DELETE', body?: unknown): Promise<unknown> =>
  call(`/api/arrivals/${id}`, { method, body, headers: asOwner() })

/** It is in its lesson, and that is saved. */
export const tellTaken = (id: string) => arrivalCall(id, 'PATCH', { state: 'taken' })

/** Of its own browser, or one that nobody sends any more. */
export const throwArrivalAway = (id: string) => arrivalCall(id, 'DELETE')
