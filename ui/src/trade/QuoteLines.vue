<script setup lang="ts">
import type { Schemas } from '../api/client'
import { fileAt } from '../artwork/said'
import { written } from '../shared/habit'
import { money } from '../shared/money'

// What is offered, with its picture, and what it comes to.
defineProps<{ quote: Schemas['Quote'] }>()
</script>

<template>
  <ul>
    <li v-for="l in quote.lines" :key="l.id">
      <img v-if="l.thumb" :src="fileAt(l.thumb)" alt="" />
      <span v-else />
      <span class="what"
        ><b>{{ l.quantity }} × {{ l.productName }}</b
        ><span v-if="l.lettering.length" class="quiet">{{ l.lettering.join(', ') }}</span></span
      >
      <span>{{ money(l.unitPrice) }} each</span>
    </li>
  </ul>
  <p class="sum">
    <span>To be paid</span><b>{{ money(quote.gross) }}</b>
  </p>
  <p v-if="Number(quote.tax) > 0" class="sum quiet">
    <span>{{ quote.taxInPrice ? 'holds' : 'with' }} {{ written(String(Number(quote.taxPercent))) }} % tax</span
    ><span>{{ money(quote.tax) }}</span>
  </p>
  <p v-if="Number(quote.deposit) > 0" class="sum quiet">
    <span>asked ahead</span><span>{{ money(quote.deposit) }}</span>
  </p>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 40px minmax(0, 1fr) auto;
  gap: 4px 10px;
  align-items: center;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}
img {
  width: 40px;
  height: 40px;
  object-fit: contain;
}
.what {
  display: grid;
  line-height: 1.3;
  overflow-wrap: anywhere;
}
.sum {
  display: flex;
  gap: 12px;
  justify-content: space-between;
}
</style>
