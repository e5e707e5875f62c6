import { createStore } from 'zustand/vanilla'

/** Whether this page has brought in files: what shows them on their way comes then. */
export const filesExpected = createStore(() => false)
