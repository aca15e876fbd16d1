<script setup lang="ts">
import { computed, defineAsyncComponent, onUnmounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useAnswer } from '../api/answers'
import type { Schemas } from '../api/client'
import DialogBox from '../shared/dialog'

const TextField = defineAsyncComponent(() => import('../shared/TextField.vue'))

const shown = defineModel<boolean>({ required: true })
const opened = ref(false)
const text = ref('')
const router = useRouter()

// What is typed before the dialog has opened is not lost.
function early(event: KeyboardEvent) {
  if (event.key.length !== 1 || event.ctrlKey || event.metaKey || event.altKey) return
  event.preventDefault()
  event.stopImmediatePropagation()
  text.value += event.key
}
const takenOver = () => window.removeEventListener('keydown', early, true)
function follow(open: boolean) {
  takenOver()
  if (!open) return
  opened.value = true
  text.value = ''
  window.addEventListener('keydown', early, true)
}
watch(shown, follow, { immediate: true })
onUnmounted(takenOver)

const { data } = useAnswer('/api/find', () => ({ query: { text: text.value.trim() } }), {
  enabled: () => shown.value && text.value.trim().length > 0,
  keep: true,
})
const found = computed(() => (text.value.trim() ? (data.value ?? []) : []))

function go(f: Schemas['Found']) {
  shown.value = false
  if (f.kind === 'product') return router.push(`/products/${f.id}`)
  if (f.kind === 'order') return router.push({ path: '/orders', query: { tray: `order:${f.id}` } })
  if (f.kind === 'customer') return router.push({ path: '/orders/customers', query: { tray: `customer:${f.id}` } })
  if (f.kind === 'batch') return router.push({ path: '/notebook/batches', query: { tray: `batch:${f.id}` } })
  return router.push({ path: '/plan', query: { tray: `lot:${f.id}` } })
}
</script>

<template>
  <DialogBox v-if="opened" v-model="shown" title="Find" width="520" :z-index="2000">
    <TextField
      v-model="text"
      bare
      type="search"
      maxlength="120"
      label="Find an order, a customer, a name, a batch or a product"
      placeholder="a customer, a name on a piece, a batch"
      autofocus
      @focus="takenOver"
    />
    <ul class="found" aria-live="polite">
      <li v-for="f in found" :key="`${f.kind}${f.id}`">
        <button type="button" @click="go(f)">
          <b>{{ f.title }}</b> <span class="quiet">{{ f.detail }}</span>
        </button>
      </li>
      <li v-if="text.trim() && data && found.length === 0" class="empty">Nothing by that name.</li>
    </ul>
  </DialogBox>
</template>

<style scoped>
.found {
  margin-top: 8px;
  min-height: 180px;
}
.found button {
  width: 100%;
  min-height: 44px;
  padding: 6px 8px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  text-align: left;
  cursor: pointer;
}
.found button:hover {
  background: var(--paper);
}
</style>
