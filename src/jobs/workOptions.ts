export interface WorkOptions {
  signal?: AbortSignal
  /** 0..1 */
  onProgress?: (share: number) => void
}
