import { App } from 'antd'
import { runJob } from '../jobs'
import { useDesk } from './context'

/** What was put into the middle is heard again as it is in its file; undone as any change. */
export function useHearAsInFile(): (media: string) => Promise<void> {
  const { store } = useDesk()
  const { message } = App.useApp()
  return async (media: string) => {
    try {
      const { info } = await runJob<'asInFile'>({ kind: 'asInFile', media })
      store.getState().addMedia([info])
      store.getState().edit({ name: 'swapMedia', media, by: info.hash })
    } catch (error) {
      void message.error((error as Error).message)
    }
  }
}
