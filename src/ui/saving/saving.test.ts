import { happen, isSaved, wantsSaving, type Happening, type Saving } from './saving'

const began: Saving<string> = {
  present: 'a',
  isTyping: false,
  saved: 'a',
  base: 1,
  saves: [],
  attempt: null,
  isAsking: false,
  trouble: null,
}

/** The state and the last order after all that happened. */
function after(...all: Happening<string>[]) {
  let [now, order] = [began, null as ReturnType<typeof happen<string>>['order']]
  for (const what of all) ({ now, order } = happen(now, what))
  return { now, order }
}
const changed = (lesson: string): Happening<string> => ({ kind: 'changed', lesson })
const due = (save: string): Happening<string> => ({ kind: 'due', save })
const lost: Happening<string> = { kind: 'unanswered', at: 7, isKept: true }

test('a change is waited for, then sent, then saved', () => {
  expect(after(changed('b')).order).toEqual({ kind: 'wait', for: 400 })
  const sent = after(changed('b'), due('1'))
  expect(sent.order).toEqual({ kind: 'send', base: 1, sent: { save: '1', lesson: 'b' } })
  const { now, order } = happen(sent.now, { kind: 'taken', revision: 2 })
  expect([isSaved(now), now.base, now.saves, order]).toEqual([true, 2, [], null])
})

test('what is changed while a save is under way is sent right after it, and not before', () => {
  expect(after(changed('b'), due('1'), changed('c')).order).toBeNull()
  expect(after(changed('b'), due('1'), due('2')).order).toBeNull()
  const { now, order } = after(changed('b'), due('1'), changed('c'), { kind: 'taken', revision: 2 })
  expect([isSaved(now), order]).toEqual([false, { kind: 'wait', for: 0 }])
  expect(happen(now, due('2')).order).toEqual({ kind: 'send', base: 2, sent: { save: '2', lesson: 'c' } })
})

test('a save without an answer is sent again as it was, whatever was changed since', () => {
  const { now, order } = after(changed('b'), due('1'), changed('c'), lost)
  expect(order).toEqual({ kind: 'wait', for: 3000 })
  expect(happen(now, due('2')).order).toEqual({ kind: 'send', base: 1, sent: { save: '1', lesson: 'b' } })
  // Also where it was taken back: it may have been stored.
  const back = happen(now, changed('a')).now
  expect([isSaved(back), wantsSaving(back)]).toEqual([false, true])
})

test('what the server does not take is not sent again until something has changed', () => {
  const refused = after(changed('b'), due('1'), { kind: 'refused', reason: 'too long' })
  expect([refused.order, happen(refused.now, due('2')).order]).toEqual([null, null])
  expect(happen(refused.now, changed('c')).order).toEqual({ kind: 'wait', for: 400 })
  // Changed while it was looked at.
  const meanwhile = after(changed('b'), due('1'), changed('c'), { kind: 'refused', reason: 'too long' })
  expect(meanwhile.order).toEqual({ kind: 'wait', for: 0 })
})

test('where somebody was quicker it is found out who, and gone on from there', () => {
  const met = after(changed('b'), due('1'), { kind: 'overtaken' })
  expect(met.order).toEqual({ kind: 'look' })
  const own = happen(met.now, { kind: 'ownSaveFound', revision: 2, lesson: 'b, stored' })
  expect([own.now.base, own.order]).toEqual([2, { kind: 'wait', for: 0 }])
  const united = happen(met.now, { kind: 'united', revision: 3, theirs: 'x', present: 'b + x' })
  expect([united.now.base, isSaved(united.now), united.order]).toEqual([3, false, { kind: 'wait', for: 0 }])
  // The look itself has no answer: it is saved, and so looked at, again.
  expect(happen(met.now, lost).order).toEqual({ kind: 'wait', for: 3000 })
})

test('while somebody has to choose nothing is sent; then it goes on, or what is here is given up', () => {
  const { now, order } = after(changed('b'), due('1'), { kind: 'overtaken' }, { kind: 'clashed' }, changed('c'))
  expect([order, happen(now, due('2')).order]).toEqual([null, null])
  expect(happen(now, { kind: 'united', revision: 3, theirs: 'x', present: 'c + x' }).order).toMatchObject({ for: 0 })
  const left = happen(now, { kind: 'givenUp' })
  expect([left.order, isSaved(left.now)]).toEqual([null, true])
})

test('what is being typed is not saved, and what ends without a change leaves nothing to send', () => {
  const typing = after({ kind: 'typing', isTyping: true })
  expect([isSaved(typing.now), typing.order]).toEqual([false, null])
  const ended = happen(typing.now, { kind: 'typing', isTyping: false })
  expect([isSaved(ended.now), ended.order]).toEqual([true, null])
})
