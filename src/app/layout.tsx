import '@fontsource/atkinson-hyperlegible-next/latin-400.css'
import '@fontsource/atkinson-hyperlegible-next/latin-600.css'
import '@fontsource/atkinson-hyperlegible-next/latin-700.css'
import '@fontsource/literata/latin-400.css'
import '@/ui/theme.css'
import { AntdRegistry } from '@ant-design/nextjs-registry'
import type { Metadata } from 'next'
import { cookies, headers } from 'next/headers'
import { connection } from 'next/server'
import type { ReactNode } from 'react'
import '@/messages/onServer'
import { language, say } from '@/messages/say'
import { paletteCss } from '@/ui/ground/palette'
import { NONCE_HEADER } from '@/server/headers'
import { WHOLE_PAGE_SCRIPT } from '@/ui/parts/wholePage'
import { Worded } from '@/ui/parts/Worded'
import { WordsInPage } from '@/ui/parts/WordsInPage'
import { readPreferences } from '@/ui/preferences'
import { Providers } from '@/ui/providers'

export const generateMetadata = (): Metadata => ({
  title: { default: `${say('pages.yourCourses')} · Yarn Step`, template: '%s · Yarn Step' },
  description: say('pages.whatThisIs'),
})

export default async function RootLayout({ children }: { children: ReactNode }) {
  // Every page is made when it is asked for: its scripts carry a number that is used once (see src/server/headers.ts).
  await connection()
  const store = await cookies()
  const nonce = (await headers()).get(NONCE_HEADER) ?? undefined
  const preferences = readPreferences((name) => store.get(name)?.value)
  return (
    <html lang={language()} data-ground={preferences.ground}>
      <head>
        <style>{paletteCss()}</style>
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: WHOLE_PAGE_SCRIPT }} />
        <WordsInPage />
      </head>
      <body>
        <AntdRegistry>
          <Worded>
            <Providers preferences={preferences}>{children}</Providers>
          </Worded>
        </AntdRegistry>
      </body>
    </html>
  )
}
