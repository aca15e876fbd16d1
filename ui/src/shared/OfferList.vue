<script setup lang="ts">
import { nextTick } from 'vue'

// The line of a field that offers, with the list that opens under it.
const props = defineProps<{ id: string; offers: string[] }>()
const model = defineModel<string>({ required: true })

// The list is said of the field while there is one; the library says so of none.
let field: HTMLElement | null = null
async function untie() {
  await nextTick()
  field = document.getElementById(props.id)
  field?.removeAttribute('aria-controls')
  field?.removeAttribute('aria-activedescendant')
}
async function tie() {
  await nextTick()
  const list = field?.closest('.el-autocomplete')?.getAttribute('aria-owns')
  if (list && document.getElementById(list)) field?.setAttribute('aria-controls', list)
}

const most = 40
function offer(typed: string, give: (offers: { value: string }[]) => void) {
  const words = typed.trim().toLowerCase()
  // What stands there whole is no question any more: then all are shown.
  const asked = props.offers.some((o) => o.toLowerCase() === words) ? '' : words
  const found = props.offers.filter((o) => o.toLowerCase().includes(asked))
  give(found.slice(0, most).map((value) => ({ value })))
  void tie()
}
</script>

<template>
  <el-autocomplete
    :id="id"
    v-model="model"
    :fetch-suggestions="offer"
    :debounce="0"
    fit-input-width
    :validate-event="false"
    @vue:mounted="untie"
  />
</template>
