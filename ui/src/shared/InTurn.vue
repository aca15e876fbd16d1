<script setup lang="ts">
import { useTurn } from './idle'

// A part of a long page that comes in its turn while the page loads.
const come = useTurn()
</script>

<template><slot v-if="come" /></template>
