<script setup lang="ts">
import { nextTick } from 'vue'
import FieldRow from './FieldRow.vue'

// A line of text that offers what was written there before, or what is known.
defineOptions({ inheritAttrs: false })
const props = defineProps<{
  label: string
  offers: string[]
  fault?: string
  hint?: string
  bare?: boolean
  wrong?: boolean
}>()
const model = defineModel<string>({ required: true })

// The list is said of the field while there is one; the library says so of none.
let field: HTMLElement | null = null
async function untie(id: string) {
  await nextTick()
  field = document.getElementById(id)
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
  <FieldRow v-slot="f" :label="label" :fault="fault" :hint="hint" :bare="bare">
    <el-autocomplete
      :id="f.id"
      v-bind="$attrs"
      v-model="model"
      :fetch-suggestions="offer"
      :debounce="0"
      fit-input-width
      :aria-describedby="f.described"
      :aria-invalid="f.invalid || wrong || undefined"
      :validate-event="false"
      @vue:mounted="untie(f.id)"
    />
  </FieldRow>
</template>
