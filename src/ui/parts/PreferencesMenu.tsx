'use client'

import { SettingOutlined } from '@/ui/parts/icons'
import { Button, Dropdown } from 'antd'
import { isLanguage, LANGUAGE_NAMES, LANGUAGES, type Language } from '@/messages/languages'
import { language, say } from '@/messages/say'
import type { GroundChoice } from '../ground/useGround'
import { keepPreference } from '../preferences'
import { usePreferences } from '../preferencesContext'

const grounds = (): { key: GroundChoice; label: string }[] => [
  { key: 'system', label: say('parts.asTheSystem') },
  { key: 'day', label: say('parts.light') },
  { key: 'dark', label: say('parts.dark') },
]

const languages = LANGUAGES.map((key) => ({ key, label: LANGUAGE_NAMES[key] }))

/** Everything in the page is said anew. What is not saved yet is kept in the browser meanwhile. */
function speak(wanted: Language): void {
  keepPreference('language', wanted)
  location.reload()
}

/** How the pages look: on every page, at the same place. */
export function PreferencesMenu() {
  const { preferences, prefer } = usePreferences()
  return (
    <Dropdown
      trigger={['click']}
      menu={{
        selectable: true,
        selectedKeys: [preferences.ground, language()],
        items: [
          { type: 'group', key: 'ground', label: say('parts.ground'), children: grounds() },
          { type: 'group', key: 'language', label: say('parts.language'), children: languages },
        ],
        onClick: ({ key }) => (isLanguage(key) ? speak(key) : prefer('ground', key as GroundChoice)),
      }}
    >
      <Button
        type="text"
        icon={<SettingOutlined />}
        aria-label={say('parts.howThePagesLook')}
        title={say('parts.howThePagesLook')}
      />
    </Dropdown>
  )
}
