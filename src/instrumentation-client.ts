import { config } from 'zod'

/**
 * Runs before anything else in a page. Zod writes faster readers as text and has them made into code, which our pages forbid
 * (see server/headers.ts). It tries whether it may, once; a debugger that lets text be run for a moment makes that answer wrong,
 * and from then on nothing can be read.
 */
config({ jitless: true })
