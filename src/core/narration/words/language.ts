/** The one of `languages` that is nearest to `wanted`: itself, its own in another land, or English. */
export function nearestLanguage(wanted: string, languages: readonly string[]): string {
  const all = [...languages].sort((a, b) => a.length - b.length)
  const tag = wanted.toLowerCase()
  const bare = tag.split('-')[0]!
  return (
    all.find((one) => one.toLowerCase() === tag) ??
    all.find((one) => one.toLowerCase() === bare) ??
    all.find((one) => one.toLowerCase().startsWith(`${bare}-`)) ??
    (all.includes('en-gb') ? 'en-gb' : (all[0] ?? 'en-gb'))
  )
}
