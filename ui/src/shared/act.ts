import { nextTick, ref } from 'vue'
import { Trouble } from '../api/client'
import { catchUp } from '../api/live'
import { say } from './toast'

// patience is how long to wait before each further try of a change that met a
// server in passing trouble; its key keeps it from being done twice.
const patience = [700, 1500, 3000]

async function insist<T>(change: () => Promise<T>): Promise<T> {
  for (const wait of patience) {
    try {
      return await change()
    } catch (error) {
      if (!(error instanceof Trouble && error.passing)) throw error
      await new Promise((resolve) => setTimeout(resolve, wait))
    }
  }
  return change()
}

// pressed is the button that was pressed last; while its change is on its way it shows that it works.
let pressed: HTMLElement | null = null
if (typeof document !== 'undefined')
  document.addEventListener('click', (e) => (pressed = (e.target as Element | null)?.closest('button') ?? null), true)

// toFirstFault moves the focus to the first field at fault of the form, or the page, that a button sent.
async function toFirstFault(button: HTMLElement | null) {
  await nextTick()
  const sent = button?.closest('form') ?? button?.closest('.tray, main')
  sent?.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus()
}

// useAct runs a change, keeps its trouble beside the form, and lets the pages
// read again what it touched. busy guards against a second press.
export function useAct() {
  const busy = ref(false)
  const trouble = ref<Trouble | null>(null)

  async function act<T>(change: () => Promise<T>): Promise<T | undefined> {
    if (busy.value) return undefined
    busy.value = true
    trouble.value = null
    const button = pressed
    pressed = null
    button?.setAttribute('aria-busy', 'true')
    try {
      const done = await insist(change)
      await catchUp()
      return done
    } catch (error) {
      if (!(error instanceof Trouble)) throw error
      trouble.value = error
      if (Object.keys(error.fields).length) await toFirstFault(button)
      if (error.status === 409) await catchUp()
      return undefined
    } finally {
      busy.value = false
      button?.removeAttribute('aria-busy')
    }
  }

  // tell is act for buttons that have no form: the trouble goes to the foot of the page.
  async function tell<T>(change: () => Promise<T>): Promise<T | undefined> {
    const done = await act(change)
    if (trouble.value) say({ text: trouble.value.message, bad: true })
    return done
  }

  // refuse is for what cannot even be sent.
  async function refuse(field: string, message: string) {
    trouble.value = new Trouble(422, '', message, { [field]: message })
    await toFirstFault(pressed)
  }

  const fault = (field: string) => trouble.value?.fields[field] ?? ''

  return { act, tell, refuse, busy, trouble, fault }
}
