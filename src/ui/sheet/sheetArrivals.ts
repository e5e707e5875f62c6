import { create } from 'zustand'

/** The page's one place for files to come in; the curtain takes them from here, whoever brings them. */
interface SheetArrivals {
  files: File[]
  bringIn(files: File[]): void
  take(): File[]
}

export const useSheetArrivals = create<SheetArrivals>()((set, get) => ({
  files: [],
  bringIn: (files) => set({ files: [...get().files, ...files] }),
  take() {
    const { files } = get()
    if (files.length > 0) set({ files: [] })
    return files
  },
}))
