<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import FieldRow from '../shared/FieldRow.vue'
import { amount, currency } from '../shared/money'
import { duration } from '../shared/time'
import CostBar from './CostBar.vue'
import CostCurve from './CostCurve.vue'
import ProductPicture from './ProductPicture.vue'
import RecipeStrip from './RecipeStrip.vue'

const route = useRoute()
const id = computed(() => Number(route.params.id))
const { data: product, error } = useQuery({
  queryKey: computed(() => ['product', id.value]),
  queryFn: () => answerOf(api.GET('/api/products/{id}', { params: { path: { id: id.value } } })),
})
const { act, busy, trouble, fault } = useAct()

const changing = ref(false)
const form = ref({ name: '', price: '', version: 0 })
watch(changing, (on) => {
  const p = product.value
  if (on && p) form.value = { name: p.name, price: amount(p.price), version: p.version }
})
async function save() {
  await act(() => answerOf(api.PUT('/api/products/{id}', { params: { path: { id: id.value } }, body: form.value })))
  if (!trouble.value) changing.value = false
}
// Stale: read what is there now, keep what was typed.
const again = () => {
  if (product.value) form.value.version = product.value.version
  return save()
}
</script>

<template>
  <p v-if="error" class="empty">{{ error.message }} <RouterLink to="/products">All products</RouterLink></p>
  <template v-else-if="product">
    <header class="head">
      <ProductPicture :product="product" />
      <div>
        <p class="quiet">{{ product.describe }}</p>
        <h1>{{ product.name }}</h1>
        <p class="quiet">
          Recipe {{ product.recipeNumber }}<template v-if="product.lettered"> · lettering on each piece</template>
        </p>
        <button class="word" type="button" :aria-expanded="changing" @click="changing = !changing">
          Change name or price
        </button>
      </div>
      <dl>
        <div>
          <dd>{{ product.cost }}</dd>
          <dt>costs, in twelves</dt>
        </div>
        <div>
          <dd>{{ amount(product.price) }}</dd>
          <dt>sells at</dt>
        </div>
        <div>
          <dd>{{ product.earnedPerHour || '–' }}</dd>
          <dt>an hour earns</dt>
        </div>
        <div>
          <dd>{{ duration(product.layToHandOverMinutes) }}</dd>
          <dt>lay to hand-over</dt>
        </div>
      </dl>
    </header>
    <form v-if="changing" class="change" novalidate @submit.prevent="save">
      <FieldRow v-slot="f" label="Name" :fault="fault('name')">
        <input
          :id="f.id"
          v-model="form.name"
          class="pick"
          maxlength="120"
          :aria-describedby="f.described"
          :aria-invalid="f.invalid"
        />
      </FieldRow>
      <FieldRow
        v-slot="f"
        :label="`Price, ${currency}`"
        :fault="fault('price')"
        :hint="`${product.targetPrice} leaves your margin`"
      >
        <input
          :id="f.id"
          v-model="form.price"
          class="pick"
          inputmode="decimal"
          maxlength="12"
          :aria-describedby="f.described"
          :aria-invalid="f.invalid"
        />
      </FieldRow>
      <button class="act" type="submit" :disabled="busy">Save</button>
      <p v-if="trouble && trouble.status === 409" class="note brick" role="alert">
        {{ trouble.message }} <button class="word" type="button" @click="again">Save mine over it</button>
      </p>
      <p v-else-if="trouble && !Object.keys(trouble.fields).length" class="note brick" role="alert">
        {{ trouble.message }}
      </p>
    </form>
    <RecipeStrip :steps="product.steps" />
    <div class="three">
      <section>
        <h2>What a piece costs</h2>
        <CostBar :lines="product.lines" />
        <table>
          <tbody>
            <tr v-for="l in product.lines" :key="l.name">
              <th scope="row">
                {{ l.name }} <span class="quiet">{{ l.how }}</span>
              </th>
              <td>{{ l.amount }}</td>
            </tr>
            <tr class="sum">
              <th scope="row">A good piece, in twelves</th>
              <td>{{ product.cost }}</td>
            </tr>
          </tbody>
        </table>
      </section>
      <section>
        <h2>Watch for</h2>
        <ul class="cautions">
          <template v-for="s in product.steps" :key="s.id">
            <li v-for="c in s.cautions" :key="c">
              <b>{{ s.name }}</b><span>{{ c }}</span>
            </li>
          </template>
        </ul>
      </section>
      <section>
        <h2>A bigger lot saves</h2>
        <CostCurve :points="product.curve" />
      </section>
    </div>
  </template>
</template>

<style scoped>
.head {
  display: grid;
  grid-template-columns: 112px 1fr auto;
  gap: 18px;
  align-items: center;
  margin-bottom: 14px;
}
.head h1 {
  font-size: 28px;
}
dl {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 30px;
  margin: 0;
}
dl dd {
  margin: 0;
  font: 650 25px/1.2 var(--heading);
}
dt {
  color: var(--soft);
  font-size: 14px;
}
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
.change .act {
  margin-top: 24px;
}
.change .note {
  grid-column: 1 / -1;
}
.three {
  display: grid;
  grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr) minmax(0, 1fr);
  gap: 24px;
  margin-top: 16px;
}
section {
  display: grid;
  gap: 10px;
  align-content: start;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  padding-right: 12px;
  font-weight: 400;
  text-align: left;
}
td {
  text-align: right;
  vertical-align: top;
}
th,
td {
  padding-block: 5px;
  border-top: 1px solid var(--line);
}
.sum th,
.sum td {
  font-weight: 650;
  border-top-color: var(--ink);
}
.cautions li {
  display: grid;
  gap: 2px;
  padding: 7px 0 7px 12px;
  border-left: 3px solid var(--straw);
}
.cautions li + li {
  margin-top: 8px;
}
@media (max-width: 1000px) {
  .three,
  .head,
  .change {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
