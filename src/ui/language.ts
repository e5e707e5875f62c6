/** The language that a browser is set to: a first guess at what somebody teaches in. */
export const browserLanguage = (): string => globalThis.navigator?.language ?? 'en'
