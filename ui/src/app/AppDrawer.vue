<script setup lang="ts">
// The tray on a phone: a sheet over the page, whose sections stay at hand.
defineProps<{ name: string }>()
const emit = defineEmits<{ ready: [inside: HTMLElement] }>()
const ready = (inside: unknown) => {
  if (inside instanceof HTMLElement) emit('ready', inside)
}
</script>

<template>
  <el-drawer
    class="sheet"
    :model-value="true"
    :title="name"
    direction="btt"
    size="calc(100% - 48px)"
    :with-header="false"
    :close-on-press-escape="false"
    :modal="false"
    modal-penetrable
    append-to-body
    :z-index="9"
  >
    <div :ref="ready" class="tray" />
  </el-drawer>
</template>
