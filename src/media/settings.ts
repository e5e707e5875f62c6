import { resolve } from 'node:path'

/** Settings of this installation, all from the environment (see .env.example). */
export const dataFolder = (): string => resolve(process.env.YARN_STEP_DATA || '.yarn-step')
export const largestFile = (): number => Number(process.env.YARN_STEP_LARGEST_FILE || 4 * 1024 ** 3)
/** Bytes that coded pictures may take for being used again. */
export const codedBytes = (): number => Number(process.env.YARN_STEP_CODED_BYTES || 20 * 1024 ** 3)
/** Where the program's own files lie. */
export const projectFolder = (): string => process.env.YARN_STEP_HOME ?? process.cwd()
