<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { inks, percent, sizeOf, tones, widest } from './said'

// What a picture's pixels say, with what it means for a print.
const props = defineProps<{ artwork: Schemas['Artwork'] }>()
const bars = computed(() => tones(props.artwork))
const inkList = computed(() =>
  inks(props.artwork)
    .map((i) => `${i.name} ${i.share}`.replaceAll(' ', '\u00a0'))
    .join(' · '),
)
</script>

<template>
  <dl class="facts">
    <dt>Size</dt>
    <dd>
      <b>{{ sizeOf(artwork) }}</b>
    </dd>
    <dt>Sharp</dt>
    <dd>
      <b>up to {{ widest(artwork, 300) }} mm wide</b>
      <span class="quiet">
        acceptable to {{ widest(artwork, 200) }}&nbsp;mm, refused over {{ widest(artwork, 150) }}&nbsp;mm
      </span>
    </dd>
    <dt>Ink</dt>
    <dd>
      <b>{{ inkList }}</b>
      <span class="quiet">{{ artwork.pixels.grey ? 'no colour in it' : 'share of its area, each by itself' }}</span>
    </dd>
    <dt>White</dt>
    <dd>
      <b>{{ percent(artwork.pixels.white) }}</b>
      <span class="quiet">under a clear film, that much shows what it lies on</span>
    </dd>
    <dt>Tones</dt>
    <dd>
      <svg
        class="tones"
        viewBox="0 0 160 28"
        preserveAspectRatio="none"
        role="img"
        :aria-label="`From dark to light: ${artwork.pixels.tones.map(percent).join(', ')}`"
      >
        <rect v-for="(t, i) in bars" :key="i" :x="i * 10" :y="28 - t * 28" width="9" :height="t * 28" />
      </svg>
    </dd>
    <template v-if="artwork.notes.length">
      <dt>Done to it</dt>
      <dd>
        <span v-for="n in artwork.notes" :key="n" class="quiet">{{ n }}</span>
      </dd>
    </template>
  </dl>
</template>

<style scoped>
.facts {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr);
  gap: 8px 12px;
  margin: 4px 0 8px;
}
dt {
  color: var(--soft);
}
dd {
  display: grid;
  margin: 0;
}
.quiet {
  font-size: 14px;
}
.tones {
  display: block;
  width: 160px;
  height: 28px;
  border-bottom: 1px solid var(--edge);
  fill: var(--ink);
}
</style>
