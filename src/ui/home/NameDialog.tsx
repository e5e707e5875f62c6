import { Input } from 'antd'
import { useState } from 'react'
import { Dialog } from '../parts/Dialog'

/** Asks for a title. Mounted while it is open. */
export function NameDialog({
  title,
  label,
  now,
  okText,
  onName,
  onClose,
}: {
  title: string
  label: string
  now: string
  okText: string
  onName: (name: string) => Promise<boolean>
  onClose: () => void
}) {
  const [name, setName] = useState(now)
  const [busy, setBusy] = useState(false)
  const done = async () => {
    if (!name.trim()) return
    setBusy(true)
    if (await onName(name.trim())) onClose()
    setBusy(false)
  }
  return (
    <Dialog
      title={title}
      okText={okText}
      okButtonProps={{ disabled: !name.trim(), loading: busy }}
      onOk={() => void done()}
      onCancel={onClose}
    >
      <Input
        autoFocus
        aria-label={label}
        value={name}
        maxLength={200}
        onChange={(event) => setName(event.target.value)}
        onPressEnter={() => void done()}
      />
    </Dialog>
  )
}
