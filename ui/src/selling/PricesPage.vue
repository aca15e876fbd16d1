<script setup lang="ts">
import { ref } from 'vue'
import WaitingRows from '../shared/WaitingRows.vue'
import ColumnTable from '../shared/ColumnTable.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import { written } from '../shared/habit'
import { useAnswer } from '../api/answers'
import type { Schemas } from '../api/client'
import { amount, amountIfAny, unit } from '../shared/money'
import { useTray } from '../shared/tray'
import FairCard from './FairCard.vue'
import PageHead from '../shared/PageHead.vue'

// Every product at every way of selling: what it asks, and what an hour of it earns there.
const { open } = useTray()
const { data: list } = useAnswer('/api/prices')
// What stands under the table comes when the table has its height.
const settled = ref(false)
type Item = Schemas['PricedItem']
// Every way of selling has its sale in every row, in the same order.
const saleOf = (item: Item, i: number) => item.sales[i]!
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
    <ColumnTable v-else :rows="list.rows" name="Prices" @settled="settled = true">
      <el-table-column label="Product" min-width="200">
        <template #default="{ row: r }">
          <RouterLink :to="`/products/${r.productId}/costs`">{{ r.name }}</RouterLink>
          <span class="quiet about">{{ written(r.handsMinutes) }} min of hands</span>
        </template>
      </el-table-column>
      <el-table-column label="Costs" align="right" min-width="90">
        <template #default="{ row: r }">{{ amount(r.cost) }}</template>
      </el-table-column>
      <el-table-column v-for="(o, i) in list.outlets" :key="o.id" align="right" min-width="150">
        <template #header>
          <button class="word head" type="button" @click="open('outlet', o.id)">{{ o.name }}</button>
          <br /><a class="quiet head" :href="`/api/prices/list?outletId=${o.id}`" download
            >on paper<span class="spoken">, {{ o.name }}</span></a
          >
        </template>
        <template #default="{ row }">
          <template v-for="s in [saleOf(row as Item, i)]" :key="s.outletId">
            <b :class="{ bad: Number(s.tag) < Number(s.floor) }">{{ amount(s.tag) }}</b>
            <span v-if="!s.set" class="quiet"> proposed</span>
            <span class="hour" :class="{ bad: Number(s.tag) < Number(s.forYourRate) }"
              >{{ amountIfAny(s.earnedPerHour) }} an hour</span
            >
          </template>
        </template>
      </el-table-column>
    </ColumnTable>
    <p v-if="settled || !list.rows.length" class="quiet">
      In {{ unit() }}, made twelve at a time. What an hour earns is marked where it is under what your hour costs. A
      price is set on the product’s own page of costs.
    </p>
    <FairCard v-if="settled" class="fair" :list="list" />
  </template>
  <WaitingRows v-if="!list" />
</template>

<style scoped>
.about,
.hour {
  display: block;
  font-size: 14px;
}
.head {
  display: inline-block;
  min-height: 24px;
}
.fair {
  max-width: 760px;
  margin-top: 24px;
}
</style>
