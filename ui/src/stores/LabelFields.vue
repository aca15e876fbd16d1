<script setup lang="ts">
import TextField from '../shared/TextField.vue'
import { labelFields, labelNames, type LabelText } from './label'
import FieldPair from '../shared/FieldPair.vue'

// What the label of a material says of its rests.
defineProps<{ fault: (field: string) => string }>()
const form = defineModel<LabelText>({ required: true })
</script>

<template>
  <fieldset>
    <legend>On its label</legend>
    <p class="quiet">As 45 min, 8 h or 3 d; empty where it says nothing. Recipes keep to it.</p>
    <FieldPair least="130px">
      <TextField
        v-for="f in labelFields"
        :key="f"
        v-model="form[f]"
        :label="labelNames[f]"
        :fault="fault(f)"
        maxlength="20"
      />
    </FieldPair>
  </fieldset>
</template>

<style scoped>
fieldset {
  display: grid;
  gap: 6px;
}
legend {
  font-size: inherit;
  font-weight: 650;
  color: var(--ink);
}
</style>
