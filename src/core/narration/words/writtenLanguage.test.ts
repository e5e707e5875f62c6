import { writtenLanguage } from './writtenLanguage'

const VOICES = [
  'en-gb',
  'en-us',
  'de',
  'fr-fr',
  'es',
  'it',
  'ru',
  'ja',
  'cmn',
  'nl',
  'sv',
  'da',
  'nb',
  'pl',
  'ar',
  'pt-br',
  'ca',
]

test.each([
  [
    'de',
    'Bevor Sie ablegen, hängen Sie die Fender aus und sehen Sie, woher der Wind kommt. Erst dann lösen Sie die Leinen.',
  ],
  [
    'en-gb',
    'Before you leave, put the fenders over the side and look where the wind comes from. Only then let go the lines.',
  ],
  [
    'fr-fr',
    'Avant de quitter le quai, sortez les défenses et regardez d’où vient le vent. Ensuite seulement, larguez les amarres.',
  ],
  [
    'es',
    'Antes de salir del muelle, saque las defensas y mire de dónde viene el viento. La marea sube seis horas y baja otras seis.',
  ],
  [
    'it',
    'Prima di lasciare il molo mettete fuori i parabordi e guardate da dove viene il vento. Solo allora mollate gli ormeggi.',
  ],
  [
    'da',
    'Før du forlader kajen, læg fenderne ud og se hvor vinden kommer fra. Først derefter kaster du fortøjningerne los.',
  ],
  [
    'ru',
    'Перед отходом от причала опустите кранцы за борт и посмотрите, откуда дует ветер. Только потом отдавайте концы.',
  ],
  ['ja', '出航する前に、フェンダーを舷側に降ろして、風がどこから吹いているかを見てください。'],
  ['ar', 'قبل أن تغادر الرصيف ضع الواقيات على جانب القارب وانظر من أين تأتي الريح في هذا اليوم ثم حل الحبال بهدوء.'],
])('two sentences in %s are told', (language, text) => {
  for (const usual of ['en-gb', 'de', 'ja']) expect(writtenLanguage(text, VOICES, usual)).toBe(language)
})

test('a few words, figures and nothing tell no language: it is the usual one', () => {
  const figures = 'HW 04:12 5.1 m · LW 10:31 1.2 m · '.repeat(2) + Array.from({ length: 60 }, (_, i) => i).join(' ')
  for (const text of ['', 'Tide', figures]) expect(writtenLanguage(text, VOICES, 'nl')).toBe('nl')
})

test('a language of which there is no voice is not offered', () => {
  const text =
    'Antes de salir del muelle, saque las defensas y mire de dónde viene el viento. La marea sube seis horas.'
  expect(writtenLanguage(text, ['ja', 'ru'], 'ja')).toBe('ja')
})

test('a language is the same in another land', () => {
  const text = 'Before you leave, put the fenders over the side and look where the wind comes from. Only then let go.'
  expect(writtenLanguage(text, VOICES, 'en-us')).toBe('en-us')
})
