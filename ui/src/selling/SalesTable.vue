<script setup lang="ts">
import ColumnTable from '../shared/ColumnTable.vue'
import TextField from '../shared/TextField.vue'
import { written } from '../shared/habit'
import { plainDecimal } from '../shared/reading'
import { ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { amount, amountIfAny } from '../shared/money'
import { say } from '../shared/toast'

// What a piece brings at each way of selling. The price is changed in its place.
const props = defineProps<{ costs: Schemas['Costs'] }>()
const { act, busy, trouble, fault } = useAct()
const typed = ref<Record<number, string>>({})
const asked = ref(0)

type Sale = Schemas['OutletSale']
async function setPrice(sale: Sale, price: string) {
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
  say({ text: `${sale.name}: ${price ? `asks ${written(plainDecimal(price))}` : 'asks what its target comes to'}.` })
}
const faultOf = (outletId: number) =>
  asked.value === outletId && trouble.value ? fault('price') || trouble.value.message : ''
</script>

<template>
  <div class="sales">
    <h2 id="sales">At each way of selling</h2>
    <ColumnTable :rows="costs.sales" name="At each way of selling">
      <el-table-column label="Sold at" min-width="150">
        <template #default="{ row: s }">
          {{ s.name }}<span v-if="s.main" class="quiet"> main</span><br /><span class="quiet">{{ s.target }}</span>
        </template>
      </el-table-column>
      <el-table-column label="Asks" min-width="120">
        <template #default="{ row: s }">
          <TextField
            bare
            inputmode="decimal"
            maxlength="10"
            :label="`Price at ${s.name}`"
            :fault="faultOf(s.outletId)"
            :placeholder="amount(s.proposal)"
            :model-value="typed[s.outletId] ?? (s.set ? amount(s.tag) : '')"
            @update:model-value="typed[s.outletId] = String($event)"
            @change="setPrice(s as Sale, String($event).trim())"
          />
        </template>
      </el-table-column>
      <el-table-column label="Its target comes to" align="right" min-width="110">
        <template #default="{ row: s }">
          {{ amount(s.proposal) }}
          <button
            v-if="s.set && amount(s.tag) !== amount(s.proposal)"
            class="word"
            type="button"
            :disabled="busy"
            @click="setPrice(s as Sale, s.main ? s.proposal : '')"
          >
            take it
          </button>
        </template>
      </el-table-column>
      <el-table-column label="Fees" align="right">
        <template #default="{ row: s }">{{ amount(s.fees) }}</template>
      </el-table-column>
      <el-table-column label="Tax" align="right">
        <template #default="{ row: s }">{{ Number(s.tax) ? amount(s.tax) : '–' }}</template>
      </el-table-column>
      <el-table-column label="Margin" align="right">
        <template #default="{ row: s }"
          ><span :class="{ bad: Number(s.left) < 0 }">{{ written(s.marginPercent) }} %</span></template
        >
      </el-table-column>
      <el-table-column label="An hour earns" align="right">
        <template #default="{ row: s }"
          ><b class="earns">{{ amountIfAny(s.earnedPerHour) }}</b></template
        >
      </el-table-column>
      <el-table-column label="Loses money under" align="right">
        <template #default="{ row: s }"
          ><span :class="{ bad: Number(s.tag) < Number(s.floor) }">{{ amount(s.floor) }}</span></template
        >
      </el-table-column>
      <el-table-column label="Pays your hour from" align="right">
        <template #default="{ row: s }"
          ><span :class="{ bad: Number(s.tag) < Number(s.forYourRate) }">{{ amount(s.forYourRate) }}</span></template
        >
      </el-table-column>
    </ColumnTable>
    <RouterLink to="/products/prices">Ways of selling, price list, a fair’s break-even</RouterLink>
  </div>
</template>

<style scoped>
.sales {
  display: grid;
  gap: 8px;
}
.earns {
  font: 650 19px/1.2 var(--heading);
  color: var(--clay);
}
</style>
