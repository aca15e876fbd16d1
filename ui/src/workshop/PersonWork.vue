<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import PickField from '../shared/PickField.vue'
import { work } from '../shared/words'

// How quick somebody is, and what they leave to others.
defineProps<{ fault: (field: string) => string }>()
const person = defineModel<Schemas['Person']>({ required: true })

const stages = Object.keys(work) as (keyof typeof work)[]
const paces = [50, 60, 70, 80, 90, 100, 110, 120, 130, 150, 175, 200, 250, 300]
const choices = computed(() =>
  [...new Set([...paces, person.value.pacePercent])]
    .sort((a, b) => a - b)
    .map((value) => ({
      value,
      name: value === 100 ? 'as long as recipes say' : `${value} minutes for a recipe’s 100`,
    })),
)
</script>

<template>
  <PickField v-model="person.pacePercent" label="Work takes them" :fault="fault('pacePercent')" :choices="choices" />
  <fieldset>
    <legend>Leaves to others</legend>
    <el-checkbox-group v-model="person.leaves" class="ticks">
      <el-checkbox v-for="s in stages" :key="s" :value="s">{{ work[s] }}</el-checkbox>
    </el-checkbox-group>
    <p v-if="fault('leaves')" class="bad" role="alert">{{ fault('leaves') }}</p>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
}
legend {
  padding: 0;
}
.ticks {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
}
</style>
