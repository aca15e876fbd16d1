<script setup lang="ts">
import WaitingRows from '../shared/WaitingRows.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import { computed } from 'vue'
import { useAnswer } from '../api/answers'
import { amount, money } from '../shared/money'
import { useTray } from '../shared/tray'
import { contents, eachCost } from './shelf'
import ThingRow from '../shared/ThingRow.vue'

// What lies finished: spare pieces that the next order can have at once, and those set aside for orders.
const { open } = useTray()
const { data: rows } = useAnswer('/api/shelf')
const stocked = computed(() => (rows.value ?? []).filter((r) => r.spare + r.setAside > 0))
const bare = computed(() => (rows.value ?? []).filter((r) => r.spare + r.setAside === 0))
const ready = computed(() => ({
  pieces: stocked.value.reduce((sum, r) => sum + r.spare, 0),
  cost: stocked.value.reduce((sum, r) => sum + Number(r.worth), 0),
  brings: stocked.value.reduce((sum, r) => sum + r.spare * Number(r.price), 0),
}))
</script>

<template>
  <section v-if="rows" aria-label="Shelf">
    <EmptyNote v-if="rows.length === 0">Nothing is made here yet. Finished pieces without an order lie here.</EmptyNote>
    <EmptyNote v-else-if="stocked.length === 0">
      Nothing lies finished. Spare pieces of a batch come here when they are done; a count puts on the shelf what you
      had before.
    </EmptyNote>
    <p v-if="ready.pieces" class="ready">
      <b>{{ ready.pieces }} ready to sell.</b> They cost {{ money(ready.cost) }} to make, materials, time and losses,
      and bring {{ money(ready.brings) }} at your prices.
    </p>
    <ul>
      <li v-for="r in stocked" :key="r.productId">
        <ThingRow :id="r.productId" kind="shelf" class="row">
          <span class="name">{{ r.productName }}</span>
          <b class="spare">{{ r.spare ? `${r.spare} spare` : 'none spare' }}</b>
          <span class="from quiet">
            <template v-if="r.groups.length">{{ contents(r.groups) }}</template>
            <template v-if="r.setAside"
              ><br v-if="r.groups.length" />{{ r.setAside }} more set aside for orders</template
            >
          </span>
          <span class="cost">
            sells at {{ amount(r.price) }}<br />
            <span v-if="eachCost(r.groups, amount)" class="quiet">cost {{ eachCost(r.groups, amount) }}</span>
            <span v-else-if="r.spare" class="quiet">cost not noted yet</span>
          </span>
        </ThingRow>
      </li>
    </ul>
    <template v-if="bare.length">
      <h2>None of these</h2>
      <p class="others">
        <button v-for="r in bare" :key="r.productId" type="button" class="word" @click="open('shelf', r.productId)">
          {{ r.productName }}
        </button>
      </p>
    </template>
  </section>
  <WaitingRows v-if="!rows" />
</template>

<style scoped>
h2 {
  margin: 20px 0 6px;
}
ul {
  margin-bottom: 10px;
}
.row {
  grid-template-columns: minmax(9em, 1fr) 6em minmax(12em, 1.6fr) minmax(8em, auto);
  gap: 2px 18px;
  min-height: 52px;
  padding: 6px 0;
}
.ready {
  margin-bottom: 8px;
}
.spare {
  text-align: right;
}
.cost {
  text-align: right;
  line-height: 1.3;
}
.cost .quiet {
  font-size: 14px;
}
.from {
  font-size: 14px;
  line-height: 1.3;
}
.others {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
}
@media (max-width: 640px) {
  .row {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .others .word {
    min-height: 48px;
  }
}
</style>
