import { create } from 'zustand'

/** Whether the list of earlier versions is open: it is asked for in the header, and in the list of what can be done. */
export const useVersionsShown = create<{ isShown: boolean; show(): void; hide(): void }>((set) => ({
  isShown: false,
  show: () => set({ isShown: true }),
  hide: () => set({ isShown: false }),
}))
