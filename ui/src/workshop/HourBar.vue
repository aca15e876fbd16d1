<script setup lang="ts">
import { defineAsyncComponent } from 'vue'
import { useTurn } from '../shared/idle'

// The bar of a stretch of hours, in its turn; its room is kept.
defineProps<{ day: string; hours: { fromMinute: number; toMinute: number } }>()
const emit = defineEmits<{ drag: [ends: number[]] }>()
const HourSlider = defineAsyncComponent(() => import('./HourSlider.vue'))
const come = useTurn()
</script>

<template>
  <div class="room"><HourSlider v-if="come" :day="day" :hours="hours" @drag="emit('drag', $event)" /></div>
</template>

<style scoped>
.room {
  height: 32px;
}
</style>
