<script setup lang="ts">
import { computed, ref, useAttrs, watch } from 'vue'
import { written } from './habit'
import { numberIn } from './reading'
import FieldRow from './FieldRow.vue'

// A labelled line of text, or an area of several, with its fault beside it. A numeric
// one gives numbers, decimal commas included, and keeps what is not one, saying so; a
// lazy one speaks when the typing is over. Figures stand there with the studio's sign.
defineOptions({ inheritAttrs: false })
const props = defineProps<{
  label: string
  fault?: string
  hint?: string
  numeric?: boolean
  lazy?: boolean
  // rows of an area for several lines
  rows?: number
  bare?: boolean
  wrong?: boolean
}>()
const model = defineModel<string | number | undefined>()

// unread is what was typed and is no number, or nothing, with why; typed is what stands there
// while somebody types, however the number is written otherwise.
const unread = ref<{ text: string; fault: string } | null>(null)
const typed = ref<string | null>(null)

const figures = useAttrs().inputmode === 'decimal' || props.numeric
const stands = computed(() => {
  const value = model.value ?? ''
  return figures && /^-?\d*\.\d+$/.test(String(value)) ? written(String(value)) : value
})

function type(text: string) {
  typed.value = text
  if (!props.lazy) take(text)
}
function end(text: string) {
  typed.value = null
  if (props.lazy) take(text)
}
function take(text: string) {
  if (!props.numeric) {
    model.value = text
    return
  }
  // What is under nothing is a number too; the server says where it may not be.
  const under = /^\s*-/.test(text)
  const empty = text.trim() === ''
  const read = empty ? { value: 0, fault: '' } : numberIn(text.replace(/^\s*-/, ''))
  unread.value = empty || read.value === null ? { text, fault: read.fault } : null
  if (read.value !== null) given = model.value = under ? -read.value : read.value
}
// A number that comes from elsewhere is shown, whatever stood there.
let given = model.value
watch(model, (value) => {
  if (value !== given) unread.value = null
  given = value
})
</script>

<template>
  <FieldRow v-slot="f" :class="$attrs.class" :label="label" :fault="unread?.fault || fault" :hint="hint" :bare="bare">
    <el-input
      :id="f.id"
      :inputmode="numeric ? 'decimal' : undefined"
      :type="rows ? 'textarea' : undefined"
      :rows="rows"
      v-bind="{ ...$attrs, class: undefined }"
      :model-value="typed ?? unread?.text ?? stands"
      :aria-describedby="f.described"
      :aria-invalid="f.invalid || wrong || undefined"
      :validate-event="false"
      @update:model-value="type(String($event))"
      @change="end(String($event))"
      @blur="typed = null"
    />
  </FieldRow>
</template>
