<script setup lang="ts" generic="T extends string | number | undefined">
import { computed } from 'vue'
import FieldRow from './FieldRow.vue'
import type { Choice } from './choices'
import { saidOf } from './said'

// One of some things, searched by typing where there are many. Bare, its label is
// heard and not seen.
const props = defineProps<{
  label: string
  choices: Choice<T>[]
  fault?: string
  hint?: string
  placeholder?: string
  bare?: boolean
  disabled?: boolean
}>()
const model = defineModel<T>({ required: true })

const many = 9
// Inside, a choice goes by its place, so that any value can stand for none.
const place = computed({
  get: () => {
    const at = props.choices.findIndex((c) => c.value === model.value)
    return at < 0 ? undefined : at
  },
  set: (at) => {
    if (at !== undefined) model.value = props.choices[at]!.value
  },
})
const chosen = computed(() => (place.value === undefined ? '' : props.choices[place.value]!.name))
const groups = computed(() => {
  const list: { name: string; at: { place: number; name: string }[] }[] = []
  props.choices.forEach((c, i) => {
    const of = list.find((g) => g.name === (c.group ?? ''))
    const at = { place: i, name: c.name }
    if (of) of.at.push(at)
    else list.push({ name: c.group ?? '', at: [at] })
  })
  return list
})
</script>

<template>
  <FieldRow v-slot="f" :label="label" :fault="fault" :hint="hint" :bare="bare">
    <el-select
      :id="f.id"
      v-model="place"
      :filterable="choices.length >= many"
      default-first-option
      :persistent="false"
      :disabled="disabled"
      :placeholder="placeholder ?? 'choose one'"
      no-match-text="Nothing is called that"
      no-data-text="There is nothing to choose"
      @vue:updated="saidOf(f.id, `${f.id}-chosen ${f.described ?? ''}`, f.invalid)"
      @vue:mounted="saidOf(f.id, `${f.id}-chosen ${f.described ?? ''}`, f.invalid)"
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
    <span :id="`${f.id}-chosen`" class="spoken">{{ chosen }}</span>
  </FieldRow>
</template>
