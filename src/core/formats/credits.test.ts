import { lessonOver, SONG, TAKE } from '@/core/testing/lessons'
import { creditsText } from './credits'

const item = (media: string, title: string, part = {}) => ({
  media,
  kind: 'sound' as const,
  title,
  source: '',
  licence: '',
  credit: '',
  ...part,
})

test('everything that is heard or seen is credited, what only lies on the shelf is not', () => {
  const lesson = {
    ...lessonOver([0, 5]),
    title: 'Tides',
    shelf: [
      item(SONG, 'Slack water', { licence: 'CC BY 4.0', credit: 'Ida Fenn', source: 'skerrow.example' }),
      item('9'.repeat(64), 'Not used'),
      item(TAKE, 'Reading'),
    ],
  }
  expect(creditsText(lesson)).toBe(
    'Tides\n\nMusic and sound\n“Slack water”: Ida Fenn, CC BY 4.0, skerrow.example\n“Reading”: licence unknown',
  )
})
