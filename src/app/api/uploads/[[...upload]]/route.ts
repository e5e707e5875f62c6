import { mkdir } from 'node:fs/promises'
import { FileStore } from '@tus/file-store'
import { Server } from '@tus/server'
import { nanoid } from 'nanoid'
import { createImport } from '@/db/imports'
import { uploadsFolder } from '@/jobs/places'
import { sendJob } from '@/jobs/queue'
import { largestFile } from '@/media/settings'
import { refuseStrangers } from '../../answer'

/** Uploads by the tus protocol: in pieces to disk, resumed where they broke off. What is whole goes to the workers. */

let server: Promise<Server> | undefined

async function openServer(): Promise<Server> {
  await mkdir(uploadsFolder(), { recursive: true })
  return new Server({
    path: '/api/uploads',
    relativeLocation: true,
    maxSize: largestFile(),
    datastore: new FileStore({ directory: uploadsFolder() }),
    namingFunction: () => nanoid(16),
    async onUploadFinish(_request, { id, metadata }) {
      const purpose = metadata?.purpose === 'archive' ? 'archive' : 'media'
      await createImport({
        id,
        name: metadata?.filename || 'a file without a name',
        purpose,
        courseId: metadata?.course || null,
      })
      await sendJob('import', id)
      return {}
    },
  })
}

async function answer(request: Request): Promise<Response> {
  try {
    refuseStrangers(request)
  } catch (error) {
    return new Response((error as Error).message, { status: 403 })
  }
  server ??= openServer()
  return (await server).handleWeb(request)
}

export { answer as GET, answer as POST, answer as PATCH, answer as HEAD, answer as DELETE, answer as OPTIONS }
