import { listVoices } from '@/media/speech/voices'
import { route } from '../answer'

/** The synthesised voices that are installed here. */
export const GET = route(async () => Response.json(await listVoices()))
