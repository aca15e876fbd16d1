<script setup lang="ts">
import type { Schemas } from '../api/client'
import ChoiceField from '../shared/ChoiceField.vue'
import SlideField from '../shared/SlideField.vue'

// What is done to a picture by hand before it is printed. What it does is seen at once.
const clean = defineModel<Schemas['CleanUp']>({ required: true })
function set(part: Partial<Schemas['CleanUp']>) {
  clean.value = { ...clean.value, ...part }
}
</script>

<template>
  <div class="panel">
    <h2>Clean up</h2>
    <ChoiceField
      :model-value="clean.colours || 'colour'"
      label="Colours"
      bare
      row
      :choices="[
        { value: 'colour', name: 'colour' },
        { value: 'greys', name: 'greys' },
        { value: 'black', name: 'black only' },
        { value: 'lines', name: 'line drawing' },
      ]"
      @update:model-value="set({ colours: $event, threshold: 0 })"
    />
    <SlideField
      v-if="clean.colours === 'black'"
      :model-value="clean.threshold || 128"
      label="Black up to"
      :least="1"
      :most="254"
      @update:model-value="set({ threshold: $event })"
    />
    <SlideField
      v-if="clean.colours === 'lines'"
      :model-value="254 - (clean.threshold || 127)"
      label="Finest lines"
      :least="0"
      :most="253"
      hint="To the left only strong lines stay; to the right pencil shows, and dirt with it."
      @update:model-value="set({ threshold: 254 - $event })"
    />
    <SlideField
      :model-value="clean.light ?? 0"
      label="Light"
      :least="-100"
      :most="100"
      @update:model-value="set({ light: $event })"
    />
    <SlideField
      :model-value="clean.contrast ?? 0"
      label="Contrast"
      :least="-100"
      :most="100"
      @update:model-value="set({ contrast: $event })"
    />
    <SlideField
      v-if="clean.colours !== 'black' && clean.colours !== 'lines'"
      :model-value="clean.nearlyWhite ?? 0"
      label="Nearly white to none"
      :least="0"
      :most="80"
      @update:model-value="set({ nearlyWhite: $event })"
    />
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 8px;
}
</style>
