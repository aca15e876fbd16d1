<script setup lang="ts">
import { defineAsyncComponent, ref } from 'vue'
import { useAnswer } from '../api/answers'
import EmptyNote from '../shared/EmptyNote.vue'
import { unit } from '../shared/money'
import PageHead from '../shared/PageHead.vue'
import { useTray } from '../shared/tray'
import WaitingRows from '../shared/WaitingRows.vue'
import FairCard from './FairCard.vue'

const PriceTable = defineAsyncComponent(() => import('./PriceTable.vue'))

// Every product at every way of selling: what it asks, and what an hour of it earns there.
const { open } = useTray()
const { data: list } = useAnswer('/api/prices')
// What stands under the table comes when the table has its height.
const settled = ref(false)
</script>

<template>
  <PageHead name="Prices">
    <template #acts>
      <a class="word" href="/api/prices/table" download>Whole list as a table</a>
      <button class="side" type="button" @click="open('outlet', 0)">Another way of selling</button>
    </template>
  </PageHead>
  <template v-if="list">
    <EmptyNote v-if="list.rows.length === 0">Nothing is made here yet, so nothing has a price.</EmptyNote>
    <PriceTable v-else :list="list" @settled="settled = true" />
    <p v-if="settled || !list.rows.length" class="quiet">
      In {{ unit() }}, made twelve at a time. What an hour earns is marked where it is under what your hour costs. A
      price is set on the product’s own page of costs.
    </p>
    <FairCard v-if="settled" class="fair" :list="list" />
  </template>
  <WaitingRows v-if="!list" />
</template>

<style scoped>
.fair {
  max-width: 760px;
  margin-top: 24px;
}
</style>
