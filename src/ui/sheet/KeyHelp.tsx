'use client'

import { Modal } from 'antd'
import { KEYS } from './useSheetKeys'
import styles from './keys.module.css'

export function KeyHelp({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Modal title="Keys of the sheet" open={open} onCancel={onClose} footer={null} width={640}>
      <dl className={styles.keys}>
        {KEYS.map(({ shown, does }) => (
          <div key={shown}>
            <dt>
              <kbd>{shown}</kbd>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </Modal>
  )
}
