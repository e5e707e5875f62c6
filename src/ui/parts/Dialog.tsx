'use client'

import { Modal, type ModalProps } from 'antd'
import { useEffect, useState } from 'react'

/** A dialog that is there as long as it is open. */
export function Dialog(props: ModalProps) {
  useFocusBack()
  return <Modal open {...props} />
}

/** When it goes, the focus is where it was before, unless what was done has put it elsewhere. */
function useFocusBack(): void {
  // Asked before the dialog takes it.
  const [before] = useState(() => (typeof document === 'undefined' ? null : document.activeElement))
  useEffect(
    () => () => {
      // Not at once: the key that closed the dialog would press the button that opened it.
      setTimeout(() => {
        const now = document.activeElement
        if ((now === null || now === document.body) && before instanceof HTMLElement) before.focus()
      })
    },
    [before],
  )
}
