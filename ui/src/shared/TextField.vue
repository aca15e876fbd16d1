<script setup lang="ts">
import { ref } from 'vue'
import { numberIn } from './reading'
import FieldRow from './FieldRow.vue'

// A labelled line of text with its fault beside it. A numeric one gives numbers,
// decimal commas included, and keeps what is not one, saying so; a lazy one
// speaks when the typing is over.
defineOptions({ inheritAttrs: false })
const props = defineProps<{ label: string; fault?: string; hint?: string; numeric?: boolean; lazy?: boolean }>()
const model = defineModel<string | number | undefined>()

// unread is what was typed and is no number, with why.
const unread = ref<{ text: string; fault: string } | null>(null)

function take(event: Event) {
  const text = (event.target as HTMLInputElement).value
  if (!props.numeric) {
    model.value = text
    return
  }
  // What is under nothing is a number too; the server says where it may not be.
  const under = /^\s*-/.test(text)
  const read = text.trim() === '' ? { value: 0, fault: '' } : numberIn(text.replace(/^\s*-/, ''))
  unread.value = read.value === null ? { text, fault: read.fault } : null
  if (read.value !== null) model.value = under ? -read.value : read.value
}
</script>

<template>
  <FieldRow v-slot="f" :label="label" :fault="unread?.fault ?? fault" :hint="hint">
    <input
      :id="f.id"
      class="pick"
      :inputmode="numeric ? 'decimal' : undefined"
      v-bind="$attrs"
      :value="unread?.text ?? model"
      :aria-describedby="f.described"
      :aria-invalid="f.invalid"
      @input="lazy || take($event)"
      @change="lazy && take($event)"
    />
  </FieldRow>
</template>
