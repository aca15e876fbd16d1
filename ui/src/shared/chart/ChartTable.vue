<script setup lang="ts">
import ColumnTable from '../ColumnTable.vue'

// The figures of a chart, row by row.
defineProps<{ name: string; heads: string[]; rows: string[][] }>()
</script>

<template>
  <ColumnTable class="figures" :rows="rows" :name="name">
    <el-table-column v-for="(h, i) in heads" :key="h" :label="h" :align="i ? 'right' : 'left'">
      <template #default="{ row }">{{ row[i] }}</template>
    </el-table-column>
  </ColumnTable>
</template>

<style scoped>
.figures {
  max-height: 260px;
  overflow: auto;
}
</style>
