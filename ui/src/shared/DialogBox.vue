<script setup lang="ts">
// A dialog, as every one of them is made.
defineOptions({ inheritAttrs: false })
const shown = defineModel<boolean>({ required: true })
</script>

<template>
  <el-dialog v-model="shown" v-bind="$attrs">
    <slot />
    <template v-if="$slots.footer" #footer><slot name="footer" /></template>
  </el-dialog>
</template>
