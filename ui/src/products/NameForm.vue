<script setup lang="ts">
import { ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import TextField from '../shared/TextField.vue'
import { amount, currency } from '../shared/money'

const props = defineProps<{ product: Schemas['Detail'] }>()
const emit = defineEmits<{ saved: [] }>()
const { act, busy, trouble, fault } = useAct()
const form = ref({ name: props.product.name, price: amount(props.product.price), version: props.product.version })

async function save() {
  await act(() =>
    answerOf(api.PUT('/api/products/{id}', { params: { path: { id: props.product.id } }, body: form.value })),
  )
  if (!trouble.value) emit('saved')
}
// Stale: read what is there now, keep what was typed.
const again = () => {
  form.value.version = props.product.version
  return save()
}
</script>

<template>
  <form class="change" novalidate @submit.prevent="save">
    <TextField v-model="form.name" label="Name" :fault="fault('name')" maxlength="120" />
    <TextField
      v-model="form.price"
      :label="`Price, ${currency}`"
      :fault="fault('price')"
      :hint="`${product.draft.targetPrice} leaves your margin`"
      maxlength="12"
    />
    <button class="act" type="submit" :disabled="busy">Save</button>
    <p v-if="trouble && trouble.status === 409" class="note brick" role="alert">
      {{ trouble.message }} <button class="word" type="button" @click="again">Save mine over it</button>
    </p>
    <p v-else-if="trouble && !Object.keys(trouble.fields).length" class="note brick" role="alert">
      {{ trouble.message }}
    </p>
  </form>
</template>

<style scoped>
.change {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr) auto;
  gap: 12px;
  align-items: start;
  margin-bottom: 14px;
  padding: 12px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
.act {
  margin-top: 24px;
}
.note {
  grid-column: 1 / -1;
}
@media (max-width: 1000px) {
  .change {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
