<script setup lang="ts">
import FieldRow from './FieldRow.vue'

// A labelled line of text with its fault beside it. A numeric one gives numbers,
// decimal commas included; a lazy one speaks when the typing is over.
defineOptions({ inheritAttrs: false })
const props = defineProps<{ label: string; fault?: string; hint?: string; numeric?: boolean; lazy?: boolean }>()
const model = defineModel<string | number | undefined>()

function take(event: Event) {
  const text = (event.target as HTMLInputElement).value
  model.value = props.numeric ? Number(text.replace(',', '.')) : text
}
</script>

<template>
  <FieldRow v-slot="f" :label="label" :fault="fault" :hint="hint">
    <input
      :id="f.id"
      class="pick"
      :inputmode="numeric ? 'decimal' : undefined"
      v-bind="$attrs"
      :value="model"
      :aria-describedby="f.described"
      :aria-invalid="f.invalid"
      @input="lazy || take($event)"
      @change="lazy && take($event)"
    />
  </FieldRow>
</template>
