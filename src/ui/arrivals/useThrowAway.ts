import { App } from 'antd'
import { say } from '@/messages/say'

/** Asks before something is thrown away that can't be had back. */
export function useThrowAway(what: string, throwAway: () => Promise<unknown>): () => void {
  const { message, modal } = App.useApp()
  return () =>
    void modal.confirm({
      title: say('booth.throwAway', { recording: what }),
      content: say('booth.itWasNeverPut'),
      okText: say('booth.throwItAway'),
      okButtonProps: { danger: true },
      cancelText: say('booth.keepItForNow'),
      onOk: () => throwAway().catch((error: Error) => void message.error(error.message)),
    })
}
