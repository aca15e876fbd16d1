<script setup lang="ts" generic="T extends string | undefined">
import type { Choice } from './choices'

// One of a few things, all of them in sight, each with what it means.
defineProps<{
  label: string
  choices: (Choice<T> & { about?: string; colour?: string })[]
  row?: boolean
  bare?: boolean
}>()
const model = defineModel<T>({ required: true })
</script>

<template>
  <div class="choice">
    <p aria-hidden="true" :class="bare ? 'spoken' : row ? 'label' : 'name'">{{ label }}</p>
    <el-radio-group v-model="model" :aria-label="label" :class="{ row }" :validate-event="false">
      <el-radio v-for="c in choices" :key="c.value ?? c.name" :value="c.value">
        <i v-if="c.colour" :style="{ background: c.colour }" aria-hidden="true" /><b>{{ c.name }}</b
        ><span v-if="c.about" class="about">{{ ' ' }}{{ c.about }}</span>
      </el-radio>
    </el-radio-group>
    <slot />
  </div>
</template>

<style scoped>
.choice {
  display: grid;
  gap: 4px;
  align-content: start;
}
.name {
  font: 650 16px var(--heading);
}
.label {
  color: var(--soft);
  font-size: 14px;
}
.el-radio-group {
  display: grid;
  justify-items: start;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0 20px;
}
i {
  display: inline-block;
  width: 16px;
  height: 16px;
  margin-right: 6px;
  border: 1px solid var(--edge);
  vertical-align: -3px;
}
.row b {
  font-weight: 400;
}
.about {
  color: var(--soft);
}
</style>
