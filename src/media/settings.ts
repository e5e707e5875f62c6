import { resolve } from 'node:path'
import type { BucketSettings } from './store/bucketObjects'

/** Settings of this installation, all from the environment (see .env.example). */
export const dataFolder = (): string => resolve(process.env.YARN_STEP_DATA || '.yarn-step')
export const largestFile = (): number => Number(process.env.YARN_STEP_LARGEST_FILE || 4 * 1024 ** 3)
/** Bytes that coded pictures may take for being used again. */
export const codedBytes = (): number => Number(process.env.YARN_STEP_CODED_BYTES || 20 * 1024 ** 3)
/** Bytes of a bucket's files that are kept on this machine as well. */
export const cacheBytes = (): number => Number(process.env.YARN_STEP_CACHE_BYTES || 50 * 1024 ** 3)

/** The list of voices of this machine's own programs (see speech/ownVoices.ts); empty: there are none. */
export const voicesFile = (): string => process.env.YARN_STEP_VOICES ?? ''

/** The bucket in which files are kept; null: they are kept in the data folder. */
export function bucketSettings(): BucketSettings | null {
  const { YARN_STEP_BUCKET: endpoint, YARN_STEP_BUCKET_REGION: region = 'auto' } = process.env
  if (!endpoint) return null
  const { YARN_STEP_BUCKET_KEY: accessKeyId, YARN_STEP_BUCKET_SECRET: secretAccessKey } = process.env
  if (!accessKeyId || !secretAccessKey)
    throw new Error(
      'YARN_STEP_BUCKET is set, but not YARN_STEP_BUCKET_KEY and YARN_STEP_BUCKET_SECRET (see .env.example)',
    )
  return { endpoint, region, accessKeyId, secretAccessKey }
}

/** Where the program's own files lie. */
export const projectFolder = (): string => process.env.YARN_STEP_HOME ?? process.cwd()
