import { createWriteStream } from 'node:fs'
import { open, rm, stat, utimes } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { ReadableStream } from 'node:stream/web'
import { S3mini } from 's3mini'
import { readWhole } from './files'
import { copyInto, draftIn, pathWithin } from './folderObjects'
import { missing, type ObjectStore, type StoredObject } from './objects'

export interface BucketSettings {
  /** With the bucket's name as its path: http://127.0.0.1:9000/yarn-step */
  endpoint: string
  region: string
  accessKeyId: string
  secretAccessKey: string
}

/** Larger files go in parts of this size. */
const PART = 8 * 1024 ** 2 // bytes
const PAGE = 1000

/**
 * Files in a bucket that speaks the S3 protocol. Programs read files from a disk, so what is used is kept in a folder of
 * this machine too; it may be emptied at any time.
 */
export function bucketObjects(settings: BucketSettings, cache: string): ObjectStore {
  const bucket = new S3mini({ ...settings, minPartSize: PART })
  const fetching = new Map<string, Promise<string>>()

  async function fetchInto(name: string, path: string): Promise<string> {
    const response = await bucket.getObjectResponse(name)
    if (!response) throw missing()
    const folder = await draftIn(cache)
    try {
      const draft = join(folder, 'object')
      await pipeline(streamOf(response), createWriteStream(draft))
      await copyInto(path, draft)
      return path
    } finally {
      await rm(folder, { recursive: true, force: true })
    }
  }

  return {
    size: (name) => bucket.getContentLength(name).catch(nullIfMissing),
    async open(name, range) {
      const response = range
        ? await bucket.getObjectRaw(name, false, range.from, range.to).catch(nullIfMissing)
        : await bucket.getObjectResponse(name)
      if (!response) throw missing()
      return streamOf(response)
    },
    async local(name) {
      const path = pathWithin(cache, name)
      const now = new Date()
      const isHere = await utimes(path, now, now).then(
        () => true,
        () => false,
      )
      if (isHere) return path
      const fetched = fetching.get(name) ?? fetchInto(name, path).finally(() => fetching.delete(name))
      fetching.set(name, fetched)
      return fetched
    },
    async put(name, path) {
      await upload(bucket, name, path)
      await copyInto(pathWithin(cache, name), path)
    },
    async remove(name) {
      await rm(pathWithin(cache, name), { force: true })
      await bucket.deleteObject(name)
    },
    list: (prefix) => listed(bucket, prefix),
    draft: () => draftIn(cache),
  }
}

async function upload(bucket: S3mini, name: string, path: string): Promise<void> {
  const { size } = await stat(path)
  const file = await open(path)
  const part = async (number: number) => {
    const bytes = Buffer.alloc(Math.min(PART, size - number * PART))
    await readWhole(file, bytes, number * PART)
    return bytes
  }
  try {
    if (size <= PART) {
      await bucket.putObject(name, await part(0), 'application/octet-stream')
      return
    }
    const id = await bucket.getMultipartUploadId(name)
    try {
      const parts = []
      // One after the other: an hour of sound must not lie in memory.
      for (let i = 0; i * PART < size; i++) parts.push(await bucket.uploadPart(name, id, await part(i), i + 1))
      await bucket.completeMultipartUpload(name, id, parts)
    } catch (error) {
      await bucket.abortMultipartUpload(name, id).catch(() => {})
      throw error
    }
  } finally {
    await file.close()
  }
}

async function* listed(bucket: S3mini, prefix: string): AsyncGenerator<StoredObject> {
  let token: string | undefined
  do {
    const page = await bucket.listObjectsPaged('/', prefix, PAGE, token)
    if (!page) throw new Error(`There is no bucket ${bucket.bucketName}`)
    for (const { Key, Size, LastModified } of page.objects ?? [])
      yield { name: Key, bytes: Number(Size), changed: new Date(LastModified) }
    token = page.nextContinuationToken
  } while (token)
}

const streamOf = ({ body }: Response): Readable =>
  body ? Readable.fromWeb(body as ReadableStream<Uint8Array>) : Readable.from([])

function nullIfMissing(error: Error & { status?: number }): null {
  const cause = error.cause as { status?: number } | undefined
  if (error.status === 404 || cause?.status === 404) return null
  throw error
}
