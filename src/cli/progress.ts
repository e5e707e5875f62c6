/** Says on standard error how far a command is, each percent once. */
export function showProgress(): (share: number) => void {
  let shown = -1
  return (share) => {
    const percent = Math.floor(share * 100)
    if (percent > shown) process.stderr.write(`${(shown = percent)} %\n`)
  }
}
