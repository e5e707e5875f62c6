import { madeDemo } from './made'

/** Makes the demo before several applications are started that load it. */

await madeDemo()
