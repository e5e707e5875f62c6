/** A word parted from the marks before and after it; a word of nothing but opening marks is all before. */
export function marksAround(
  text: string,
  opening: string,
  closing: string,
): [before: string, word: string, after: string] {
  let from = 0
  while (from < text.length && opening.includes(text[from]!)) from++
  let to = text.length
  while (to > from && closing.includes(text[to - 1]!)) to--
  return [text.slice(0, from), text.slice(from, to), text.slice(to)]
}
