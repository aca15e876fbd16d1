<script setup lang="ts">
import EmptyNote from '../shared/EmptyNote.vue'
import TextField from '../shared/TextField.vue'
import { computed, nextTick, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useAnswer } from '../api/answers'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import { say } from '../shared/toast'
import SignPicture from './SignPicture.vue'
import PageHead from '../shared/PageHead.vue'
import PickField from '../shared/PickField.vue'

// The troubles guide: from the sign to its cause, what to do now, and next time.
// With a product it offers the change in that product's recipe.
const route = useRoute()
const router = useRouter()
const productId = computed(() => Number(route.query.product) || 0)
const { data: products } = useAnswer('/api/products')
const { data: troubles, error } = useAnswer('/api/troubles', () => ({
  query: productId.value ? { productId: productId.value } : {},
}))
const product = computed(() => products.value?.find((p) => p.id === productId.value))
const sign = computed(() => String(route.query.sign ?? ''))
const shown = computed(() => troubles.value?.find((t) => t.key === sign.value))
const text = ref('')
const found = computed(() => {
  const terms = text.value.toLowerCase().split(/\s+/).filter(Boolean)
  return (troubles.value ?? []).filter((t) =>
    terms.every((term) => `${t.sign} ${t.cause} ${t.now}`.toLowerCase().includes(term)),
  )
})
const { tell, busy } = useAct()
const panel = ref<HTMLElement | null>(null)

const go = (query: Record<string, string | undefined>) => router.replace({ query: { ...route.query, ...query } })
// What was asked for gets the focus, so that a screen reader goes on there.
async function show(key: string) {
  await go({ sign: key })
  await nextTick()
  panel.value?.focus()
}
const pick = (id: number) => go({ product: id ? String(id) : undefined })

async function take() {
  const p = product.value
  const t = shown.value
  if (!p || !t) return
  const saved = await tell(() =>
    answerOf(
      api.POST('/api/products/{id}/troubles/{key}', {
        params: { path: { id: p.id, key: t.key } },
        body: { version: p.version },
      }),
    ),
  )
  if (saved) say({ text: `${saved.name}: recipe ${saved.recipeNumber} does it so from the next batch on.` })
}
</script>

<template>
  <PageHead name="What went wrong?">
    <RouterLink class="word" to="/notebook/batches">Past batches</RouterLink>
    <TextField
      v-model="text"
      bare
      class="find"
      type="search"
      label="Search the signs"
      placeholder="cloudy, peeling, bowed"
      maxlength="60"
    />
    <PickField
      bare
      class="on"
      label="On which product"
      :model-value="productId"
      :choices="
        products
          ? [{ value: 0, name: 'on any product' }, ...products.map((p) => ({ value: p.id, name: p.name }))]
          : undefined
      "
      @update:model-value="pick"
    />
  </PageHead>
  <EmptyNote v-if="error">{{ error.message }}</EmptyNote>
  <div class="guide" :class="{ open: shown }">
    <ul class="signs">
      <li v-for="t in found" :key="t.key">
        <button type="button" :aria-pressed="sign === t.key" @click="show(t.key)">
          <SignPicture :sign="t.key" />
          <span>{{ t.sign }}</span>
        </button>
      </li>
      <li v-if="troubles && found.length === 0" class="quiet">No sign has all of these words.</li>
    </ul>
    <section v-if="shown" ref="panel" class="answer" tabindex="-1" :aria-label="shown.sign">
      <SignPicture :sign="shown.key" class="big" />
      <h2>{{ shown.sign }}</h2>
      <dl>
        <dt>Likely cause</dt>
        <dd>{{ shown.cause }}</dd>
        <dt>Now</dt>
        <dd>{{ shown.now }}</dd>
        <dt>Next time</dt>
        <dd>{{ shown.next }}</dd>
      </dl>
      <template v-if="product">
        <div v-if="shown.offer" class="note glaze">
          <p>
            In the recipe of <RouterLink :to="`/products/${product.id}`">{{ product.name }}</RouterLink>:
            {{ shown.offer }}.
          </p>
          <button class="act" type="button" :disabled="busy" @click="take">Change the recipe so</button>
        </div>
        <p v-else class="quiet">The recipe of {{ product.name }} has no step that would change, or does it already.</p>
      </template>
      <p v-else class="quiet">Say on which product, and its recipe’s change is offered here.</p>
      <button class="word" type="button" @click="go({ sign: undefined })">Close</button>
    </section>
    <p v-else class="quiet hint">
      Pick the sign that looks like it. A white patch just after rubbing is only water: let it dry before you judge.
    </p>
  </div>
</template>

<style scoped>
.find,
.on {
  width: min(100%, 260px);
}
.guide {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 360px;
  gap: 28px;
  align-items: start;
}
.signs {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(128px, 1fr));
  gap: 10px;
}
.signs button {
  display: grid;
  gap: 6px;
  width: 100%;
  height: 100%;
  padding: 10px 8px;
  border: 1px solid transparent;
  border-radius: var(--radius);
  background: none;
  text-align: center;
  justify-items: center;
  align-content: start;
  cursor: pointer;
}
.signs button:hover {
  border-color: var(--edge);
}
.signs button[aria-pressed='true'] {
  border-color: var(--ink);
  background: var(--sheet);
}
.answer {
  display: grid;
  gap: 10px;
  padding: 14px 18px 18px;
  border: 1px solid var(--line);
  border-top: 4px solid var(--straw);
  background: var(--sheet);
  outline-offset: 3px;
}
.big {
  max-width: 128px;
}
dl {
  margin: 0;
}
dt {
  color: var(--soft);
  font-size: 14px;
}
dd {
  margin: 0 0 8px;
}
.note {
  display: grid;
  gap: 10px;
  justify-items: start;
}
.answer > .word {
  justify-self: start;
}
@media (max-width: 900px) {
  .guide {
    grid-template-columns: minmax(0, 1fr);
  }
  .answer,
  .hint {
    order: -1;
  }
}
</style>
