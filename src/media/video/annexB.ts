/** One unit of an H.264 byte stream (ITU-T H.264, Annex B), with its start code. */
export interface Nal {
  type: number
  bytes: Buffer
}

export const NAL = { slice: 1, idr: 5, sei: 6, sps: 7, pps: 8 } as const

export function splitNals(stream: Buffer): Nal[] {
  const starts: number[] = []
  for (let at = stream.indexOf(START); at >= 0; at = stream.indexOf(START, at + 3)) {
    // A longer start code has a zero in front, which belongs to it.
    starts.push(at > 0 && stream[at - 1] === 0 ? at - 1 : at)
  }
  return starts.map((start, i) => {
    const bytes = stream.subarray(start, starts[i + 1])
    const payload = bytes[2] === 1 ? 3 : 4
    return { type: bytes[payload]! & 31, bytes }
  })
}

const START = Buffer.from([0, 0, 1])

/** Parameter sets of a stream; pieces can only be joined where these are the same to the byte. */
export function parameterSets(nals: readonly Nal[]): Buffer {
  return Buffer.concat(firstOf(nals, NAL.sps).concat(firstOf(nals, NAL.pps)))
}

/** A stream as pieces of so many pictures each, of one slice a picture. */
export function splitPieces(stream: Buffer, lengths: readonly number[]): Buffer[] {
  const pictures = picturesOf(splitNals(stream))
  const total = lengths.reduce((sum, length) => sum + length, 0)
  if (pictures.length !== total) throw new Error(`expected ${total} pictures, got ${pictures.length}`)
  let at = 0
  return lengths.map((length) => Buffer.concat(pictures.slice(at, (at += length))))
}

/** Each picture with what stands before it: parameter sets, and what the coder says of itself. */
function picturesOf(nals: readonly Nal[]): Buffer[] {
  const pictures: Buffer[] = []
  let waiting: Buffer[] = []
  for (const { type, bytes } of nals) {
    waiting.push(bytes)
    if (type !== NAL.slice && type !== NAL.idr) continue
    pictures.push(Buffer.concat(waiting))
    waiting = []
  }
  return pictures
}

const firstOf = (nals: readonly Nal[], type: number) => {
  const found = nals.find((nal) => nal.type === type)
  return found ? [withLongStart(found.bytes)] : []
}

/** The same unit with a start code of four bytes, so that equal units have equal bytes. */
const withLongStart = (bytes: Buffer) => (bytes[2] === 1 ? Buffer.concat([Buffer.from([0]), bytes]) : bytes)
