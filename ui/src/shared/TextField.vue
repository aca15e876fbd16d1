<script setup lang="ts">
import { ref, watch } from 'vue'
import { numberIn } from './reading'
import FieldRow from './FieldRow.vue'

// A labelled line of text with its fault beside it. A numeric one gives numbers,
// decimal commas included, and keeps what is not one, saying so; a lazy one
// speaks when the typing is over.
defineOptions({ inheritAttrs: false })
const props = defineProps<{ label: string; fault?: string; hint?: string; numeric?: boolean; lazy?: boolean }>()
const model = defineModel<string | number | undefined>()

// unread is what was typed and is no number, or nothing, with why; typed is what stands there
// while somebody types, however the number is written otherwise.
const unread = ref<{ text: string; fault: string } | null>(null)
const typed = ref<string | null>(null)

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
  <FieldRow v-slot="f" :label="label" :fault="unread?.fault || fault" :hint="hint">
    <el-input
      :id="f.id"
      :inputmode="numeric ? 'decimal' : undefined"
      v-bind="$attrs"
      :model-value="typed ?? unread?.text ?? model ?? ''"
      :aria-describedby="f.described"
      :aria-invalid="f.invalid"
      :validate-event="false"
      @update:model-value="type(String($event))"
      @change="end(String($event))"
      @blur="typed = null"
    />
  </FieldRow>
</template>
