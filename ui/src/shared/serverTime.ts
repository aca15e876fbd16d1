import type { Middleware } from 'openapi-fetch'
import { askedEarly } from '../api/early'
import { setServerTime } from './clock'

const sent = new WeakMap<Request, number>()

// serverTime lets the clock of whatever server answered lead the page's.
export const serverTime: Middleware = {
  onRequest({ request }) {
    sent.set(request, Date.now())
  },
  onResponse({ request, response }) {
    const told = Date.parse(response.headers.get('Date') ?? '')
    const asked = askedEarly(response) ?? sent.get(request)
    if (asked !== undefined && !Number.isNaN(told)) setServerTime(told, asked, Date.now())
  },
}
