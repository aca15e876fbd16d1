<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useAnswer } from '../api/answers'
import CountField from '../shared/CountField.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import FieldPair from '../shared/FieldPair.vue'
import FoldBox from '../shared/FoldBox.vue'
import PageHead from '../shared/PageHead.vue'
import PickField from '../shared/PickField.vue'
import TextField from '../shared/TextField.vue'
import WaitingRows from '../shared/WaitingRows.vue'
import LabelSheetForm from './LabelSheetForm.vue'

// Labels on the studio's own sheets: prices with a code, an address, or words.
const route = useRoute()
const { data: sheets } = useAnswer('/api/label-sheets')
const { data: outlets } = useAnswer('/api/outlets')
const { data: products } = useAnswer('/api/products')
// All of it comes at once: nothing moves under a finger.
const ready = computed(() => Boolean(sheets.value && outlets.value && products.value))
const order = computed(() => Number(route.query.order) || 0)
const { data: papers } = useAnswer('/api/orders/{id}/papers', () => ({ path: { id: order.value } }), {
  enabled: () => order.value > 0,
})
const what = ref<'prices' | 'address' | 'words'>(order.value ? 'address' : 'prices')
const sheet = ref(0)
watch(
  sheets,
  (list) => {
    if (list && !list.some((s) => s.id === sheet.value)) sheet.value = list[0]?.id ?? 0
  },
  { immediate: true },
)
const chosen = computed(() => sheets.value?.find((s) => s.id === sheet.value))
const gone = ref(0)
const count = ref(1)
const text = ref('')
const outlet = ref(0)
const counts = reactive<Record<number, number>>({})
const whats = computed(() => [
  { value: 'prices' as const, name: 'prices, with a code' },
  ...(order.value ? [{ value: 'address' as const, name: 'the address of an order' }] : []),
  { value: 'words' as const, name: 'words' },
])
const outletChoices = computed(() => (outlets.value ?? []).map((o) => ({ value: o.main ? 0 : o.id, name: o.name })))
const wanted = computed(() =>
  Object.entries(counts)
    .filter(([, n]) => n > 0)
    .map(([id, n]) => `${id}x${n}`)
    .join(','),
)
const total = computed(() =>
  what.value === 'prices' ? Object.values(counts).reduce((all, n) => all + n, 0) : count.value,
)
const asked = computed(
  () => total.value > 0 && (what.value !== 'words' || text.value.trim() !== '') && Boolean(chosen.value),
)
const address = computed(() => {
  const ask = new URLSearchParams({ gone: String(gone.value) })
  if (what.value === 'prices') {
    ask.set('products', wanted.value)
    if (outlet.value) ask.set('outletId', String(outlet.value))
  } else {
    ask.set('count', String(count.value))
    if (what.value === 'address') ask.set('orderId', String(order.value))
    else ask.set('text', text.value)
  }
  return `/api/label-sheets/${sheet.value}/pdf?${ask}`
})
const perSheet = computed(() => (chosen.value ? chosen.value.columns * chosen.value.rows : 1))
const pages = computed(() => Math.ceil((total.value + gone.value) / perSheet.value))
</script>

<template>
  <PageHead name="Labels">
    <template #acts><RouterLink to="/orders">Orders</RouterLink></template>
  </PageHead>
  <WaitingRows v-if="!ready" />
  <EmptyNote v-else-if="sheets?.length === 0">There is no label sheet yet. Say below what its packet says.</EmptyNote>
  <div v-else-if="sheets" class="labels">
    <FieldPair columns="repeat(auto-fit, minmax(220px, 1fr))">
      <PickField v-model="what" label="On the labels" :choices="whats" />
      <PickField v-model="sheet" label="Sheet" :choices="sheets.map((s) => ({ value: s.id, name: s.name }))" />
      <CountField v-model="gone" label="Gone of the first sheet" :most="perSheet - 1" />
    </FieldPair>
    <template v-if="what === 'prices'">
      <PickField v-if="outletChoices.length > 1" v-model="outlet" label="Prices of" :choices="outletChoices" />
      <ul v-if="products?.length">
        <li v-for="p in products" :key="p.id">
          <CountField
            :model-value="counts[p.id] ?? 0"
            :label="p.name"
            :most="500"
            @update:model-value="counts[p.id] = $event"
          />
        </li>
      </ul>
      <EmptyNote v-else-if="products">There is no product to put a price on yet.</EmptyNote>
      <p class="quiet">The code is the product’s: a hand scanner types it, and it stands beside the bars.</p>
    </template>
    <template v-else>
      <p v-if="what === 'address' && papers" class="address">{{ papers.to }}</p>
      <TextField v-if="what === 'words'" v-model="text" label="Words, line by line" :rows="3" maxlength="400" />
      <CountField v-model="count" label="How many" :least="1" :most="1000" />
    </template>
    <p v-if="asked">
      <a class="act" :href="address" target="_blank"
        >{{ total }} {{ total === 1 ? 'label' : 'labels' }} on {{ pages }}
        {{ pages === 1 ? 'sheet' : 'sheets' }} (PDF)</a
      >
    </p>
    <p v-else class="quiet">Say how many of which, and they are laid out.</p>
  </div>
  <FoldBox v-if="ready" name="The sheets">
    <ul class="sheets">
      <li v-for="s in sheets" :key="s.id">
        <FoldBox :name="s.name"><LabelSheetForm :sheet="s" /></FoldBox>
      </li>
      <li>
        <FoldBox name="Another sheet"><LabelSheetForm /></FoldBox>
      </li>
    </ul>
  </FoldBox>
</template>

<style scoped>
.labels {
  display: grid;
  gap: 12px;
  max-width: 760px;
}
.labels ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 10px 18px;
}
.address {
  white-space: pre-line;
}
a.act {
  display: inline-flex;
}
.sheets {
  padding-left: 12px;
}
</style>
