import { mkdir } from 'node:fs/promises'
import { FileStore } from '@tus/file-store'
import { Server } from '@tus/server'
import { nanoid } from 'nanoid'
import { UserError } from '@/core/userError'
import { isDatabaseAway } from '@/db/client'
import { uploadsFolder } from '@/jobs/places'
import { freeBytes, isDiskFull } from '@/media/store/disk'
import { largestFile } from '@/media/settings'
import { say } from '@/messages/say'
import { updateArrival } from '@/db/arrivals'
import { ownerOf } from '../../answer'
import { expectFile, nameOf, requestUploadImport } from '../adopt'

/** Uploads by the tus protocol: in pieces to disk, resumed where they broke off. What is whole goes to the workers. */

let opened: Server | undefined

async function server(): Promise<Server> {
  await mkdir(uploadsFolder(), { recursive: true, mode: 0o700 })
  return (opened ??= openServer())
}

function openServer(): Server {
  return new Server({
    path: '/api/uploads',
    relativeLocation: true,
    maxSize: largestFile(),
    datastore: new FileStore({ directory: uploadsFolder() }),
    namingFunction: () => nanoid(16),
    async onUploadCreate(request, { id, size = 0, metadata }) {
      // A full disk is foreseen where it can be: an upload says how large it is.
      if (size > (await freeBytes(uploadsFolder()))) throw { status_code: 507, body: say('server.diskFull') }
      if (metadata?.lesson) await expectFile(id, metadata.lesson, nameOf(metadata), ownerOf(request))
      return {}
    },
    // Who sees that something of it came a moment ago leaves it alone.
    async onIncomingRequest({ method }, id) {
      if (method === 'PATCH') updateArrival(id, {}).catch((error) => isDatabaseAway(error) || console.error(error))
    },
    async onUploadFinish(_request, { id, metadata }) {
      await requestUploadImport(id, metadata ?? {})
      return {}
    },
    onResponseError(_request, error) {
      if ('status_code' in error) return error
      if (error instanceof UserError) return { status_code: 404, body: error.message }
      console.error(error)
      if (isDatabaseAway(error)) return { status_code: 503, body: say('server.databaseAway') }
      if (isDiskFull(error)) return { status_code: 507, body: say('server.diskFull') }
      return { status_code: 500, body: say('server.uploadFault') }
    },
  })
}

async function answer(request: Request): Promise<Response> {
  return (await server()).handleWeb(request)
}

/** What was uploaded is not handed out: it may be anything, and would come from our own address. */
export { answer as POST, answer as PATCH, answer as HEAD, answer as DELETE, answer as OPTIONS }
