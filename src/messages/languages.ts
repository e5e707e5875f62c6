/** Languages that the interface speaks, by their tags; each has a file of its own beside this one. */
export const LANGUAGES = ['en', 'de'] as const
export type Language = (typeof LANGUAGES)[number]

/** What each calls itself: whoever looks for it may not read the present one. */
export const LANGUAGE_NAMES: Record<Language, string> = { en: 'English', de: 'Deutsch' }

/** How dates and times of day are written. */
export const LOCALES: Record<Language, string> = { en: 'en-GB', de: 'de-DE' }

export const isLanguage = (tag: unknown): tag is Language => LANGUAGES.some((one) => one === tag)

/** The first of the languages a browser asks for that the interface speaks; English where it speaks none of them. */
export function languageFor(acceptLanguage: string): Language {
  const wanted = acceptLanguage
    .split(',')
    .map((one) => {
      const [tag, quality] = one.trim().split(/;\s*q=/)
      return { language: tag!.split('-')[0]!.toLowerCase(), quality: quality === undefined ? 1 : Number(quality) }
    })
    .sort((a, b) => b.quality - a.quality)
  return wanted.map(({ language }) => language).find(isLanguage) ?? 'en'
}

/** Keeps what somebody has chosen in the menu of the pages. */
export const LANGUAGE_COOKIE = 'yarn-step-language'

/** The language in which a request is answered: the chosen one, or what the browser asks for. */
export function languageOf(cookies: string, acceptLanguage: string): Language {
  const chosen = new RegExp(`(?:^|; )${LANGUAGE_COOKIE}=(\\w+)`).exec(cookies)?.[1]
  return isLanguage(chosen) ? chosen : languageFor(acceptLanguage)
}
