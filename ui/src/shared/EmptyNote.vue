<script setup lang="ts">
// Where there is nothing, what that means and where to begin.
</script>

<template>
  <el-empty class="empty" :image-size="0">
    <template #image><i /></template>
    <template #description><slot /></template>
  </el-empty>
</template>
