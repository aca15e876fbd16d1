<script setup lang="ts">
// The pages of a long list.
defineProps<{ pages: number; total: number; of: string }>()
const page = defineModel<number>({ required: true })
</script>

<template>
  <div v-if="pages > 1" class="turner">
    <el-pagination
      :current-page="page"
      :page-count="pages"
      :pager-count="5"
      layout="prev, pager, next"
      @update:current-page="page = $event"
    />
    <span class="quiet">{{ total }} {{ of }}</span>
  </div>
</template>

<style scoped>
.turner {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
}
</style>
