<script setup lang="ts">
import type { Grouped } from './choices'
import { saidOf } from './said'

// The list of a field to pick from, by the places of its choices.
defineProps<{
  id: string
  described?: string
  invalid?: boolean
  groups: Grouped[]
  chosen: string
  search: boolean
  placeholder: string
  disabled?: boolean
}>()
const place = defineModel<number>()
</script>

<template>
  <el-select
    :id="id"
    v-model="place"
    :filterable="search"
    default-first-option
    :persistent="false"
    :disabled="disabled"
    :placeholder="placeholder"
    no-match-text="Nothing is called that"
    no-data-text="There is nothing to choose"
    @vue:updated="saidOf(id, described, invalid)"
    @vue:mounted="saidOf(id, described, invalid)"
  >
    <template #label>{{ chosen }}</template>
    <template v-for="g in groups" :key="g.name">
      <el-option-group v-if="g.name" :label="g.name">
        <el-option v-for="c in g.at" :key="c.place" :value="c.place" :label="c.name" />
      </el-option-group>
      <template v-else>
        <el-option v-for="c in g.at" :key="c.place" :value="c.place" :label="c.name" />
      </template>
    </template>
  </el-select>
</template>
