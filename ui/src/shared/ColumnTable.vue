<script setup lang="ts" generic="R extends object">
import { onMounted, ref } from 'vue'

// Rows of figures in columns; on a narrow page it is moved sideways. The columns find
// their widths when the rows are there already: what jumps until then is not shown.
defineProps<{ rows: R[]; name: string }>()
const emit = defineEmits<{ settled: [] }>()
const settled = ref(false)
const frame = () => new Promise((next) => requestAnimationFrame(next))
onMounted(async () => {
  await frame()
  await frame()
  settled.value = true
  emit('settled')
})
</script>

<template>
  <div class="scroll" :class="{ unsettled: !settled }" tabindex="0" role="region" :aria-label="name">
    <el-table :data="rows" table-layout="auto"><slot /></el-table>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
.unsettled {
  visibility: hidden;
}
</style>
