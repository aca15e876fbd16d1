import { computed, reactive, watch } from 'vue'
import { deviceName, personId } from '../shared/settings'
import type { Schemas } from '../api/client'

// Pictures are sent one after the other, each with how far it has come; what is refused
// says why, and what did not get through can be sent again.

export interface Sent {
  file: File
  name: string
  share: number
  state: 'waiting' | 'sending' | 'sent' | 'refused' | 'lost'
  // the picture's number once it is sent
  id?: number
  // what is said of it when it is not sent, or was here already
  says: string
}

const mostBytes = 60 * 2 ** 20

// kinds are what the file dialog offers.
export const kinds = '.png,.jpg,.jpeg,.webp,.heic,.heif,image/png,image/jpeg,image/webp,image/heic'

const queue = reactive<Sent[]>([])
let request: XMLHttpRequest | null = null
let going = false

export function usePutIn() {
  const open = computed(() => queue.filter((s) => s.state === 'waiting' || s.state === 'sending'))
  return { queue, open, put, stop, again, forget }
}

function put(files: Iterable<File>): Sent[] {
  const mine: Sent[] = []
  for (const file of files) {
    const s: Sent = reactive({ file, name: file.name || 'Pasted picture.png', share: 0, state: 'waiting', says: '' })
    if (file.size > mostBytes)
      Object.assign(s, { state: 'refused', says: 'It has more than 60 MB. Save it smaller, as JPEG.' })
    mine.push(s)
  }
  queue.push(...mine)
  void goOn()
  return mine
}

// putAndWait puts files in and waits until none of them is under way any more.
export function putAndWait(files: Iterable<File>): Promise<Sent[]> {
  const mine = put(files)
  const over = () => mine.every((s) => s.state !== 'waiting' && s.state !== 'sending')
  return new Promise((done) => {
    const stopWatching = watch(
      over,
      (is) => {
        if (!is) return
        queueMicrotask(() => stopWatching())
        done(mine)
      },
      { immediate: true },
    )
  })
}

// stop ends what is under way and lets the rest wait no longer.
function stop() {
  for (const s of queue) if (s.state === 'waiting') Object.assign(s, { state: 'lost', says: 'Stopped.' })
  request?.abort()
}

function again(s: Sent) {
  Object.assign(s, { state: 'waiting', says: '', share: 0 })
  void goOn()
}

// forget clears what needs nobody any more, or one that is not wanted.
function forget(one?: Sent) {
  for (let i = queue.length - 1; i >= 0; i--) {
    const s = queue[i]!
    if (one ? s === one : s.state === 'sent') queue.splice(i, 1)
  }
}

async function goOn() {
  if (going) return
  going = true
  for (let next = queue.find((s) => s.state === 'waiting'); next; next = queue.find((s) => s.state === 'waiting'))
    await send(next)
  going = false
}

function send(s: Sent): Promise<void> {
  return new Promise((done) => {
    const x = (request = new XMLHttpRequest())
    s.state = 'sending'
    x.open('POST', `/api/artwork-files?name=${encodeURIComponent(s.name)}`)
    x.setRequestHeader('Content-Type', 'application/octet-stream')
    if (personId.value) x.setRequestHeader('Tidykiln-Person', String(personId.value))
    x.setRequestHeader('Tidykiln-Device', deviceName.value)
    x.upload.onprogress = (e) => e.lengthComputable && (s.share = e.loaded / e.total)
    x.onload = () => Object.assign(s, outcome(x.status, x.responseText))
    x.onerror = () => Object.assign(s, { state: 'lost', says: 'Tidy Kiln was not reached.' })
    x.onabort = () => Object.assign(s, { state: 'lost', says: 'Stopped.' })
    x.onloadend = () => {
      request = null
      done()
    }
    x.send(s.file)
  })
}

// outcome is what an answer makes of a file that was sent.
export function outcome(status: number, answer: string): Pick<Sent, 'state' | 'says' | 'id'> {
  let read: Partial<Schemas['Taken'] & Schemas['Problem']> = {}
  try {
    read = JSON.parse(answer) as typeof read
  } catch {
    // said below
  }
  if (status === 201)
    return { state: 'sent', id: read.id, says: read.already ? `It is here already, as “${read.already}”.` : '' }
  const says = read.detail ?? 'Something went wrong.'
  return { state: status >= 500 || status === 408 ? 'lost' : 'refused', says }
}
