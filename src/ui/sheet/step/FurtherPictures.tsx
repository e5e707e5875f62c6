'use client'

import { DeleteOutlined } from '@/ui/parts/icons'
import { App, Button, Select } from 'antd'
import { nanoid } from 'nanoid'
import type { Step } from '@/core/lesson/document'
import { say } from '@/messages/say'
import { useDesk, useLessonState } from '../../lesson/context'
import { PictureThumb } from '../../parts/PictureThumb'
import { markAtCaret, sayMark } from '../../words/anchors'
import { usePictureChoices } from './usePictureChoices'
import styles from '../panel.module.css'

/** Several pictures in one step: each further one is seen from a word on. */
export function FurtherPictures({ step }: { step: Step }) {
  const { store } = useDesk()
  const { message } = App.useApp()
  const state = useLessonState((all) => all)
  const choices = usePictureChoices()
  const { edit } = store.getState()
  const add = (key: string) => {
    const mark = markAtCaret(state)
    const choice = choices.find((one) => one.key === key)
    if (!mark || state.caret?.step !== step.id || state.caret.word === 0)
      return void message.info(say('step.putTheCaretBefore'))
    if (choice)
      edit(
        { name: 'placeMarks', marks: [mark] },
        { name: 'addPicture', step: step.id, id: nanoid(10), picture: choice.picture, mark: mark.id },
      )
  }
  return (
    <div>
      {step.more.map(({ id, picture, mark }) => (
        <span key={id} className={styles.pin}>
          <PictureThumb picture={picture} shape={state.history.lesson.frame.shape} className={styles.smallThumb} />
          {say('step.at', { mark: sayMark(state, mark) ?? say('step.wordsThatAreGone') })}
          <Button
            size="small"
            type="text"
            icon={<DeleteOutlined />}
            aria-label={say('step.takeThisPictureOut')}
            onClick={() => edit({ name: 'removePicture', step: step.id, id })}
          />
        </span>
      ))}
      <Select
        size="small"
        style={{ width: '100%' }}
        aria-label={say('step.anotherPictureAtThe')}
        placeholder={say('step.anotherPictureFromThe')}
        value={null}
        showSearch={{ optionFilterProp: 'label' }}
        options={choices.map(({ key, label }) => ({ value: key, label }))}
        onChange={(key: string | null) => key && add(key)}
      />
    </div>
  )
}
