<script setup lang="ts">
import { ref, watch } from 'vue'

// What is read when it is asked for: its name stands, and opens it. Nothing of it is made before.
const props = defineProps<{ name: string; open?: boolean }>()
const shown = ref(props.open ? ['it'] : [])
const made = ref(props.open)
watch(shown, (names) => {
  if (names.length) made.value = true
})
watch(
  () => props.open,
  (open) => {
    if (open) shown.value = ['it']
  },
)
</script>

<template>
  <el-collapse v-model="shown">
    <el-collapse-item name="it">
      <template #title
        ><slot name="name">{{ name }}</slot></template
      >
      <slot v-if="made" />
    </el-collapse-item>
  </el-collapse>
</template>
