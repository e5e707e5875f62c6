/** What a page that shows a lesson says by itself, in the lesson's language as far as it is known here. */
export interface PageWords {
  /** In which they are: BCP 47. */
  language: string
  speed: string
  captions: string
  keys: string
  chapters: string
  transcript: string
  watched: string
  /** This visit does not count any more. */
  uncounted: string
  /** To the course. */
  back: string
  /** Of P, B, N and T, in this order. */
  whatKeysDo: readonly [play: string, back: string, next: string, text: string]
}

const ENGLISH: PageWords = {
  language: 'en',
  speed: 'Speed',
  captions: 'Captions',
  keys: 'Keys',
  chapters: 'Chapters',
  transcript: 'Transcript',
  watched: 'Watched',
  uncounted: 'Open the lesson from the course again to have it counted.',
  back: 'Back to the course',
  whatKeysDo: [
    'plays and stops',
    'goes back to where the sentence began',
    'goes to the next one',
    'shows what is said as text',
  ],
}

const OTHERS: readonly PageWords[] = [
  {
    language: 'de',
    speed: 'Tempo',
    captions: 'Untertitel',
    keys: 'Tasten',
    chapters: 'Kapitel',
    transcript: 'Zum Nachlesen',
    watched: 'Angesehen',
    uncounted: 'Öffnen Sie die Lektion aus dem Kurs noch einmal, damit sie zählt.',
    back: 'Zurück zum Kurs',
    whatKeysDo: [
      'spielt und hält an',
      'geht zurück zum Anfang des Satzes',
      'geht zum nächsten',
      'zeigt das Gesagte als Text',
    ],
  },
  {
    language: 'fr',
    speed: 'Vitesse',
    captions: 'Sous-titres',
    keys: 'Touches',
    chapters: 'Chapitres',
    transcript: 'Transcription',
    watched: 'Vu',
    uncounted: 'Rouvrez la leçon depuis le cours pour qu’elle compte.',
    back: 'Retour au cours',
    whatKeysDo: [
      'lit et met en pause',
      'revient au début de la phrase',
      'passe à la suivante',
      'montre ce qui est dit sous forme de texte',
    ],
  },
  {
    language: 'es',
    speed: 'Velocidad',
    captions: 'Subtítulos',
    keys: 'Teclas',
    chapters: 'Capítulos',
    transcript: 'Transcripción',
    watched: 'Visto',
    uncounted: 'Abra la lección de nuevo desde el curso para que cuente.',
    back: 'Volver al curso',
    whatKeysDo: [
      'reproduce y detiene',
      'vuelve al comienzo de la frase',
      'pasa a la siguiente',
      'muestra lo que se dice como texto',
    ],
  },
]

/** English where there are none of its language. */
export const pageWordsOf = (language: string): PageWords =>
  OTHERS.find((one) => one.language === primary(language)) ?? ENGLISH

export const primary = (language: string): string => language.toLowerCase().split('-')[0]!
