<script setup lang="ts">
import { plainDecimal } from '../shared/reading'
import { ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { amount } from '../shared/money'
import { say } from '../shared/toast'

// What a piece brings at each way of selling. The price is changed in its place.
const props = defineProps<{ costs: Schemas['Costs'] }>()
const { act, busy, trouble, fault } = useAct()
const typed = ref<Record<number, string>>({})
const asked = ref(0)

async function setPrice(sale: Schemas['OutletSale'], price: string) {
  if (price === (sale.set ? amount(sale.tag) : '')) return
  asked.value = sale.outletId
  const saved = await act(() =>
    answerOf(
      api.PUT('/api/products/{id}/price', {
        params: { path: { id: props.costs.productId } },
        body: { outletId: sale.outletId, price: plainDecimal(price), version: props.costs.version },
      }),
    ),
  )
  if (!saved) return
  delete typed.value[sale.outletId]
  say({ text: `${sale.name}: ${price ? `asks ${plainDecimal(price)}` : 'asks what its target comes to'}.` })
}
const faultOf = (outletId: number) =>
  asked.value === outletId && trouble.value ? fault('price') || trouble.value.message : ''
</script>

<template>
  <div class="sales">
    <h2 id="sales">At each way of selling</h2>
    <div class="scroll" tabindex="0" role="region" aria-labelledby="sales">
      <table>
        <thead>
          <tr>
            <th scope="col">Sold at</th>
            <th scope="col">Asks</th>
            <th scope="col">Its target comes to</th>
            <th scope="col">Fees</th>
            <th scope="col">Tax</th>
            <th scope="col">Margin</th>
            <th scope="col">An hour earns</th>
            <th scope="col">Loses money under</th>
            <th scope="col">Pays your hour from</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in costs.sales" :key="s.outletId">
            <th scope="row">
              {{ s.name }}<span v-if="s.main" class="quiet"> main</span><br /><span class="quiet">{{ s.target }}</span>
            </th>
            <td>
              <input
                class="pick"
                inputmode="decimal"
                maxlength="10"
                :aria-label="`Price at ${s.name}`"
                :aria-invalid="faultOf(s.outletId) ? true : undefined"
                :aria-describedby="faultOf(s.outletId) ? `price-${s.outletId}` : undefined"
                :placeholder="amount(s.proposal)"
                :value="typed[s.outletId] ?? (s.set ? amount(s.tag) : '')"
                @input="typed[s.outletId] = ($event.target as HTMLInputElement).value"
                @change="setPrice(s, ($event.target as HTMLInputElement).value.trim())"
              />
              <p v-if="faultOf(s.outletId)" :id="`price-${s.outletId}`" class="bad" role="alert">
                {{ faultOf(s.outletId) }}
              </p>
            </td>
            <td>
              {{ s.proposal
              }}<button
                v-if="s.set && amount(s.tag) !== amount(s.proposal)"
                class="word"
                type="button"
                :disabled="busy"
                @click="setPrice(s, s.main ? s.proposal : '')"
              >
                take it
              </button>
            </td>
            <td>{{ s.fees }}</td>
            <td>{{ Number(s.tax) ? s.tax : '–' }}</td>
            <td :class="{ bad: Number(s.left) < 0 }">{{ s.marginPercent }} %</td>
            <td class="earns">{{ s.earnedPerHour || '–' }}</td>
            <td :class="{ bad: Number(s.tag) < Number(s.floor) }">{{ s.floor }}</td>
            <td :class="{ bad: Number(s.tag) < Number(s.forYourRate) }">{{ s.forYourRate }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <RouterLink to="/products/prices">Ways of selling, price list, a fair’s break-even</RouterLink>
  </div>
</template>

<style scoped>
.sales {
  display: grid;
  gap: 8px;
}
.scroll {
  overflow-x: auto;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 6px 12px 6px 0;
  border-top: 1px solid var(--line);
  font-weight: 400;
  text-align: right;
  vertical-align: top;
}
thead th {
  border: 0;
  font-size: 13px;
  color: var(--soft);
}
th:first-child {
  text-align: left;
}
.pick {
  width: 5.5em;
  min-height: 34px;
  padding: 3px 8px;
  text-align: right;
}
td .word {
  display: block;
  margin-left: auto;
}
.earns {
  font: 650 19px/1.2 var(--heading);
  color: var(--clay);
}
</style>
