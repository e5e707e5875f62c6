'use client'

import { Input, Select } from 'antd'
import { LIMITS } from '@/core/lesson/limits'
import type { Step } from '@/core/lesson/document'
import { useDesk } from '../../lesson/context'
import { useTyped } from '../../lesson/useTyped'
import panel from '../panel.module.css'

const CHOICES = [
  { value: 'title', label: 'begins one where its title is new' },
  { value: 'begins', label: 'begins one' },
  { value: 'goes on', label: 'goes on with the one before' },
] as const
type Choice = (typeof CHOICES)[number]['value']

/** Whether a step begins a chapter of the video, and what that is called. */
export function ChapterSettings({ step }: { step: Step }) {
  const { store } = useDesk()
  const { chapter } = step
  const typed = useTyped(chapter?.title ?? '', (title, isFirst) =>
    store.getState().type({ name: 'setChapter', step: step.id, chapter: { begins: true, title } }, isFirst),
  )
  const choose = (choice: Choice) =>
    store.getState().edit({
      name: 'setChapter',
      step: step.id,
      chapter: choice === 'title' ? null : { begins: choice === 'begins', title: '' },
    })
  return (
    <div className={panel.fields}>
      <span>Chapter</span>
      <Select<Choice>
        aria-label="Whether this step begins a chapter"
        value={chapter ? (chapter.begins ? 'begins' : 'goes on') : 'title'}
        options={[...CHOICES]}
        onChange={choose}
      />
      {chapter?.begins && (
        <>
          <label htmlFor="chapter-title">Called</label>
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
