'use client'

import { SettingOutlined } from '@ant-design/icons'
import { Button, Dropdown } from 'antd'
import type { GroundChoice } from '../ground/useGround'
import { usePreferences } from '../preferencesContext'

const GROUNDS: { key: GroundChoice; label: string }[] = [
  { key: 'system', label: 'As the system' },
  { key: 'day', label: 'Light' },
  { key: 'dark', label: 'Dark' },
]

/** How the pages look: on every page, at the same place. */
export function PreferencesMenu() {
  const { preferences, prefer } = usePreferences()
  return (
    <Dropdown
      trigger={['click']}
      menu={{
        selectable: true,
        selectedKeys: [preferences.ground],
        items: [{ type: 'group', key: 'ground', label: 'Ground', children: GROUNDS }],
        onClick: ({ key }) => prefer('ground', key as GroundChoice),
      }}
    >
      <Button type="text" icon={<SettingOutlined />} aria-label="How the pages look" title="How the pages look" />
    </Dropdown>
  )
}
