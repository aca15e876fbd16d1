<script setup lang="ts">
import { plainDecimal } from '../shared/reading'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import ClashNote from '../shared/ClashNote.vue'
import { useDraft } from '../shared/draft'
import SaveTrouble from '../shared/SaveTrouble.vue'
import TextField from '../shared/TextField.vue'
import { amount, money, unit } from '../shared/money'

const props = defineProps<{ product: Schemas['Detail'] }>()
const emit = defineEmits<{ saved: [] }>()
const { act, busy, trouble, fault } = useAct()
const { form, version, clashes, keepMine, takeTheirs } = useDraft(
  () => props.product,
  (p) => ({ name: p.name, price: amount(p.price) }),
)

async function save() {
  const body = { ...form.value!, price: plainDecimal(form.value!.price), version: version.value }
  await act(() => answerOf(api.PUT('/api/products/{id}', { params: { path: { id: props.product.id } }, body })))
  if (!trouble.value) emit('saved')
}
</script>

<template>
  <form v-if="form" class="change" novalidate @submit.prevent="save">
    <TextField v-model="form.name" label="Name" :fault="fault('name')" maxlength="120" />
    <TextField
      v-model="form.price"
      :label="`Price, ${unit()}`"
      :fault="fault('price')"
      :hint="`${money(product.draft.targetPrice)} leaves your margin`"
      maxlength="12"
    />
    <button class="act" type="submit" :disabled="busy">Save</button>
    <SaveTrouble :trouble="trouble" />
    <ClashNote
      class="wide"
      :clashes="clashes"
      :names="{ name: 'Name', price: 'Price' }"
      @mine="keepMine"
      @theirs="takeTheirs"
    />
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
.wide {
  grid-column: 1 / -1;
}
@media (max-width: 1000px) {
  .change {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
