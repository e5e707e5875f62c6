import { emptyLesson } from '@/core/lesson/newParts'
import { applyEdit } from '@/core/lesson/edits'
import { adoptStyle, differences, followCourse, readCourseStyle, styleOf, type CourseStyle } from './courseStyle'

const lesson = emptyLesson('Knots')
const course: CourseStyle = {
  ...styleOf(lesson),
  frame: { ...lesson.frame, shape: '4:3' },
  edge: { kind: 'dissolve', length: 0.4 },
}

test('a lesson differs from its course in what is not the same', () => {
  expect(differences(lesson, styleOf(lesson))).toEqual([])
  expect(differences(lesson, course)).toEqual(['frame', 'edge'])
})

test('a lesson is made as its course is', () => {
  const adopted = adoptStyle(course).reduce((now, edit) => applyEdit(now, edit), lesson)
  expect(differences(adopted, course)).toEqual([])
  expect(adopted.targets).toEqual(lesson.targets)
})

test('when the course changes, a lesson follows in what it had as the course, and keeps what it had otherwise', () => {
  const own = { ...lesson, edge: { kind: 'push' as const, length: 1 } }
  const followed = followCourse(own, styleOf(lesson), course)
  expect(followed.frame.shape).toBe('4:3')
  expect(followed.edge.kind).toBe('push')
  expect(followCourse(own, course, course)).toBe(own)
  expect(followCourse(followed, styleOf(lesson), styleOf(lesson))).toBe(followed)
})

test('a style of before captions had a look has the one they had', () => {
  const { captions, ...look } = course.look
  expect(readCourseStyle({ ...course, look })).toEqual({ ...course, look: { ...look, captions } })
})
