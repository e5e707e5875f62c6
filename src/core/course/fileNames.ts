/** Names for files that lie side by side: each once, without what file systems don't take. */
export function uniqueNames(names: readonly string[]): string[] {
  const taken = new Set<string>()
  return names.map((name) => {
    const clean = name.replace(/[\\/:*?"<>|]/g, '-')
    const dot = clean.lastIndexOf('.')
    const [stem, ending] = dot > 0 ? [clean.slice(0, dot), clean.slice(dot)] : [clean, '']
    let own = clean
    for (let n = 2; taken.has(own.toLowerCase()); n++) own = `${stem} ${n}${ending}`
    taken.add(own.toLowerCase())
    return own
  })
}
