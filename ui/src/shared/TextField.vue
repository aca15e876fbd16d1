<script setup lang="ts">
import { ref } from 'vue'
import FieldRow from './FieldRow.vue'

// A labelled line of text with its fault beside it. A numeric one gives numbers,
// decimal commas included, and keeps what is not one, saying so; a lazy one
// speaks when the typing is over.
defineOptions({ inheritAttrs: false })
const props = defineProps<{ label: string; fault?: string; hint?: string; numeric?: boolean; lazy?: boolean }>()
const model = defineModel<string | number | undefined>()

const unread = ref<string | null>(null)

function take(event: Event) {
  const text = (event.target as HTMLInputElement).value
  const number = Number(text.replace(',', '.'))
  unread.value = props.numeric && Number.isNaN(number) ? text : null
  if (unread.value === null) model.value = props.numeric ? number : text
}
</script>

<template>
  <FieldRow v-slot="f" :label="label" :fault="unread === null ? fault : 'write a number, such as 2.5'" :hint="hint">
    <input
      :id="f.id"
      class="pick"
      :inputmode="numeric ? 'decimal' : undefined"
      v-bind="$attrs"
      :value="unread ?? model"
      :aria-describedby="f.described"
      :aria-invalid="f.invalid"
      @input="lazy || take($event)"
      @change="lazy && take($event)"
    />
  </FieldRow>
</template>
