<script setup lang="ts">
import WaitingRows from '../shared/WaitingRows.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import { written } from '../shared/habit'
import { duration } from '../shared/reading'
import { useAnswer } from '../api/answers'
import { amount, amountIfAny, unit } from '../shared/money'
import LevelMark from './LevelMark.vue'
import ProductPicture from './ProductPicture.vue'

const { data: products } = useAnswer('/api/products')
const worst: Record<string, string> = {
  stop: 'a stop to mend or overrule',
  caution: 'something to watch',
  tip: 'a tip',
}
</script>

<template>
  <div class="title">
    <h1>Products</h1>
    <span>
      <RouterLink class="word" to="/products/prices">Prices</RouterLink>
      <RouterLink class="word" to="/products/library">The library of methods</RouterLink>
      <RouterLink class="act" to="/products/new">What can I make?</RouterLink>
    </span>
  </div>
  <EmptyNote v-if="products && products.length === 0">
    Nothing is made here yet. Say what you want to make, and the methods that suit it are ranked, each with its whole
    recipe. <RouterLink to="/products/new">Begin</RouterLink>
  </EmptyNote>
  <ul v-if="products" class="gallery">
    <li v-for="p in products" :key="p.id">
      <RouterLink :to="`/products/${p.id}`" class="piece">
        <ProductPicture
          :name="p.name"
          :blank="p.blank"
          :picture="p.picture"
          :artwork="p.artwork"
          :opaque="p.opaque"
          :own-pictures="p.ownPictures"
        />
        <div>
          <h2>{{ p.name }}</h2>
          <p class="quiet">{{ p.describe }}</p>
          <p v-if="p.worst" class="mark"><LevelMark :level="p.worst" /> {{ worst[p.worst] }}</p>
          <dl>
            <div>
              <dt>an hour earns</dt>
              <dd class="earns">{{ amountIfAny(p.earnedPerHour) }}</dd>
            </div>
            <div>
              <dt>costs</dt>
              <dd>{{ amount(p.cost) }}</dd>
            </div>
            <div>
              <dt>sells at</dt>
              <dd>{{ amount(p.price) }}</dd>
            </div>
            <div>
              <dt>hands a piece</dt>
              <dd>{{ written(p.handsMinutes) }} min</dd>
            </div>
            <div>
              <dt>lay to hand-over</dt>
              <dd>{{ duration(p.layToHandOverMinutes) }}</dd>
            </div>
          </dl>
        </div>
      </RouterLink>
    </li>
  </ul>
  <p v-if="products?.length" class="quiet">In {{ unit() }}, made twelve at a time.</p>
  <WaitingRows v-if="!products" />
</template>

<style scoped>
.title {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 16px;
  margin-bottom: 12px;
}
.title span {
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  gap: 8px 20px;
  align-items: center;
}
.title .act {
  display: inline-flex;
  align-items: center;
  text-decoration: none;
}
.word {
  color: inherit;
}
.gallery {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 380px), 1fr));
  gap: 0 36px;
  margin-bottom: 12px;
}
.piece {
  display: grid;
  grid-template-columns: 104px 1fr;
  gap: 18px;
  height: 100%;
  padding: 16px 0;
  border-top: 1px solid var(--edge);
  color: inherit;
  text-decoration: none;
}
.piece:hover h2 {
  text-decoration: underline;
}
.mark {
  display: flex;
  gap: 6px;
  align-items: center;
  margin-top: 4px;
  font-size: 14px;
}
dl {
  display: grid;
  grid-template-columns: auto auto 1fr;
  gap: 6px 22px;
  margin: 10px 0 0;
}
dl div {
  display: flex;
  flex-direction: column-reverse;
  justify-content: flex-end;
}
dl div:last-child {
  grid-column: span 2;
}
dt {
  font-size: 13px;
  white-space: nowrap;
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
