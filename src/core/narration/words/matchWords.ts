/**
 * Which word of one text is which of another: the longest common subsequence (Hunt and McIlroy, 1976), without regard to
 * case and punctuation. For each word of `a` the index of its partner in `b`, or -1; partners rise.
 */
export function matchWords(a: readonly string[], b: readonly string[]): Int32Array {
  const [x, y] = [a.map(bare), b.map(bare)]
  const partner = new Int32Array(a.length).fill(-1)
  let start = 0
  while (start < x.length && start < y.length && x[start] === y[start]) partner[start] = start++
  let end = 0
  while (end < x.length - start && end < y.length - start && x[x.length - 1 - end] === y[y.length - 1 - end]) {
    partner[x.length - 1 - end] = y.length - 1 - end
    end++
  }
  matchMiddle(x.slice(start, x.length - end), y.slice(start, y.length - end), start, partner)
  return partner
}

/** Beyond this many pairs the middle is another text, and nobody needs its words matched. */
const MOST_PAIRS = 4e6

function matchMiddle(x: readonly string[], y: readonly string[], offset: number, partner: Int32Array): void {
  if (x.length * y.length > MOST_PAIRS || x.length === 0 || y.length === 0) return
  const width = y.length + 1
  const length = new Uint16Array((x.length + 1) * width)
  for (let i = x.length - 1; i >= 0; i--) {
    for (let j = y.length - 1; j >= 0; j--) {
      length[i * width + j] =
        x[i] === y[j]
          ? length[(i + 1) * width + j + 1]! + 1
          : Math.max(length[(i + 1) * width + j]!, length[i * width + j + 1]!)
    }
  }
  for (let i = 0, j = 0; i < x.length && j < y.length;) {
    if (x[i] === y[j]) partner[offset + i++] = offset + j++
    else if (length[(i + 1) * width + j]! >= length[i * width + j + 1]!) i++
    else j++
  }
}

const bare = (word: string) => word.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '')
