// The frame and each page read the same answers first, whatever comes after. A few
// lines of script ask for them beside the frame (ui/early.ts), so that they are
// there when it is; whoever reads them first takes them.

// What every page reads first, and what each address reads besides; {id} is its number.
export const readFirst = {
  // the revision before all that is made from it
  always: ['/api/me', '/api/revision', '/api/demo-clock', '/api/room', '/api/workshop', '/api/today', '/api/ribbon'],
  // what a helper is not shown, and so does not ask for
  business: ['/api/moved-promises'],
  pages: {
    '/plan': ['/api/plan?days=7'],
    '/orders': ['/api/orders'],
    '/orders/quotes': ['/api/quotes'],
    '/orders/owed': ['/api/owed'],
    '/orders/papers': ['/api/issued-papers'],
    '/orders/labels': ['/api/label-sheets', '/api/outlets', '/api/products'],
    '/workshop/texts': ['/api/message-templates'],
    '/workshop/terms': ['/api/terms', '/api/letterhead'],
    '/orders/customers': ['/api/customers?text=&page=1'],
    '/products': ['/api/products'],
    '/products/new': ['/api/material-names'],
    '/products/library': ['/api/methods'],
    '/products/:id(\\d+)': ['/api/products/{id}'],
    '/products/:id(\\d+)/costs': ['/api/products/{id}/costs?pieces=12', '/api/products'],
    '/products/prices': ['/api/prices'],
    '/prints': ['/api/artworks'],
    '/prints/sheets': ['/api/printable-batches', '/api/print-jobs', '/api/printer'],
    '/prints/design/:id(\\d+)': ['/api/products/{id}/design'],
    '/prints/proof/:id(\\d+)': ['/api/orders/{id}/proof'],
    '/stores': ['/api/materials?text=&page=1', '/api/needs'],
    '/notebook': ['/api/products', '/api/troubles'],
    '/notebook/batches': ['/api/batches?page=1'],
    '/workshop/access': ['/api/house'],
    '/workshop/trail': ['/api/trail'],
    '/workshop/health': ['/api/health'],
  } as Record<string, string[]>,
}

export interface Early {
  // in ms since 1970, by this device
  sent: number
  answer: Promise<Response>
}

declare global {
  interface Window {
    early?: Record<string, Early>
  }
}

// An answer that nobody took in this time, in ms, is not taken any more.
const fresh = 5000

const sentAt = new WeakMap<Response, number>()

// The frame has come. Were it here before those lines, it asks for everything itself, and
// they ask for nothing more: answers that come after are nobody's, and would be taken for
// news later.
if (typeof window !== 'undefined') window.early ??= {}

// What was asked for before a change does not hold after it.
const dropEarly = () => (window.early = {})

// takeEarly gives the answer to a request that was asked for early, once.
export function takeEarly(request: Request): Promise<Response> | undefined {
  if (request.method !== 'GET') {
    dropEarly()
    return undefined
  }
  const { pathname, search } = new URL(request.url)
  const early = window.early?.[pathname + search]
  if (!early) return undefined
  delete window.early![pathname + search]
  if (Date.now() - early.sent > fresh) return undefined
  return early.answer.then((response) => {
    sentAt.set(response, early.sent)
    return response
  })
}

// askedEarly is when an answer was asked for that was taken so; undefined for any other.
export const askedEarly = (response: Response) => sentAt.get(response)
