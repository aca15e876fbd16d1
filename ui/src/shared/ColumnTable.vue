<script setup lang="ts" generic="R extends object">
import { ref, watch } from 'vue'
import { useGradual } from './idle'

// Rows of figures in columns; on a narrow page it is moved sideways. The rows come a few
// at a time and the columns find their widths by them: what jumps until then is not shown.
const props = defineProps<{ rows: R[]; name: string }>()
const emit = defineEmits<{ settled: [] }>()
const settled = ref(false)
const frame = () => new Promise((next) => requestAnimationFrame(next))
const drawn = useGradual(() => props.rows.length, 6)
const whole = () => drawn.value >= props.rows.length
async function settle() {
  if (!whole()) return
  await frame()
  await frame()
  settled.value = true
  emit('settled')
}
watch(whole, settle, { immediate: true, flush: 'post' })
</script>

<template>
  <div class="scroll" :class="{ unsettled: !settled }" tabindex="0" role="region" :aria-label="name">
    <el-table :data="rows.slice(0, drawn)" table-layout="auto"><slot /></el-table>
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
