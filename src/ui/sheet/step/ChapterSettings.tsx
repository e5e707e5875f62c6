'use client'

import { Input, Select } from 'antd'
import { LIMITS } from '@/core/lesson/limits'
import type { Step } from '@/core/lesson/document'
import { say } from '@/messages/say'
import { useDesk } from '../../lesson/context'
import { useTyped } from '../../saving/useTyped'
import panel from '../panel.module.css'

type Choice = 'title' | 'begins' | 'goes on'
const choices = (): { value: Choice; label: string }[] => [
  { value: 'title', label: say('step.beginsWhereTitleIsNew') },
  { value: 'begins', label: say('step.beginsOne') },
  { value: 'goes on', label: say('step.goesOnWithTheOneBefore') },
]

/** Whether a step begins a chapter of the video, and what that is called. */
export function ChapterSettings({ step }: { step: Step }) {
  const { store } = useDesk()
  const { chapter } = step
  const typed = useTyped(chapter?.title ?? '', (title, isFirst) =>
    store.getState().continueEdit({ name: 'setChapter', step: step.id, chapter: { begins: true, title } }, isFirst),
  )
  const choose = (choice: Choice) =>
    store.getState().edit({
      name: 'setChapter',
      step: step.id,
      chapter: choice === 'title' ? null : { begins: choice === 'begins', title: '' },
    })
  return (
    <div className={panel.fields}>
      <span>{say('step.chapter')}</span>
      <Select<Choice>
        aria-label={say('step.whetherThisStepBegins')}
        value={chapter ? (chapter.begins ? 'begins' : 'goes on') : 'title'}
        options={choices()}
        onChange={choose}
      />
      {chapter?.begins && (
        <>
          <label htmlFor="chapter-title">{say('step.called')}</label>
          <Input
            id="chapter-title"
            placeholder={step.title}
            maxLength={LIMITS.nameCharacters}
            value={typed.value}
            onChange={({ target }) => typed.onChange(target.value)}
            onBlur={typed.onBlur}
          />
        </>
      )}
    </div>
  )
}
