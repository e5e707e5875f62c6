import type { useAppProps } from 'antd/es/app/context'
import { say } from '@/messages/say'

/** Says what speaks against laying a reading over its steps, and asks whether to. */
export function askWhetherToLay({ confirm }: useAppProps['modal'], doubt: string): Promise<boolean> {
  return new Promise((resolve) => {
    void confirm({
      title: say('parts.isThisTheRight'),
      content: say('parts.allOfItCan', { doubt }),
      okText: say('parts.layItAllThe'),
      cancelText: say('parts.leaveIt'),
      onOk: () => resolve(true),
      onCancel: () => resolve(false),
    })
  })
}
