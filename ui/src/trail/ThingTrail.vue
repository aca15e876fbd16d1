<script setup lang="ts">
import { defineAsyncComponent } from 'vue'
import FoldBox from '../shared/FoldBox.vue'
import { seesBusiness } from '../shared/settings'

const TrailOf = defineAsyncComponent(() => import('./TrailOf.vue'))

// Who did what to one thing, read when it is asked for. about is what the trail calls things of its kind.
defineProps<{ about: string; id: number }>()
</script>

<template>
  <FoldBox v-if="seesBusiness" name="Who did what">
    <TrailOf :id="id" :key="id" :about="about" />
  </FoldBox>
</template>
