'use client'

import { Button, Input } from 'antd'
import { useMemo, useRef } from 'react'
import type { Caption } from '@/core/captions/captions'
import { joined, parted, wordsOfCaption } from '@/core/captions/corrections'
import { captionsOfWords, saidWords } from '@/core/captions/lessonCaptions'
import type { CaptionCorrection } from '@/core/lesson/document'
import { LIMITS } from '@/core/lesson/limits'
import type { StepSpan } from '@/core/lesson/timeline'
import { heardWords } from '@/core/narration/words/alignments'
import { say } from '@/messages/say'
import { clock } from '../format'
import { useDesk, useLesson, useLessonState, useTimeline } from '../lesson/context'
import { useTyped } from '../saving/useTyped'
import { LostCorrections } from './LostCorrections'
import styles from './captions.module.css'

/** A caption with the words it stands for. */
interface ListedCaption extends CaptionCorrection {
  caption: Caption
}

/** The captions of a step: how each reads, and where it is parted. */
export function StepCaptions({ span }: { span: StepSpan }) {
  const captions = useStepCaptions(span)
  return (
    <>
      {captions.length === 0 && <p className={styles.note}>{say('captions.nothingIsSaidHere')}</p>}
      <ol className={styles.list} aria-label={say('captions.captionsOfThisStep')}>
        {captions.map((one, i) => (
          <CaptionItem key={one.words} one={one} next={captions[i + 1]} />
        ))}
      </ol>
      <LostCorrections />
    </>
  )
}

function useStepCaptions(span: StepSpan): ListedCaption[] {
  const lesson = useLesson()
  const timeline = useTimeline()
  const alignments = useLessonState((state) => state.alignments)
  const analyses = useLessonState((state) => state.analyses)
  return useMemo(() => {
    const words = saidWords({ ...timeline, steps: [span] }, heardWords(lesson, alignments, analyses))
    return captionsOfWords(lesson, timeline, words).map((caption) => ({
      caption,
      words: wordsOfCaption(words, caption),
      text: caption.lines.join('\n'),
    }))
  }, [lesson, timeline, span, alignments, analyses])
}

function CaptionItem({ one, next }: { one: ListedCaption; next: ListedCaption | undefined }) {
  const { store, player } = useDesk()
  const { edit, continueEdit } = store.getState()
  const { caption, words } = one
  const caret = useRef(0)
  const typed = useTyped(one.text, (text, isFirst) =>
    continueEdit({ name: 'correctCaptions', put: [{ words, text }], remove: [] }, isFirst),
  )
  const shown = { words, text: typed.value }
  const part = () => {
    const both = parted(shown, caret.current)
    if (both) edit({ name: 'correctCaptions', put: both, remove: [words] })
  }
  return (
    <li>
      <button className={styles.time} onClick={() => player.seek(caption.start)} title={say('captions.goThere')}>
        {clock(caption.start)}
      </button>
      <Input.TextArea
        aria-label={say('captions.captionAt', { start: clock(caption.start) })}
        autoSize={{ minRows: 1, maxRows: 4 }}
        maxLength={LIMITS.captionCharacters}
        placeholder={say('captions.notShown')}
        value={typed.value}
        onChange={({ target }) => typed.onChange(target.value)}
        onSelect={({ currentTarget }) => (caret.current = currentTarget.selectionStart)}
        onBlur={typed.onBlur}
      />
      <Pace caption={caption} />
      <div className={styles.actions}>
        {/* The caret stays where it is while one presses them. */}
        <Button size="small" onMouseDown={(event) => event.preventDefault()} onClick={part}>
          {say('captions.partAtTheCaret')}
        </Button>
        {next && (
          <Button
            size="small"
            onClick={() => edit({ name: 'correctCaptions', put: [joined(shown, next)], remove: [words, next.words] })}
          >
            {say('captions.joinWithTheNext')}
          </Button>
        )}
        {caption.isCorrected && (
          <Button size="small" onClick={() => edit({ name: 'correctCaptions', put: [], remove: [words] })}>
            {say('captions.asItWasMade')}
          </Button>
        )}
      </div>
    </li>
  )
}

/** Said where it can hardly be read in its time, or does not fit a usual screen. */
function Pace({ caption: { start, end, lines } }: { caption: Caption }) {
  const { pace } = useLesson().look.captions
  const letters = lines.join(' ').length / (end - start)
  const faults = [
    letters > pace + 1 && say('captions.lettersASecondHard', { letters: Math.round(letters) }),
    lines.length > 2 && say('captions.moreThanTwoLines'),
    lines.some(({ length }) => length > LONG_LINE) && say('captions.aLineHasMore', { most: LONG_LINE }),
  ].filter(Boolean)
  return faults.length > 0 ? <p className={styles.fault}>{faults.join('; ')}</p> : null
}

const LONG_LINE = 42
