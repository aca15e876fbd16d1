<script setup lang="ts">
import { useAnswer } from '../api/answers'
import { currency } from '../shared/money'
import { useTray } from '../shared/tray'
import FairCard from './FairCard.vue'
import PageHead from '../shared/PageHead.vue'

// Every product at every way of selling: what it asks, and what an hour of it earns there.
const { open } = useTray()
const { data: list } = useAnswer('/api/prices')
</script>

<template>
  <PageHead name="Prices">
    <template #acts>
      <a class="word" href="/api/prices/table" download>Whole list as a table</a>
      <button class="side" type="button" @click="open('outlet', 0)">Another way of selling</button>
    </template>
  </PageHead>
  <template v-if="list">
    <p v-if="list.rows.length === 0" class="empty">Nothing is made here yet, so nothing has a price.</p>
    <div class="scroll" tabindex="0" role="region" aria-label="Prices">
      <table>
        <thead>
          <tr>
            <th scope="col">Product</th>
            <th scope="col">Costs</th>
            <th v-for="o in list.outlets" :key="o.id" scope="col">
              <button class="word" type="button" @click="open('outlet', o.id)">{{ o.name }}</button>
              <br /><a class="quiet" :href="`/api/prices/list?outletId=${o.id}`" download
                >on paper<span class="spoken">, {{ o.name }}</span></a
              >
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in list.rows" :key="r.productId">
            <th scope="row">
              <RouterLink :to="`/products/${r.productId}/costs`">{{ r.name }}</RouterLink>
              <span class="quiet about">{{ r.handsMinutes }} min of hands</span>
            </th>
            <td>{{ r.cost }}</td>
            <td v-for="s in r.sales" :key="s.outletId">
              <b :class="{ bad: Number(s.tag) < Number(s.floor) }">{{ s.tag }}</b>
              <span v-if="!s.set" class="quiet"> proposed</span>
              <span class="hour" :class="{ bad: Number(s.tag) < Number(s.forYourRate) }"
                >{{ s.earnedPerHour || '–' }} an hour</span
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="quiet">
      In {{ currency }}, made twelve at a time. What an hour earns is marked where it is under what your hour costs. A
      price is set on the product’s own page of costs.
    </p>
    <FairCard v-if="list.rows.length" class="fair" :list="list" />
  </template>
</template>

<style scoped>
.scroll {
  margin: 10px 0;
  overflow-x: auto;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 6px 0 6px 18px;
  border-top: 1px solid var(--line);
  font-weight: 400;
  text-align: right;
  vertical-align: top;
}
th:first-child {
  padding-left: 0;
  text-align: left;
}
thead th {
  border: 0;
  vertical-align: bottom;
}
.about,
.hour {
  display: block;
  font-size: 14px;
}
thead a {
  display: inline-block;
  min-height: 24px;
  padding: 2px 0;
}
.fair {
  max-width: 760px;
  margin-top: 24px;
}
</style>
