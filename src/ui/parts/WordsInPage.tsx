'use client'

import { WORDS_IN_PAGE, wordsToHand } from '@/messages/say'

/**
 * The words of the page, in its language. They come with its HTML and are read there when something is first said; React
 * hands them on no second time, and leaves them as they are.
 */
export function WordsInPage() {
  const text = typeof document === 'undefined' ? JSON.stringify(wordsToHand().messages) : ''
  return (
    <script
      id={WORDS_IN_PAGE}
      type="application/json"
      suppressHydrationWarning
      dangerouslySetInnerHTML={{ __html: text.replaceAll('<', '\\u003c') }}
    />
  )
}
