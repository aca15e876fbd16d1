<script setup lang="ts">
import { ref, watch } from 'vue'
import { useTurn, whenIdle } from './idle'

// A part of a long page that comes in its turn while the page loads, or, where it is much
// to load itself, when the page has come to rest.
const props = defineProps<{ atRest?: boolean }>()
const turn = useTurn()
const come = ref(false)
const draw = () => (come.value = true)
watch(turn, (on) => on && (props.atRest ? whenIdle(draw) : draw()), { immediate: true, flush: 'sync' })
</script>

<template><slot v-if="come" /></template>
