import { labelsOf } from './pageLabels'

test('pages are called as they are in print', () => {
  const ranges = [
    { index: 0, label: { '/S': '/r' } },
    { index: 4, label: { '/S': '/D', '/St': 1 } },
    { index: 7, label: { '/S': '/A', '/P': 'u:Annex ' } },
    { index: 8, label: { '/P': 'Back' } },
  ]
  expect(labelsOf(ranges, 9)).toEqual(['i', 'ii', 'iii', 'iv', '1', '2', '3', 'Annex A', 'Back'])
  expect(labelsOf([{ index: 0, label: { '/S': '/a', '/St': 26 } }], 2)).toEqual(['z', 'aa'])
})

test('labels that are just the numbers of the pages are none', () => {
  expect(labelsOf([], 3)).toEqual([])
  expect(labelsOf([{ index: 0, label: { '/S': '/D' } }], 3)).toEqual([])
})
