'use client'

import { Button, Tooltip } from 'antd'
import { say } from '@/messages/say'
import { shownKeys } from '../../keys'
import { useLesson, useLessonState } from '../../lesson/context'
import { isApple } from '../../system'
import { selectedWords, wordsOfStep } from '../../words/caret'
import { ACTIONS, actionTitle, type ActionId, type SheetActions } from '../actions/actions'
import { useShownKey } from '../actions/keyChoices'
import styles from '../panel.module.css'

/** What can be done at the caret, or with the words that are selected. */
export function WordSettings({ actions }: { actions: SheetActions }) {
  const state = useLessonState((all) => all)
  const { steps } = useLesson()
  const { caret } = state
  if (!caret) return null
  const chosen = selectedWords(state)
  const word = wordsOfStep(state, caret.step)[caret.word]
  const text = chosen.map(({ words, from, to }) => words.slice(from, to).map((one) => one.text).join(' ')).join(' ') // prettier-ignore
  const index = steps.findIndex(({ id }) => id === caret.step)
  return (
    <section className={styles.part} aria-label={say('selected.words')}>
      <h2 className={styles.heading}>
        {chosen.length > 0
          ? `“${shortened(text)}”`
          : word?.text
            ? say('selected.before', { text: word.text })
            : say('selected.inStep', { number: index + 1 })}
      </h2>
      <div className={styles.actions}>
        {chosen.length > 0 ? (
          <>
            <Do id="cut" actions={actions}>
              {say('selected.cut')}
            </Do>
            <Do id="copy" actions={actions}>
              {say('selected.copy')}
            </Do>
            <Do id="remove" actions={actions}>
              {say('selected.delete')}
            </Do>
          </>
        ) : (
          <>
            <Do id="breakHere" actions={actions}>
              {say('selected.nextStepStartsHere')}
            </Do>
            <Do id="pauseShorter" actions={actions}>
              {say('selected.pauseShorter')}
            </Do>
            <Do id="pauseLonger" actions={actions}>
              {say('selected.pauseLonger')}
            </Do>
            {word?.text && (
              <Do id="correct" actions={actions}>
                {say('selected.correct')}
              </Do>
            )}
            <Do id="addSound" actions={actions}>
              {say('selected.soundHere')}
            </Do>
          </>
        )}
      </div>
    </section>
  )
}

const LONGEST = 60

const shortened = (text: string): string =>
  text.length <= LONGEST ? text : `${text.slice(0, LONGEST / 2).trimEnd()} … ${text.slice(-LONGEST / 2).trimStart()}`

function Do({ id, actions, children }: { id: ActionId; actions: SheetActions; children: string }) {
  const action = ACTIONS.find((one) => one.id === id)!
  const own = useShownKey()(action)
  const title = actionTitle(action)
  const key = own && shownKeys(own, isApple())
  return (
    <Tooltip title={key ? `${title} (${key})` : title}>
      <Button size="small" onClick={actions[id]}>
        {children}
      </Button>
    </Tooltip>
  )
}
