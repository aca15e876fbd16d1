<script setup lang="ts">
import { ringIn, wake } from './bell'
import { lettersOn, soundOn } from './settings'
import TickBox from './TickBox.vue'

// What this device does, whoever is at it.
function tryIt() {
  wake()
  ringIn(0)
}
</script>

<template>
  <div class="device">
    <TickBox v-model="lettersOn">Single keys act on this device</TickBox>
    <TickBox v-model="soundOn">A sound at the end of short rests</TickBox>
    <button class="side" type="button" @click="tryIt">Hear the sound</button>
  </div>
</template>

<style scoped>
.device {
  display: grid;
  gap: 8px;
  justify-items: start;
}
</style>
