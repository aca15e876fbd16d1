import type { Middleware } from 'openapi-fetch'
import { deviceName, personId } from './settings'

// acting says with each request who holds this device, and which it is.
export const acting: Middleware = {
  onRequest({ request }) {
    if (personId.value) request.headers.set('Tidykiln-Person', String(personId.value))
    request.headers.set('Tidykiln-Device', deviceName.value)
  },
}
