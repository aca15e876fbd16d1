<script setup lang="ts">
import { computed, ref } from 'vue'
import { timeOfDay } from './habit'
import OfferField from './OfferField.vue'
import { noTime, timeIn } from './reading'

// A time of day such as 14:10, typed as it is said; the half hours are offered to what is typed.
defineProps<{ label: string; fault?: string; hint?: string; bare?: boolean; wrong?: boolean }>()
const model = defineModel<string>({ required: true })

const typed = ref<string | null>(null)
const unread = ref(false)
const shown = computed(() => typed.value ?? (model.value ? timeOfDay(model.value) : ''))
const halfHours = computed(() =>
  Array.from({ length: 48 }, (_, i) =>
    timeOfDay(`${String(Math.floor(i / 2)).padStart(2, '0')}:${i % 2 ? '30' : '00'}`),
  ),
)
function take() {
  if (typed.value === null) return
  const read = typed.value.trim() === '' ? '' : timeIn(typed.value)
  unread.value = read === null
  if (read === null) return
  typed.value = null
  model.value = read
}
</script>

<template>
  <OfferField
    :label="label"
    :offers="halfHours"
    :model-value="shown"
    :fault="unread ? noTime : fault"
    :hint="hint"
    :bare="bare"
    :wrong="wrong"
    maxlength="12"
    :trigger-on-focus="false"
    autocomplete="off"
    @update:model-value="typed = $event"
    @change="take"
    @select="take"
  />
</template>
