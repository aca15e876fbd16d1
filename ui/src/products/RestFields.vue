<script setup lang="ts">
import { exact, minutesIn } from '../shared/reading'
import { ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import TextField from '../shared/TextField.vue'
import TickBox from '../shared/TickBox.vue'
import { restKinds } from '../shared/words'
import FieldPair from '../shared/FieldPair.vue'
import PickField from '../shared/PickField.vue'
import { choicesOf } from '../shared/choices'

// A rest, typed as people say it. What cannot be read stays where it is and says so.
type Rest = Schemas['Rest']
const props = defineProps<{ rest: Rest; fault: (field: string) => string }>()
const emit = defineEmits<{ change: [edit: (r: Rest) => void] }>()

const rows = [
  ['floor', 'Never under', ''],
  ['usual', 'Usually', ''],
  ['ceiling', 'At most', 'no limit'],
] as const
type Field = (typeof rows)[number][0]
const typed = ref<Record<Field, string>>({ floor: '', usual: '', ceiling: '' })
const unread = ref<Partial<Record<Field, string>>>({})
watch(
  () => JSON.stringify(props.rest),
  () => {
    const { floor, usual, ceiling } = props.rest
    typed.value = { floor: exact(floor), usual: exact(usual), ceiling: ceiling === undefined ? '' : exact(ceiling) }
    unread.value = {}
  },
  { immediate: true },
)

function take(field: Field, text: string) {
  const stood = props.rest[field]
  typed.value[field] = text
  if (field === 'ceiling' && text.trim() === '') return emit('change', (r) => delete r.ceiling)
  const minutes = minutesIn(text, stood === undefined ? '' : exact(stood))
  if (minutes === null) unread.value = { ...unread.value, [field]: 'write it as 45 min, 8 h or 1 d 4 h' }
  else emit('change', (r) => (r[field] = minutes))
}
</script>

<template>
  <FieldPair least="84px">
    <TextField
      v-for="[field, label, empty] in rows"
      :key="field"
      lazy
      :label="label"
      :placeholder="empty"
      :fault="unread[field] || fault(field)"
      :model-value="typed[field]"
      @update:model-value="take(field, String($event))"
    />
  </FieldPair>
  <FieldPair least="84px">
    <PickField
      label="To"
      :fault="fault('kind')"
      :model-value="rest.kind"
      :choices="choicesOf(restKinds)"
      @update:model-value="emit('change', (r) => (r.kind = $event as Rest['kind']))"
    />
    <TextField
      v-if="!rest.turner"
      lazy
      numeric
      label="Rack places a piece"
      :fault="fault('rack')"
      :model-value="rest.rack"
      @update:model-value="emit('change', (r) => (r.rack = Math.round(Number($event))))"
    />
  </FieldPair>
  <TickBox small :model-value="rest.turner ?? false" @update:model-value="emit('change', (r) => (r.turner = $event))"
    >each piece turns on a spindle of the turner meanwhile</TickBox
  >
</template>
