import type { Middleware } from 'openapi-fetch'
import { ref, watch } from 'vue'

// shut says that the studio asks who this is: nobody has signed in here, or no longer.
export const shut = ref(false)

// What was asked before somebody came in was asked as nobody, and says nothing of who is in.
let comings = 0
const askedAt = new WeakMap<Request, number>()

// letIn opens the door to somebody who has shown who they are.
export function letIn() {
  comings++
  shut.value = false
}

// shuts notes an answer that asks for it.
export const shuts: Middleware = {
  onRequest({ request }) {
    askedAt.set(request, comings)
  },
  onResponse({ request, response }) {
    const late = askedAt.get(request) !== comings
    if (response.status === 401 && !late && !new URL(request.url).pathname.startsWith('/api/sign-in')) shut.value = true
  },
}

// opened waits until somebody is in.
export const opened = () =>
  new Promise<void>((resolve) => {
    if (!shut.value) return resolve()
    const stop = watch(shut, (is) => {
      if (is) return
      stop()
      resolve()
    })
  })
