import type { useAppProps } from 'antd/es/app/context'

/** Says what speaks against laying a reading over its steps, and asks whether to. */
export function askWhetherToLay({ confirm }: useAppProps['modal'], doubt: string): Promise<boolean> {
  return new Promise((resolve) => {
    void confirm({
      title: 'Is this the right reading?',
      content: `${doubt} All of it can be laid all the same: what was found at its words, the rest by time.`,
      okText: 'Lay it all the same',
      cancelText: 'Leave it',
      onOk: () => resolve(true),
      onCancel: () => resolve(false),
    })
  })
}
