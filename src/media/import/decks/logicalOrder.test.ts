import { logicalOrder } from './logicalOrder'

/** The left is as `pdftohtml` prints it of pages that a browser has printed. */
test('Arabic, with figures', () => {
  expect(logicalOrder(['رﺰﺠﻟاو ﺪﻤﻟا لوﺪﺟ ةءاﺮﻗ', '.12:45 ﻞﺜﻣ ،لوﺪﺠﻟا'])).toEqual([
    'قراءة جدول المد والجزر',
    'الجدول، مثل 12:45.',
  ])
})

test('Hebrew, with what is written the other way within it', () => {
  expect(logicalOrder(['לפשהו תואגה תלבט תאירק', '.LW-ו HW םע'])).toEqual(['קריאת טבלת הגאות והשפל', 'עם HW ו-LW.'])
})

test('a word of it in a page that is written from left to right', () => {
  expect(logicalOrder(['The word םולש means peace'])).toEqual(['The word שלום means peace'])
})

test('all else stays as it is', () => {
  expect(logicalOrder(['Depth (m): 3½ ﬁne', ''])).toEqual(['Depth (m): 3½ ﬁne', ''])
})
