<script setup lang="ts">
import type { Schemas } from '../api/client'
import ChoiceField from '../shared/ChoiceField.vue'
import FieldPair from '../shared/FieldPair.vue'
import TextField from '../shared/TextField.vue'
import TickBox from '../shared/TickBox.vue'

// The print's outline, and where in it the picture lies, in figures.
defineProps<{ stands: boolean; face: { width: number; height: number }; fault: (field: string) => string }>()
const design = defineModel<Schemas['Design']>({ required: true })
type Design = Schemas['Design']

const sides = [
  { field: 'widthMm', label: 'Width, mm' },
  { field: 'heightMm', label: 'Height, mm' },
] as const
const ways = [
  { field: 'turn', label: 'Turned, °' },
  { field: 'xMm', label: 'Right, mm' },
  { field: 'yMm', label: 'Down, mm' },
] as const
const holes = [
  { field: 'xMm', label: 'From left' },
  { field: 'yMm', label: 'From top' },
  { field: 'diameterMm', label: 'Across' },
] as const
function set(part: Partial<Design>) {
  design.value = { ...design.value, ...part }
}
function place(part: Partial<Schemas['Placing']>) {
  set({ placing: { ...design.value.placing, ...part } })
}
</script>

<template>
  <div class="panel">
    <h2>The print</h2>
    <ChoiceField
      :model-value="design.follows || 'blank'"
      label="Its outline"
      bare
      row
      :choices="[
        { value: 'blank', name: 'the blank’s own' },
        { value: 'rectangle', name: 'a rectangle' },
        { value: 'ellipse', name: 'round' },
      ]"
      @update:model-value="
        set({ follows: $event, widthMm: design.widthMm || face.width, heightMm: design.heightMm || face.height })
      "
    />
    <FieldPair v-if="design.follows && design.follows !== 'blank'" least="88px">
      <TextField
        v-for="side in sides"
        :key="side.field"
        :model-value="design[side.field]"
        :label="side.label"
        numeric
        :fault="fault(side.field)"
        @update:model-value="set({ [side.field]: Number($event) })"
      />
    </FieldPair>
    <TextField
      v-else
      :model-value="design.borderMm ?? 0"
      label="Free rim, mm"
      numeric
      :fault="fault('borderMm')"
      hint="Under 0 it bleeds over the edge, to be cut or sanded back."
      @update:model-value="set({ borderMm: Number($event) })"
    />
    <ChoiceField
      :model-value="design.placing.fit || 'fill'"
      label="The picture"
      bare
      row
      :choices="[
        { value: 'fill', name: 'fills it' },
        { value: 'whole', name: 'is in it whole' },
      ]"
      @update:model-value="place({ fit: $event, zoom: 1, xMm: 0, yMm: 0 })"
    />
    <FieldPair least="130px">
      <TextField
        :model-value="Math.round((design.placing.zoom || 1) * 1000) / 10"
        label="Zoom, %"
        numeric
        :fault="fault('placing.zoom')"
        @update:model-value="place({ zoom: Number($event) / 100 })"
      />
      <TextField
        v-for="way in ways"
        :key="way.field"
        :model-value="design.placing[way.field] ?? 0"
        :label="way.label"
        numeric
        :fault="fault(`placing.${way.field}`)"
        @update:model-value="place({ [way.field]: Number($event) })"
      />
    </FieldPair>
    <TickBox
      :model-value="!!design.hole"
      @update:model-value="
        set({ hole: $event ? { xMm: face.width / 2, yMm: Math.min(8, face.height / 4), diameterMm: 4 } : undefined })
      "
      >It has a hole</TickBox
    >
    <FieldPair v-if="design.hole" least="72px">
      <TextField
        v-for="at in holes"
        :key="at.field"
        :model-value="design.hole[at.field]"
        :label="at.label"
        numeric
        :fault="fault(`hole.${at.field}`)"
        @update:model-value="set({ hole: { ...design.hole, [at.field]: Number($event) } })"
      />
    </FieldPair>
    <template v-if="stands">
      <TextField
        v-if="!design.follows || design.follows === 'blank'"
        :model-value="design.seamMm ?? 0"
        label="Over its own beginning, mm"
        numeric
        :fault="fault('seamMm')"
        hint="The seam: how far the end lies over the beginning."
        @update:model-value="set({ seamMm: Number($event) })"
      />
      <TickBox
        :model-value="design.handleMm !== undefined"
        @update:model-value="set({ handleMm: $event ? 0 : undefined })"
        >It has a handle</TickBox
      >
      <TextField
        v-if="design.handleMm !== undefined"
        :model-value="design.handleMm"
        label="Handle, mm from the left end"
        numeric
        :fault="fault('handleMm')"
        hint="The dotted line is the place opposite it."
        @update:model-value="set({ handleMm: Number($event) })"
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
