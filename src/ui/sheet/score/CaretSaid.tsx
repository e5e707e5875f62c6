'use client'

import { useEffect, useState } from 'react'
import { say } from '@/messages/say'
import { useDesk } from '../../lesson/context'
import type { LessonState } from '../../lesson/lessonStore'
import { titleOf } from '../../words/anchors'
import { layerTitle } from '../../over/layerNames'
import { selectedWords, wordsOfStep } from '../../words/caret'
import { thingPicked } from '../../words/picked'

/** Says where the caret stands and what is selected, for those who do not see it. The row is told by the grid itself. */
export function CaretSaid() {
  const { store } = useDesk()
  const [said, setSaid] = useState('')
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined
    const stop = store.subscribe((now, before) => {
      if (now.caret === before.caret && now.picked === before.picked) return
      // Only where it comes to rest.
      clearTimeout(timer)
      timer = setTimeout(() => setSaid(sayPlace(store.getState())), REST)
    })
    return () => {
      clearTimeout(timer)
      stop()
    }
  }, [store])
  return (
    <p className="visually-hidden" role="status" data-testid="caret-said">
      {said}
    </p>
  )
}

const REST = 150 // ms

function sayPlace(state: LessonState): string {
  const { caret, picked, history } = state
  const thing = thingPicked(history.lesson, picked)
  if (thing?.kind === 'layer') return say('score.overThePictureIs', { layer: layerTitle(thing.layer) })
  if (thing?.kind === 'picture') return say('score.aFurtherPictureIs')
  if (thing) return say('score.isChosen', { title: titleOf(history.lesson, thing.cue.media) })
  if (!caret) return ''
  const chosen = selectedWords(state).flatMap(({ words, from, to }) => words.slice(from, to).map(({ text }) => text))
  if (chosen.length > 0) return say('score.selected', { words: chosen.join(' ') })
  const words = wordsOfStep(state, caret.step)
  const word = words[caret.word]
  if (word)
    return word.text ? say('score.before', { text: word.text }) : say('score.beforePhrase', { number: caret.word + 1 })
  return words.length > 0 ? say('score.afterTheLastWord') : say('score.nothingIsSaidHere')
}
