'use client'

import { StyleContext } from '@ant-design/cssinjs'
import { useContext, useState } from 'react'

type StyleCache = NonNullable<React.ContextType<typeof StyleContext>['cache']>

/**
 * Keeps the styles of parts that have gone: a panel that comes anew with each selection would have them computed each time,
 * which takes longer than the panel itself.
 */
export function useLastingStyles(): void {
  const { cache } = useContext(StyleContext)
  useState(() => keepStyles(cache))
}

/** Where the style of a part would be forgotten, it stays, used by none. */
function keepStyles(cache: StyleCache): void {
  const update = cache.opUpdate.bind(cache)
  cache.opUpdate = (path, change) =>
    update(path, (before) => {
      const after = change(before)
      return after === null && before && path.startsWith('style%') ? [0, before[1]] : after
    })
}
