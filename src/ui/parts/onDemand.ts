import dynamic from 'next/dynamic'
import type { ComponentType } from 'react'

/** A part of a page that comes when it is first shown: what few open must not hold up what all see. */
export const onDemand = <Props extends object>(load: () => Promise<ComponentType<Props>>): ComponentType<Props> =>
  dynamic(load, { ssr: false })
