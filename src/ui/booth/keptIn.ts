/** The browser's own database of recordings that are not in their lesson yet; it is there where something was ever recorded. */
export const KEPT_IN = 'yarn-step-recordings'
