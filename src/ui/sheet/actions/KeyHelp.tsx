'use client'

import { Modal } from 'antd'
import { shownKeys } from '../../keys'
import { isApple } from '../../system'
import { ACTIONS, GROUPS, type ActionGroup } from './actions'
import styles from './keys.module.css'

/** Every key of the sheet, by what it is for. */
export function KeyHelp({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Modal title="Keys of the sheet" open={open} onCancel={onClose} footer={null} width={860} style={{ top: 24 }}>
      <div className={styles.keys}>
        {Object.entries(GROUPS).map(([group, title]) => (
          <KeyGroup key={group} group={group as ActionGroup} title={title} />
        ))}
      </div>
    </Modal>
  )
}

function KeyGroup({ group, title }: { group: ActionGroup; title: string }) {
  const own = ACTIONS.filter((action) => action.group === group && action.keys.length > 0)
  if (own.length === 0) return null
  return (
    <section>
      <h3>{title}</h3>
      <dl>
        {own.map(({ id, keys, title }) => (
          <div key={id}>
            <dt>
              <kbd>{shownKeys(keys[0]!, isApple())}</kbd>
            </dt>
            <dd>{title}</dd>
          </div>
        ))}
      </dl>
    </section>
  )
}
