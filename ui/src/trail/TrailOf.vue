<script setup lang="ts">
import { ref } from 'vue'
import { useAnswer } from '../api/answers'
import EmptyNote from '../shared/EmptyNote.vue'
import WaitingRows from '../shared/WaitingRows.vue'
import TrailList from './TrailList.vue'
import TrailTurn from './TrailTurn.vue'

// The trail of one thing and of all that is part of it.
const props = defineProps<{ about: string; id: number }>()
const before = ref<number[]>([])
const { data, error } = useAnswer(
  '/api/trail',
  () => ({ query: { about: props.about, key: String(props.id), before: before.value.at(-1) } }),
  { keep: true },
)
</script>

<template>
  <EmptyNote v-if="error">{{ error.message }}</EmptyNote>
  <WaitingRows v-else-if="!data" :rows="2" />
  <EmptyNote v-else-if="data.entries.length === 0">Nothing was noted of it since notes are kept.</EmptyNote>
  <TrailList v-else :entries="data.entries" />
  <TrailTurn v-model="before" :older="data?.older" />
</template>
