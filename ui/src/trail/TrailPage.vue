<script setup lang="ts">
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useAnswer } from '../api/answers'
import { Trouble } from '../api/client'
import EmptyNote from '../shared/EmptyNote.vue'
import FoldBox from '../shared/FoldBox.vue'
import PageHead from '../shared/PageHead.vue'
import PickField from '../shared/PickField.vue'
import TextField from '../shared/TextField.vue'
import WaitingRows from '../shared/WaitingRows.vue'
import TrailList from './TrailList.vue'
import TrailTurn from './TrailTurn.vue'

const DateField = defineAsyncComponent(() => import('../shared/DateField.vue'))

// Who did what, of everything.
const asked = ref({ about: '', who: '', from: '', to: '' })
// where the pages began that lead to this one
const before = ref<number[]>([])
watch(asked, () => (before.value = []), { deep: true })
const query = computed(() => {
  const { about, who, from, to } = asked.value
  return { about: about || undefined, who: who || undefined, from: from || undefined, to: to || undefined }
})
const { data, error } = useAnswer('/api/trail', () => ({ query: { ...query.value, before: before.value.at(-1) } }), {
  keep: true,
})
const kinds = computed(() => [
  { value: '', name: 'everything' },
  ...(data.value?.kinds ?? []).map((k) => ({ value: k.about, name: k.called })),
])
const faults = computed(() => (error.value instanceof Trouble ? error.value.fields : {}))
const fault = (field: string) => faults.value[field] ?? ''
const table = computed(() => {
  const given = Object.entries(query.value).filter((e): e is [string, string] => e[1] !== undefined)
  return `/api/trail/table?${new URLSearchParams(given)}`
})
</script>

<template>
  <PageHead name="Who did what">
    <template #acts>
      <a class="word" :href="table" download>As a table</a>
      <RouterLink class="word" to="/workshop">The workshop</RouterLink>
    </template>
  </PageHead>
  <FoldBox name="Look for something" :open="Object.values(faults).length > 0">
    <div class="asked">
      <PickField v-model="asked.about" label="About" :fault="fault('about')" :choices="kinds" />
      <TextField v-model="asked.who" label="By whom, or at which device" :fault="fault('who')" maxlength="80" />
      <DateField v-model="asked.from" label="From" :fault="fault('from')" />
      <DateField v-model="asked.to" label="Until" :fault="fault('to')" />
    </div>
  </FoldBox>
  <EmptyNote v-if="error && !Object.keys(faults).length">{{ error.message }}</EmptyNote>
  <WaitingRows v-else-if="!data" :rows="8" />
  <EmptyNote v-else-if="data.entries.length === 0"
    >Nothing of that was written. Every change is noted here, with who made it and at which device.</EmptyNote
  >
  <TrailList v-else :entries="data.entries" />
  <TrailTurn v-model="before" :older="data?.older" />
</template>

<style scoped>
.asked {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(160px, 1fr));
  gap: 10px;
  align-items: end;
}
</style>
