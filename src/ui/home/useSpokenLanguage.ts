'use client'

import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { nearestLanguage } from '@/core/narration/words/language'
import type { SpeechVoice } from '@/core/narration/speechVoice'
import { call } from '../api'
import { browserLanguage, spokenLanguages } from '../language'

/** The language that is spoken: that of its course, or guessed from the browser, and asked. */
export function useSpokenLanguage(ofCourse: string | null) {
  const [chosen, setChosen] = useState<string | null>(null)
  const { data: voices = [] } = useQuery({ queryKey: ['voices'], queryFn: () => call<SpeechVoice[]>('/api/voices') })
  const options = spokenLanguages(voices)
  const language =
    chosen ??
    nearestLanguage(
      ofCourse ?? browserLanguage(),
      voices.map(({ language }) => language),
    )
  /** A voice that reads it; null: the usual one. */
  const voice = language === 'en-gb' ? undefined : voices.find((one) => one.language === language)
  return { language, options, setLanguage: setChosen, voice: voice?.id ?? null }
}
