<script setup lang="ts">
import { computed, defineAsyncComponent, nextTick, onBeforeUnmount, onMounted, onUnmounted, ref } from 'vue'
import { seesBusiness } from '../shared/settings'
import { useTray, type TrayKind } from '../shared/tray'
import { useNarrow } from '../shared/useNarrow'

// The tray shows the thing that is picked, beside the page; on a phone it is a sheet over it.
// What is in it moves from one to the other when the window is turned, with all that was typed.
const props = defineProps<{ kind: TrayKind; thing: number }>()
const { close } = useTray()

const inside = {
  order: defineAsyncComponent(() => import('../orders/OrderTray.vue')),
  customer: defineAsyncComponent(() => import('../customers/CustomerTray.vue')),
  quote: defineAsyncComponent(() => import('../trade/QuoteTray.vue')),
  lot: defineAsyncComponent(() => import('../desk/LotTray.vue')),
  work: defineAsyncComponent(() => import('../planning/WorkTray.vue')),
  ready: defineAsyncComponent(() => import('../planning/ReadyTray.vue')),
  'new-order': defineAsyncComponent(() => import('../orders/NewOrderTray.vue')),
  'new-batch': defineAsyncComponent(() => import('../batches/NewBatchTray.vue')),
  batch: defineAsyncComponent(() => import('../desk/BatchTray.vue')),
  material: defineAsyncComponent(() => import('../stores/MaterialTray.vue')),
  'new-material': defineAsyncComponent(() => import('../stores/NewMaterialTray.vue')),
  receipt: defineAsyncComponent(() => import('../stores/ReceiptTray.vue')),
  shelf: defineAsyncComponent(() => import('../fulfilment/ShelfTray.vue')),
  files: defineAsyncComponent(() => import('../stores/FilesTray.vue')),
  outlet: defineAsyncComponent(() => import('../selling/OutletTray.vue')),
  artwork: defineAsyncComponent(() => import('../artwork/ArtworkTray.vue')),
  'what-if': defineAsyncComponent(() => import('../planning/WhatIfTray.vue')),
  suggestions: defineAsyncComponent(() => import('../planning/SuggestionsTray.vue')),
}
const titles: Record<TrayKind, string> = {
  order: 'Order',
  customer: 'Customer',
  quote: 'Quote',
  lot: 'Lot',
  work: 'In one go',
  ready: 'Rests that end',
  'new-order': 'New order',
  'new-batch': 'New batch',
  batch: 'Batch',
  material: 'Material',
  'new-material': 'New material',
  receipt: 'What you bought',
  shelf: 'Shelf',
  files: 'Import and export',
  outlet: 'Way of selling',
  artwork: 'Picture',
  'what-if': 'What if',
  suggestions: 'Suggested',
}
const NotYours = defineAsyncComponent(() => import('../access/NotYours.vue'))
// what whoever works at the bench only opens too
const ofTheBench: TrayKind[] = ['lot', 'work', 'ready', 'batch']
const content = computed(() => (seesBusiness.value || ofTheBench.includes(props.kind) ? inside[props.kind] : NotYours))
const tray = ref<HTMLElement | null>(null)
const narrow = useNarrow(900)
const AppDrawer = defineAsyncComponent(() => import('./AppDrawer.vue'))
onMounted(() => {
  const before = document.activeElement
  if (before instanceof HTMLElement && before !== document.body && !before.closest('.tray')) opener = before
  tray.value?.focus({ preventScroll: true })
})
const beside = (element: unknown) => {
  if (element instanceof HTMLElement) tray.value = element
}
// Who closes the tray goes on where it was opened.
let focused = false
onBeforeUnmount(() => (focused = tray.value?.contains(document.activeElement) ?? false))
onUnmounted(async () => {
  await nextTick()
  if (!focused || document.querySelector('.tray')) return
  const to = opener?.isConnected ? opener : document.getElementById('page')
  to?.focus({ preventScroll: true })
})
</script>

<script lang="ts">
// opener is what had the focus before a tray was opened, also when one tray led to another.
let opener: HTMLElement | null = null
</script>

<template>
  <AppDrawer v-if="narrow" :name="titles[kind]" @ready="tray = $event" />
  <aside v-else :ref="beside" class="tray" tabindex="-1" :aria-label="titles[kind]" />
  <Teleport v-if="tray" :to="tray">
    <div class="head">
      <span class="quiet">{{ titles[kind] }}</span>
      <button class="word" type="button" @click="close">Close</button>
    </div>
    <component :is="content" :id="thing" @close="close" />
  </Teleport>
</template>

<style>
.tray {
  min-height: calc(100vh - var(--above, 150px));
  padding: 12px 18px 32px;
  background: var(--sheet);
  border-left: 1px solid var(--line);
  outline: none;
}
/* A form with its act at the foot is as high as what it stands beside. */
.tray:has(.footed) {
  position: sticky;
  top: 0;
  display: flex;
  flex-direction: column;
  height: calc(100vh - var(--above, 150px));
  min-height: 0;
  padding-bottom: 0;
}
.sheet.el-drawer {
  border-top: 3px solid var(--clay);
  transition: none;
}
.sheet .el-drawer__body {
  padding: 0;
}
.sheet .tray {
  min-height: 100%;
  padding-bottom: 90px;
  border-left: 0;
}
.sheet .tray:has(.footed) {
  position: static;
  height: 100%;
  padding-bottom: 0;
}
@media (max-width: 640px) {
  /* as high as the sections at the foot of the page */
  .sheet .tray:has(.footed) {
    padding-bottom: 56px;
  }
}
</style>

<style scoped>
.head {
  display: flex;
  align-items: center;
  justify-content: space-between;
  margin-bottom: 8px;
}
</style>
