import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

// What the tray shows stands in the address, so that Back closes it and a link opens it.
const kinds = [
  'order',
  'customer',
  'quote',
  'lot',
  'work',
  'ready',
  'new-order',
  'new-batch',
  'batch',
  'material',
  'new-material',
  'receipt',
  'shelf',
  'files',
  'outlet',
  'artwork',
  'what-if',
  'suggestions',
] as const
export type TrayKind = (typeof kinds)[number]

export function useTray() {
  const route = useRoute()
  const router = useRouter()
  const shown = computed(() => {
    const text = String(route.query.tray ?? '')
    const kind = kinds.find((k) => text === k || text.startsWith(`${k}:`))
    return kind ? { kind, id: Number(text.slice(kind.length + 1)) || 0 } : null
  })
  // more says what else of the thing is meant, such as the order that a batch is made up for.
  const open = (kind: TrayKind, id?: number, more: Record<string, string> = {}) =>
    router.push({
      query: {
        ...route.query,
        for: undefined,
        ask: undefined,
        as: undefined,
        ...more,
        tray: id === undefined ? kind : `${kind}:${id}`,
      },
    })
  const close = () =>
    router.push({ query: { ...route.query, for: undefined, ask: undefined, as: undefined, tray: undefined } })
  return { shown, open, close }
}
