/** How a page tells a course site how far somebody has come. */
export interface Report {
  /** Where they were last time, in seconds. */
  begin(): Promise<number | null>
  /** Where they are, and how much of it they have seen (0..1). */
  place(seconds: number, seen: number): void
  complete(): void
  end(): void
}
