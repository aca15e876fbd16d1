<script setup lang="ts">
import EmptyNote from '../shared/EmptyNote.vue'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useAnswer } from '../api/answers'
import { thisMinute } from '../shared/clock'
import { dateOf, dayName } from '../shared/time'
import PageHead from '../shared/PageHead.vue'
import ThingRow from '../shared/ThingRow.vue'

const PageTurner = defineAsyncComponent(() => import('../shared/PageTurner.vue'))

// The batches that are finished or abandoned, the latest first.
const page = ref(1)
const { data, error } = useAnswer('/api/batches', () => ({ query: { page: page.value } }), { keep: true })
const pages = computed(() => Math.max(1, Math.ceil((data.value?.total ?? 0) / 40)))
</script>

<template>
  <PageHead name="Past batches">
    <RouterLink class="word" to="/notebook/batches/new">Enter one made before</RouterLink>
    <RouterLink class="word" to="/notebook">What went wrong?</RouterLink>
  </PageHead>
  <EmptyNote v-if="error">{{ error.message }}</EmptyNote>
  <EmptyNote v-else-if="data && data.total === 0">
    Batches stand here once they are finished, with what was planned and what was real.
  </EmptyNote>
  <ul v-else-if="data">
    <li v-for="b in data.batches" :key="b.id">
      <ThingRow :id="b.id" kind="batch" class="row">
        <span class="quiet">{{ b.number }}</span>
        <b>{{ b.productName }}</b>
        <span>
          {{ b.state === 'abandoned' ? 'abandoned' : `${b.good} of ${b.pieces} good`
          }}<template v-if="b.spoiled">, {{ b.spoiled }} spoiled</template>
        </span>
        <span class="quiet when">{{ dayName(dateOf(b.closedAt), dateOf(thisMinute)) }}</span>
      </ThingRow>
    </li>
  </ul>
  <PageTurner v-if="data" v-model="page" :pages="pages" :total="data.total" of="batches" />
</template>

<style scoped>
.row {
  grid-template-columns: 44px minmax(0, 1.2fr) minmax(0, 1fr) auto;
  gap: 4px 12px;
  min-height: 48px;
  padding: 6px 0;
}
@media (max-width: 640px) {
  .row {
    grid-template-columns: 36px minmax(0, 1fr);
  }
  .when {
    grid-column: 2;
  }
  .row > :nth-child(3) {
    grid-column: 2;
  }
}
</style>
