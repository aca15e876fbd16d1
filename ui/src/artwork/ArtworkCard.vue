<script setup lang="ts">
import type { Schemas } from '../api/client'
import { fileAt, standing, sharpTo } from './said'

// A picture as it lies on paper, and what one asks of it first.
defineProps<{ artwork: Schemas['Artwork']; picked: boolean }>()
const emit = defineEmits<{ open: [] }>()
</script>

<template>
  <button class="card" type="button" :aria-current="picked || undefined" @click="emit('open')">
    <span class="sheet">
      <img v-if="artwork.thumb" :src="fileAt(artwork.thumb)" alt="" loading="lazy" decoding="async" />
      <span v-else-if="artwork.state === 'reading'" class="quiet">is being read</span>
      <span v-else class="bad">not taken</span>
    </span>
    <b>{{ artwork.title }}</b>
    <span v-if="artwork.state === 'ready'" class="quiet">{{ sharpTo(artwork) }}</span>
    <span v-else-if="artwork.state === 'refused'" class="quiet">{{ artwork.refusal }}</span>
    <span v-if="standing(artwork)" class="owes">{{ standing(artwork) }}</span>
  </button>
</template>

<style scoped>
.card {
  display: grid;
  gap: 3px;
  align-content: start;
  width: 100%;
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.sheet {
  display: grid;
  place-items: center;
  aspect-ratio: 1;
  margin-bottom: 4px;
  padding: 10px;
  border: 1px solid var(--line);
  background: var(--sheet);
  overflow: hidden;
}
.card[aria-current] .sheet,
.card:hover .sheet {
  border-color: var(--ink);
}
img {
  display: block;
  width: 100%;
  height: 100%;
  object-fit: contain;
}
b {
  font-weight: 650;
  overflow-wrap: anywhere;
}
.quiet {
  font-size: 14px;
}
.owes {
  font-size: 14px;
  color: var(--straw);
}
.bad {
  color: var(--brick);
}
</style>
