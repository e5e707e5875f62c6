'use client'

import { QueryClientProvider } from '@tanstack/react-query'
import { App, ConfigProvider } from 'antd'
import type { Locale } from 'antd/es/locale'
import { useEffect, useMemo, useState, type ReactNode } from 'react'
import { language, say } from '@/messages/say'
import { useLastingStyles } from './ground/lastingStyles'
import { GroundContext, useSystemGround, type GroundChoice } from './ground/useGround'
import { PreferencesContext } from './preferencesContext'
import { NewerServer } from './parts/NewerServer'
import { useLostParts } from './parts/useLostParts'
import { keepPreference, type Preferences } from './preferences'
import { queryClient } from './queries'
import { themeOn } from './theme'

/** What is said must not lie over Undo, and the places to go to (px). */
const BELOW_HEADER = 58

/** What ready-made parts say by themselves. */
const partsLocale = (): Locale => ({
  locale: language(),
  global: { close: say('parts.close') },
  Modal: { okText: say('parts.ok'), cancelText: say('parts.cancel'), justOkText: say('parts.ok') },
  Popconfirm: { okText: say('parts.ok'), cancelText: say('parts.cancel') },
  Empty: { description: say('parts.nothingThere') },
})

export function Providers({ preferences: first, children }: { preferences: Preferences; children: ReactNode }) {
  const [client] = useState(queryClient)
  const [preferences, setPreferences] = useState(first)
  const shared = useMemo(
    () => ({
      preferences,
      prefer: <K extends keyof Preferences>(name: K, value: Preferences[K]) => {
        keepPreference(name, value)
        if (name === 'ground') document.documentElement.dataset.ground = value as GroundChoice
        setPreferences((before) => ({ ...before, [name]: value }))
      },
    }),
    [preferences],
  )
  useLastingStyles()
  useLostParts()
  // From here on somebody may do something in it (see parts/wholePage.ts).
  useEffect(() => void (document.documentElement.dataset.isAlive = 'yes'), [])
  const systemGround = useSystemGround(first.systemGround)
  useEffect(() => keepPreference('systemGround', systemGround), [systemGround])
  const ground = preferences.ground === 'system' ? systemGround : preferences.ground
  const theme = useMemo(() => themeOn(ground), [ground])
  const locale = useMemo(() => partsLocale(), [])
  return (
    <QueryClientProvider client={client}>
      <PreferencesContext.Provider value={shared}>
        <GroundContext.Provider value={ground}>
          <ConfigProvider theme={theme} locale={locale}>
            <App message={{ maxCount: 3, top: BELOW_HEADER }} style={{ height: '100%', color: 'var(--ink)' }}>
              <NewerServer />
              {children}
            </App>
          </ConfigProvider>
        </GroundContext.Provider>
      </PreferencesContext.Provider>
    </QueryClientProvider>
  )
}
