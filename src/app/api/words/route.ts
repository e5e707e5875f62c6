import { wordsToHand } from '@/messages/say'
import { route } from '../answer'

export const dynamic = 'force-dynamic'

/** All that a page says, in the language of whoever asks: for one that could not be made with them. */
export const GET = route(() => Promise.resolve(Response.json(wordsToHand())))
