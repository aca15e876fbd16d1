<script setup lang="ts">
import type { Schemas } from '../api/client'
import ChoiceField from '../shared/ChoiceField.vue'
import ColourField from '../shared/ColourField.vue'
import FieldPair from '../shared/FieldPair.vue'
import PickField from '../shared/PickField.vue'
import TextField from '../shared/TextField.vue'
import TickBox from '../shared/TickBox.vue'

// The words on the print: in which typeface, how large, where.
defineProps<{ lettered: boolean; fault: (field: string) => string }>()
const design = defineModel<Schemas['Design']>({ required: true })
type Style = NonNullable<Schemas['Design']['lettering']>

const usual: Style = {
  text: '',
  face: 'sans-bold',
  heightMm: 6,
  leastMm: 3.5,
  colour: '#1f1d1a',
  lies: 'straight',
  where: 'below',
  edgeMm: 5,
}
const faces: Record<NonNullable<Style['face']>, string> = {
  sans: 'plain',
  'sans-bold': 'plain, bold',
  condensed: 'plain, narrow',
  serif: 'bookish',
  'serif-bold': 'bookish, bold',
  'serif-italic': 'bookish, slanted',
  mono: 'typewriter',
}
const sizes: { field: 'heightMm' | 'leastMm' | 'edgeMm' | 'haloMm'; label: string }[] = [
  { field: 'heightMm', label: 'Capitals, mm' },
  { field: 'leastMm', label: 'Shrink to, mm' },
  { field: 'edgeMm', label: 'From edge, mm' },
  { field: 'haloMm', label: 'White rim, mm' },
]
function set(part: Partial<Style>) {
  design.value = { ...design.value, lettering: { ...(design.value.lettering ?? usual), ...part } }
}
</script>

<template>
  <div class="panel">
    <h2>Lettering</h2>
    <TickBox
      :model-value="!!design.lettering"
      @update:model-value="design = { ...design, lettering: $event ? usual : undefined }"
      >Words are printed on it</TickBox
    >
    <template v-if="design.lettering">
      <TextField
        :model-value="design.lettering.text || (lettered ? '{name}' : '')"
        label="What stands there"
        :rows="2"
        maxlength="120"
        :fault="fault('lettering.text')"
        hint="One line or several. {name}, {date} (the day it is due) and {number} (which piece of the order) are filled in for each piece."
        @update:model-value="set({ text: String($event) })"
      />
      <PickField
        :model-value="design.lettering.face ?? 'sans-bold'"
        label="Typeface"
        :choices="Object.entries(faces).map(([value, name]) => ({ value: value as NonNullable<Style['face']>, name }))"
        @update:model-value="set({ face: $event })"
      />
      <FieldPair least="130px">
        <TextField
          v-for="size in sizes"
          :key="size.field"
          :model-value="design.lettering[size.field] ?? 0"
          :label="size.label"
          numeric
          :fault="fault(`lettering.${size.field}`)"
          @update:model-value="set({ [size.field]: Number($event) })"
        />
      </FieldPair>
      <ColourField
        :model-value="design.lettering.colour || '#000000'"
        label="Colour"
        :fault="fault('lettering.colour')"
        @update:model-value="set({ colour: $event })"
      />
      <ChoiceField
        :model-value="design.lettering.lies ?? 'straight'"
        label="They run"
        bare
        row
        :choices="[
          { value: 'straight', name: 'straight' },
          { value: 'along', name: 'along the edge' },
        ]"
        @update:model-value="set({ lies: $event })"
      />
      <ChoiceField
        :model-value="design.lettering.where ?? 'below'"
        label="They stand"
        bare
        row
        :choices="[
          { value: 'below', name: 'below' },
          { value: 'above', name: 'above' },
        ]"
        @update:model-value="set({ where: $event })"
      />
    </template>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 10px;
}
</style>
