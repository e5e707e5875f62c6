import dynamic from 'next/dynamic'
import type { ComponentType } from 'react'

/**
 * A part of a page that comes when it is first shown: what few open must not hold up what all see. Where the server is away it
 * comes when that is back: until then it is missing, and nothing else.
 */
export const onDemand = <Props extends object>(load: () => Promise<ComponentType<Props>>): ComponentType<Props> =>
  dynamic(() => untilItComes(load), { ssr: false })

const FIRST_WAIT = 1000 // ms
const LONGEST_WAIT = 15_000

async function untilItComes<T>(load: () => Promise<T>): Promise<T> {
  for (let wait = FIRST_WAIT; ; wait = Math.min(2 * wait, LONGEST_WAIT)) {
    try {
      return await load()
    } catch (error) {
      console.error(error)
      await new Promise((resolve) => setTimeout(resolve, wait))
    }
  }
}
