import { speechSegments } from '@/core/measure/speech'
import { measureFile } from '@/media/measure'

export async function speech(file: string) {
  const { track } = await measureFile(file)
  return { segments: speechSegments(track) }
}
