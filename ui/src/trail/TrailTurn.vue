<script setup lang="ts">
// Older entries, and back to newer ones. The model is where each page began that leads to this one.
defineProps<{ older?: number }>()
const before = defineModel<number[]>({ required: true })
</script>

<template>
  <p v-if="before.length || older" class="turn">
    <button v-if="before.length" class="side" type="button" @click="before = before.slice(0, -1)">Newer</button>
    <button v-if="older" class="side" type="button" @click="before = [...before, older]">Older</button>
  </p>
</template>

<style scoped>
.turn {
  display: flex;
  gap: 10px;
  margin-top: 12px;
}
</style>
