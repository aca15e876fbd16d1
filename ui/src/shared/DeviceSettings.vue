<script setup lang="ts">
import { ringIn, wake } from './bell'
import { lettersOn, lotByLot, soundOn } from './settings'
import SwitchBox from './SwitchBox.vue'

// What this device does, whoever is at it.
function tryIt() {
  wake()
  ringIn(0)
}
</script>

<template>
  <div class="device">
    <SwitchBox v-model="lettersOn">Single keys act on this device</SwitchBox>
    <SwitchBox v-model="lotByLot">Like work lot by lot, not in one sitting</SwitchBox>
    <SwitchBox v-model="soundOn">A sound at the end of short rests</SwitchBox>
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
