<script setup lang="ts" generic="R extends object">
// Rows of figures in columns; on a narrow page it is moved sideways.
defineProps<{ rows: R[]; name: string }>()
</script>

<template>
  <div class="scroll" tabindex="0" role="region" :aria-label="name">
    <el-table :data="rows" table-layout="auto"><slot /></el-table>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
</style>
