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

const crediting = (reading: ReturnType<typeof item>) =>
  creditsText({
    ...lessonOver([0, 5]),
    title: 'Tides',
    shelf: [
      item(SONG, 'Slack water', { licence: 'CC BY 4.0', credit: 'Ida Fenn', source: 'skerrow.example' }),
      item('9'.repeat(64), 'Not used'),
      reading,
    ],
  })

test('everything that is heard or seen is credited, what only lies on the shelf is not', () => {
  expect(crediting(item(TAKE, 'Reading', { credit: 'Tam Orrin' }))).toBe(
    'Tides\n\nNarration\n“Reading”: Tam Orrin\n\n' +
      'Music and sound\n“Slack water”: Ida Fenn, CC BY 4.0, skerrow.example',
  )
})

test('narration of which nobody has noted anything is not said to have no licence', () => {
  expect(crediting(item(TAKE, 'Reading', { source: 'reading.wav' }))).toBe(
    'Tides\n\nMusic and sound\n“Slack water”: Ida Fenn, CC BY 4.0, skerrow.example',
  )
})
