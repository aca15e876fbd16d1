import { ref } from 'vue'

export interface Toast {
  text: string
  action?: string
  act?: () => Promise<unknown> | void
  bad?: boolean
}

// toast is the one message at the foot of the page.
export const toast = ref<Toast | null>(null)

let timer: ReturnType<typeof setTimeout> | undefined

export function say(message: Toast) {
  toast.value = message
  clearTimeout(timer)
  timer = setTimeout(() => (toast.value = null), message.act ? 12000 : 6000)
}
