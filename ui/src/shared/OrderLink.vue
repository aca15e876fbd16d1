<script setup lang="ts">
import { seesBusiness } from './settings'
import { useTray } from './tray'

// An order by its customer, which opens it; by its number to whoever works at the bench only.
defineProps<{ id: number; number: number; customer?: string }>()
const { open } = useTray()
</script>

<template>
  <button v-if="seesBusiness" class="word" type="button" @click="open('order', id)">{{ customer }}<slot /></button>
  <span v-else>order {{ number }}<slot /></span>
</template>
