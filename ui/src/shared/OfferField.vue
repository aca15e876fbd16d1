<script setup lang="ts">
import FieldRow from './FieldRow.vue'
import { useInTurn } from './inTurn'

// A line of text that offers what was written there before, or what is known.
defineOptions({ inheritAttrs: false })
defineProps<{
  label: string
  offers: string[]
  fault?: string
  hint?: string
  bare?: boolean
  wrong?: boolean
}>()
const model = defineModel<string>({ required: true })
const OfferList = useInTurn('offers')
</script>

<template>
  <FieldRow v-slot="f" :label="label" :fault="fault" :hint="hint" :bare="bare">
    <component
      :is="OfferList"
      v-if="OfferList"
      :id="f.id"
      v-bind="$attrs"
      v-model="model"
      :offers="offers"
      :aria-describedby="f.described"
      :aria-invalid="f.invalid || wrong || undefined"
    />
    <p v-else class="coming">{{ model }}</p>
  </FieldRow>
</template>
