'use client'

import { WarningOutlined } from '@/ui/parts/icons'
import { Button, Popover } from 'antd'
import { say } from '@/messages/say'
import { useDesk, useLessonState } from './context'
import { setTrouble } from './troubles'
import styles from './header.module.css'

/** What went wrong behind the page, wherever one is; each can be tried again. */
export function Troubles() {
  const { store } = useDesk()
  const troubles = useLessonState((state) => state.troubles)
  if (troubles.size === 0) return null
  const again = (key: string) => {
    const trouble = troubles.get(key)
    setTrouble(store, key, null)
    trouble?.again()
  }
  const list = (
    <section role="dialog" aria-label={say('lesson.whatWentWrong')} className={styles.troubles}>
      <ul>
        {[...troubles].map(([key, { what, why }]) => (
          <li key={key}>
            <p>
              <b>{what}</b> {why}
            </p>
            <Button size="small" onClick={() => again(key)}>
              {say('lesson.tryAgain')}
            </Button>
          </li>
        ))}
      </ul>
      {troubles.size > 1 && (
        <Button size="small" onClick={() => [...troubles.keys()].forEach(again)}>
          {say('lesson.tryAllAgain')}
        </Button>
      )}
    </section>
  )
  return (
    <Popover trigger="click" content={list} destroyOnHidden>
      <Button size="small" danger icon={<WarningOutlined />} data-testid="troubles">
        {troubles.size === 1
          ? say('lesson.somethingWentWrong')
          : say('lesson.thingsWentWrong', { count: troubles.size })}
      </Button>
    </Popover>
  )
}
