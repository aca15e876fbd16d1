<script setup lang="ts">
import type { Schemas } from '../api/client'
import ColumnTable from '../shared/ColumnTable.vue'
import { written } from '../shared/habit'
import { amount, amountIfAny } from '../shared/money'
import { useTray } from '../shared/tray'

// Every product in a row, every way of selling in a column.
defineProps<{ list: Schemas['PriceList'] }>()
const emit = defineEmits<{ settled: [] }>()
const { open } = useTray()
type Item = Schemas['PricedItem']
// Every way of selling has its sale in every row, in the same order.
const saleOf = (item: Item, i: number) => item.sales[i]!
</script>

<template>
  <ColumnTable :rows="list.rows" name="Prices" @settled="emit('settled')">
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
</style>
