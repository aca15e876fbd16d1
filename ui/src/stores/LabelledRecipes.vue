<script setup lang="ts">
import { useAnswer } from '../api/answers'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import { say } from '../shared/toast'

// Products whose recipes are other than the label of a material they are made with, and the way to follow it.
const props = defineProps<{ id: number }>()
const { act, busy, trouble } = useAct()
const { data: list } = useAnswer('/api/materials/{id}/recipes', () => ({ path: { id: props.id } }))
async function follow() {
  const products = list.value!.map((p) => ({ id: p.productId, version: p.version }))
  await act(() => answerOf(api.POST('/api/recipes/labels', { body: { products } })))
  if (trouble.value) return
  say({ text: 'The recipes are as the labels say. Batches under way keep theirs.' })
}
</script>

<template>
  <section v-if="list?.length" class="note" aria-label="Recipes that are other than the label">
    <p><b>Recipes that are other than the label</b></p>
    <ul>
      <li v-for="p in list" :key="p.productId">
        <RouterLink :to="`/products/${p.productId}`">{{ p.name }}</RouterLink>
        <span class="quiet">by the label: {{ p.changes.join(' · ') }}</span>
      </li>
    </ul>
    <p v-if="trouble" class="bad" role="alert">{{ trouble.message }}</p>
    <button class="side" type="button" :disabled="busy" @click="follow">
      {{ list.length === 1 ? 'Make it as the label says' : `Make all ${list.length} as the label says` }}
    </button>
  </section>
</template>

<style scoped>
ul {
  display: grid;
  gap: 6px;
  margin: 6px 0 10px;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
}
</style>
