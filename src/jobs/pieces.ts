import { rm } from 'node:fs/promises'
import { recordingFile } from '@/media/import/recordings'
import { incomingObject, objects, recordingsFolder } from './places'

/** The pieces of a recording, as they come in at the machine that serves. */
export const piecesOf = (id: string): string => recordingFile(recordingsFolder(), id)

/** Makes them known to the worker, which may be on another machine. */
export const handOverPieces = (id: string): Promise<void> => objects().put(incomingObject(id), piecesOf(id))

export async function removePieces(id: string): Promise<void> {
  await Promise.all([rm(piecesOf(id), { force: true }), objects().remove(incomingObject(id))])
}
