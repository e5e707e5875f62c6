'use client'

import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { App, ConfigProvider } from 'antd'
import { useState, type ReactNode } from 'react'
import { theme } from './theme'

/** What is said must not lie over Undo, and the places to go to (px). */
const BELOW_HEADER = 58

export function Providers({ children }: { children: ReactNode }) {
  const [client] = useState(
    () => new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } } }),
  )
  return (
    <QueryClientProvider client={client}>
      <ConfigProvider theme={theme}>
        <App message={{ maxCount: 3, top: BELOW_HEADER }} style={{ height: '100%' }}>
          {children}
        </App>
      </ConfigProvider>
    </QueryClientProvider>
  )
}
