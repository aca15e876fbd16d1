<script setup lang="ts" generic="T extends string | number | undefined">
import { computed } from 'vue'
import FieldRow from './FieldRow.vue'
import { useInTurn } from './inTurn'
import { grouped, type Choice } from './choices'

// One of some things, searched by typing where there are many. Bare, its label is
// heard and not seen. Nothing can be typed before the choices have come: a list that
// is not known to be long takes no letters, and they would be lost.
const props = defineProps<{
  label: string
  choices?: Choice<T>[]
  fault?: string
  hint?: string
  placeholder?: string
  bare?: boolean
  disabled?: boolean
}>()
const model = defineModel<T>({ required: true })

const PickList = useInTurn('list')
const many = 9
const known = computed(() => props.choices ?? [])
// Inside, a choice goes by its place, so that any value can stand for none.
const place = computed({
  get: () => {
    const at = known.value.findIndex((c) => c.value === model.value)
    return at < 0 ? undefined : at
  },
  set: (at) => {
    if (at !== undefined) model.value = known.value[at]!.value
  },
})
const chosen = computed(() => (place.value === undefined ? '' : known.value[place.value]!.name))
const groups = computed(() => grouped(known.value))
</script>

<template>
  <FieldRow v-slot="f" :label="label" :fault="fault" :hint="hint" :bare="bare">
    <component
      :is="PickList"
      v-if="PickList && choices"
      :id="f.id"
      v-model="place"
      :described="`${f.id}-chosen ${f.described ?? ''}`"
      :invalid="f.invalid"
      :groups="groups"
      :chosen="chosen"
      :search="choices.length >= many"
      :placeholder="placeholder ?? 'choose one'"
      :disabled="disabled"
    />
    <p v-else class="coming" aria-hidden="true">{{ chosen || placeholder }}</p>
    <span :id="`${f.id}-chosen`" class="spoken">{{ chosen }}</span>
  </FieldRow>
</template>
