import { lessonCaptions } from '@/core/captions/lessonCaptions'
import { withCaptions } from '@/core/captions/overPictures'
import type { Lesson } from '@/core/lesson/document'
import type { Timeline } from '@/core/lesson/timeline'
import type { HeardWords } from '@/core/narration/words/stepWords'

/** A lesson with its captions in the picture. Apart from where it is asked for, since few look at captions while they work. */
export const captioned = (lesson: Lesson, timeline: Timeline, heard: HeardWords): Timeline =>
  withCaptions(timeline, lessonCaptions(lesson, timeline, heard), lesson.look.captions)
