<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { answerOf, api } from '../api/client'
import { amount, currency } from '../shared/money'
import { duration } from '../shared/time'
import { useTray } from '../shared/tray'
import ProductPicture from './ProductPicture.vue'

const { data: products } = useQuery({ queryKey: ['products'], queryFn: () => answerOf(api.GET('/api/products')) })
const { open } = useTray()
</script>

<template>
  <div class="head">
    <h1>What you make</h1>
    <button class="act" type="button" @click="open('new-product')">New product</button>
  </div>
  <ul class="gallery">
    <li v-for="p in products ?? []" :key="p.id">
      <RouterLink :to="`/products/${p.id}`" class="piece">
        <ProductPicture :product="p" />
        <div>
          <h2>{{ p.name }}</h2>
          <p class="quiet">{{ p.describe }}</p>
          <dl>
            <div>
              <dt>an hour earns</dt>
              <dd class="earns">{{ p.earnedPerHour || '–' }}</dd>
            </div>
            <div>
              <dt>sells at</dt>
              <dd>{{ amount(p.price) }}</dd>
            </div>
            <div>
              <dt>costs</dt>
              <dd>{{ p.cost }}</dd>
            </div>
            <div>
              <dt>hands</dt>
              <dd>{{ p.handsMinutes }} min</dd>
            </div>
            <div>
              <dt>lay to done</dt>
              <dd>{{ duration(p.layToHandOverMinutes) }}</dd>
            </div>
          </dl>
        </div>
      </RouterLink>
    </li>
  </ul>
  <p v-if="products?.length" class="quiet">
    Amounts in {{ currency }}, for a good piece made in twelves, its share of spoils in the cost; what an hour earns is
    after fees. Lay to done is at usual rests.
  </p>
  <div v-if="products && products.length === 0" class="empty">
    <p>What you make stands here, with what it costs and what an hour of it earns.</p>
    <p>Begin with one: its name, its blank’s size, and the recipe is proposed whole.</p>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin-bottom: 12px;
}
.gallery {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 420px), 1fr));
  gap: 0 32px;
  margin-bottom: 12px;
}
.piece {
  display: grid;
  grid-template-columns: 116px 1fr;
  gap: 18px;
  height: 100%;
  padding: 18px 0;
  border-top: 1px solid var(--edge);
  color: inherit;
  text-decoration: none;
}
.piece:hover h2 {
  text-decoration: underline;
}
dl {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(82px, 1fr));
  gap: 6px 10px;
  margin: 10px 0 0;
}
dl div {
  display: flex;
  flex-direction: column-reverse;
}
dt {
  font-size: 13px;
  color: var(--soft);
}
dd {
  margin: 0;
  font-weight: 650;
}
.earns {
  font: 650 21px/1.1 var(--heading);
  color: var(--clay);
}
</style>
