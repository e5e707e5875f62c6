import { QueryClient } from '@tanstack/react-query'

/**
 * What is asked of the server, kept for all who show it. The server may be on this very machine: it is asked whether the
 * browser believes itself in a network or not.
 */
const newClient = () =>
  new QueryClient({
    defaultOptions: {
      queries: { retry: 1, refetchOnWindowFocus: false, networkMode: 'always' },
      mutations: { networkMode: 'always' },
    },
  })

let ofThisPage: QueryClient | undefined

/** One for each page; on the server, which draws pages for everybody, one for each drawing. */
export const queryClient = (): QueryClient =>
  typeof window === 'undefined' ? newClient() : (ofThisPage ??= newClient())
