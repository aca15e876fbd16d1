<script setup lang="ts">
import { defineAsyncComponent, ref, watch } from 'vue'
import { useAnswer } from '../api/answers'
import { thisMinute } from '../shared/clock'
import EmptyNote from '../shared/EmptyNote.vue'
import PageHead from '../shared/PageHead.vue'
import { runs } from '../shared/settings'
import TextField from '../shared/TextField.vue'
import ThingRow from '../shared/ThingRow.vue'
import { dateOf, dayName } from '../shared/time'
import { useTray } from '../shared/tray'
import WaitingRows from '../shared/WaitingRows.vue'

const PageTurner = defineAsyncComponent(() => import('../shared/PageTurner.vue'))

// Who orders: found by any part, with how they are reached and what they like.
const { open } = useTray()
const text = ref('')
const page = ref(1)
watch(text, () => (page.value = 1))
const { data: list } = useAnswer('/api/customers', () => ({ query: { text: text.value, page: page.value } }), {
  keep: true,
})
const had = (orders: number, going: number) =>
  orders === 0 ? 'nothing yet' : `${orders} ${orders === 1 ? 'order' : 'orders'}${going ? `, ${going} under way` : ''}`
</script>

<template>
  <PageHead name="Customers">
    <TextField
      v-model="text"
      bare
      type="search"
      label="Find a customer"
      placeholder="a name, a street, a number, what they like"
      maxlength="120"
      class="find"
    />
    <template #acts>
      <RouterLink to="/orders">Orders</RouterLink>
      <button v-if="runs" class="act" type="button" @click="open('customer', 0)">New customer</button>
    </template>
  </PageHead>
  <WaitingRows v-if="!list" :rows="8" />
  <EmptyNote v-else-if="list.total === 0 && text.trim()">Nobody in whom all of that is found.</EmptyNote>
  <EmptyNote v-else-if="list.total === 0"
    >Whoever orders stands here by name, with what they had and how they are reached. They come with their first
    order.</EmptyNote
  >
  <ul v-else>
    <li v-for="r in list.rows" :key="r.id">
      <ThingRow :id="r.id" kind="customer" class="row">
        <span class="who"
          ><b class="name">{{ r.name }}</b
          ><span class="quiet">{{ r.reach || 'no way to reach them is noted' }}</span></span
        >
        <span class="likes">{{ r.likes }}</span>
        <span class="had"
          ><b>{{ had(r.orders, r.open) }}</b
          ><span v-if="r.lastOn" class="quiet">last {{ dayName(dateOf(r.lastOn), dateOf(thisMinute)) }}</span></span
        >
      </ThingRow>
    </li>
  </ul>
  <PageTurner v-if="list" v-model="page" :pages="list.pages" :total="list.total" of="customers" />
</template>

<style scoped>
.find {
  flex: 1 1 280px;
  max-width: 420px;
}
.row {
  grid-template-columns: minmax(160px, 1.4fr) minmax(110px, 1fr) minmax(150px, 0.9fr);
  gap: 4px 16px;
  min-height: 56px;
  padding: 6px 0;
}
.who,
.had {
  display: grid;
  line-height: 1.3;
}
.had {
  justify-items: end;
  text-align: right;
}
@media (max-width: 640px) {
  .row {
    grid-template-columns: minmax(0, 1fr);
    padding: 10px 0;
  }
  .likes:empty {
    display: none;
  }
  .had {
    display: flex;
    flex-wrap: wrap;
    gap: 0 8px;
    justify-content: flex-start;
    text-align: left;
  }
}
</style>
