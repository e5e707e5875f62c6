'use client'

import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { nearestLanguage } from '@/core/narration/words/language'
import type { SpeechVoice } from '@/core/narration/speechVoice'
import { call } from '../api'
import { browserLanguage, spokenLanguages } from '../language'

/**
 * The language that is spoken, until it is chosen: that in which `text` is written, where it can be told; else that of the course, or the
 * browser's.
 */
export function useSpokenLanguage(ofCourse: string | null, text: string) {
  const [chosen, setChosen] = useState<string | null>(null)
  const { data: voices = [] } = useQuery({ queryKey: ['voices'], queryFn: () => call<SpeechVoice[]>('/api/voices') })
  const options = spokenLanguages(voices)
  const spoken = voices.map((one) => one.language)
  const usual = nearestLanguage(ofCourse ?? browserLanguage(), spoken)
  const { data: written } = useQuery({
    queryKey: ['written-language', text, usual, spoken.length],
    queryFn: async () => (await import('@/core/narration/words/writtenLanguage')).writtenLanguage(text, spoken, usual),
    enabled: text !== '' && spoken.length > 0,
  })
  const language = chosen ?? written ?? usual
  /** A voice that reads it; null: the usual one. */
  const voice = language === 'en-gb' ? undefined : voices.find((one) => one.language === language)
  return { language, options, setLanguage: setChosen, voice: voice?.id ?? null }
}
