<script setup lang="ts">
// Where a list will stand, when its answer is long in coming; a short wait shows nothing.
withDefaults(defineProps<{ rows?: number }>(), { rows: 6 })
const throttle = { leading: 400, trailing: 0, initVal: true }
</script>

<template>
  <el-skeleton :rows="rows" :throttle="throttle" animated aria-hidden="true" />
</template>
