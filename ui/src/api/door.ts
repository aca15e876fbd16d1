import type { Middleware } from 'openapi-fetch'
import { ref, watch } from 'vue'

// shut says that the studio asks who this is: nobody has signed in here, or no longer.
export const shut = ref(false)

// shuts notes an answer that asks for it.
export const shuts: Middleware = {
  onResponse({ request, response }) {
    if (response.status === 401 && !new URL(request.url).pathname.startsWith('/api/sign-in')) shut.value = true
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
