'use client'

import { Button, Tooltip } from 'antd'
import { shownKeys } from '../../keys'
import { useLesson, useLessonState } from '../../lesson/context'
import { isApple } from '../../system'
import { selectedWords, wordsOfStep } from '../../words/caret'
import { ACTIONS, type ActionId, type SheetActions } from '../actions/actions'
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
    <section className={styles.part} aria-label="Words">
      <h2 className={styles.heading}>
        {chosen.length > 0 ? `“${shortened(text)}”` : word?.text ? `Before “${word.text}”` : `In step ${index + 1}`}
      </h2>
      <div className={styles.actions}>
        {chosen.length > 0 ? (
          <>
            <Do id="cut" actions={actions}>
              Cut
            </Do>
            <Do id="copy" actions={actions}>
              Copy
            </Do>
            <Do id="remove" actions={actions}>
              Delete
            </Do>
          </>
        ) : (
          <>
            <Do id="breakHere" actions={actions}>
              Next step starts here
            </Do>
            <Do id="pauseShorter" actions={actions}>
              Pause −
            </Do>
            <Do id="pauseLonger" actions={actions}>
              Pause +
            </Do>
            {word?.text && (
              <Do id="correct" actions={actions}>
                Correct
              </Do>
            )}
            <Do id="addSound" actions={actions}>
              Sound here…
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
  const { title } = action
  const key = own && shownKeys(own, isApple())
  return (
    <Tooltip title={key ? `${title} (${key})` : title}>
      <Button size="small" onClick={actions[id]}>
        {children}
      </Button>
    </Tooltip>
  )
}
