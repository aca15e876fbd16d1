<script setup lang="ts">
import type { Schemas } from '../api/client'
import TextField from '../shared/TextField.vue'

// Where pieces rest. A size that is left empty takes pieces of any.
export type RackForm = Omit<Schemas['Rack'], 'longestMm'> & { longestMm: string }
defineProps<{ fault: (field: string) => string }>()
const racks = defineModel<RackForm[]>({ required: true })

const add = () => racks.value.push({ name: '', places: 12, longestMm: '' })
</script>

<template>
  <p class="quiet">A piece takes a place while it rests, on a rack or shelf that is large enough.</p>
  <ul>
    <li v-for="(rack, i) in racks" :key="i" class="row">
      <TextField v-model="rack.name" label="Rack or shelf" :bare="i > 0" :fault="fault(`[${i}].name`)" maxlength="80" />
      <TextField v-model="rack.places" label="Places" :bare="i > 0" :fault="fault(`[${i}].places`)" numeric />
      <TextField
        v-model="rack.longestMm"
        label="Pieces up to, mm"
        :bare="i > 0"
        :fault="fault(`[${i}].longestMm`)"
        placeholder="any size"
        inputmode="decimal"
        maxlength="8"
      />
      <button
        class="word"
        :class="{ labelled: i === 0 }"
        type="button"
        :aria-label="`take out ${rack.name || 'this rack'}`"
        :disabled="racks.length === 1"
        @click="racks.splice(i, 1)"
      >
        take out
      </button>
    </li>
  </ul>
  <p v-if="fault('')" class="bad" role="alert">{{ fault('') }}</p>
  <button class="side" type="button" @click="add">Add a rack</button>
</template>

<style scoped>
ul {
  display: grid;
  gap: 6px;
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 84px 120px auto;
  gap: 4px 8px;
  align-items: start;
}
.side {
  justify-self: start;
}
.word {
  min-height: 34px;
}
/* beside the field, where its label stands above it */
.labelled {
  margin-top: 26px;
}
@media (max-width: 640px) {
  .row {
    grid-template-columns: 1fr 1fr;
    padding-bottom: 8px;
  }
  .row > :first-child {
    grid-column: 1 / -1;
  }
  .row > .word {
    justify-self: start;
    min-height: 48px;
    margin-top: 0;
  }
}
</style>
