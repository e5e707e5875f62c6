/** Text that is being typed: it is in the lesson a moment after the last key, and before anything is left or saved. */
export interface Typing {
  /** A field has text that is not in the lesson; `commit` puts it there, and ends it. */
  begin(field: object, commit: () => void): void
  end(field: object): void
  has(field: object): boolean
  commit(field: object): void
  /** Puts all that is being typed into the lesson now. */
  commitAll(): void
  isTyping(): boolean
  subscribe(listener: () => void): () => void
}

export function createTyping(): Typing {
  const fields = new Map<object, () => void>()
  const listeners = new Set<() => void>()
  const tell = () => listeners.forEach((listener) => listener())
  return {
    begin(field, commit) {
      const isNew = !fields.has(field)
      fields.set(field, commit)
      if (isNew) tell()
    },
    end(field) {
      if (fields.delete(field)) tell()
    },
    has: (field) => fields.has(field),
    commit: (field) => fields.get(field)?.(),
    commitAll: () => [...fields.values()].forEach((commit) => commit()),
    isTyping: () => fields.size > 0,
    subscribe(listener) {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
  }
}
