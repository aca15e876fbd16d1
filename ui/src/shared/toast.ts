import type { MessageHandler } from 'element-plus'
import { h } from 'vue'
import { whenIdle } from './idle'

export interface Toast {
  text: string
  action?: string
  act?: () => Promise<unknown> | void
  bad?: boolean
}

let shown: MessageHandler | undefined

const library = () => import('./message')
whenIdle(() => void library())

// say shows the one message at the foot of the page, over whatever is open, with the way back where there is one.
export function say(toast: Toast) {
  void show(toast)
}

async function show({ text, action, act, bad }: Toast) {
  const { ElMessage } = await library()
  shown?.close()
  const back = () => {
    message.close()
    void act?.()
  }
  const message = ElMessage({
    type: bad ? 'error' : 'info',
    placement: 'bottom',
    // over the sections at the foot of a phone's page
    offset: window.matchMedia('(max-width: 640px)').matches ? 68 : 20,
    duration: act ? 12000 : 6000,
    zIndex: 3000,
    message: () => h('div', [h('span', text), action && h('button', { type: 'button', onClick: back }, action)]),
  })
  shown = message
}
